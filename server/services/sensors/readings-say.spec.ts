import { describe, expect, it } from 'vitest';
import { impedanceOf } from '@frustum/core';
import { LiveHub } from '../../channels/live-hub.ts';
import type { Store } from '../../store/commands/index.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { backInWater, livelyOf } from './readings-say.ts';

const NOW = Date.parse('2026-11-25T12:00:00Z');

describe('what readings say', () => {
  it('knows who is at the bench, and who came back from there too short a while ago', async () => {
    const before = (minutes: number) => new Date(NOW - 60_000 * minutes).toISOString();
    const asked: string[] = [];
    const backMs = await backInWater({
      now: () => NOW,
      store: {
        readBenchedSince: (since: string) => {
          asked.push(since);
          return Promise.resolve(
            new Map([
              ['a', 'now'],
              ['b', before(4)],
            ]),
          );
        },
      } as unknown as Store,
    });
    expect(asked).toEqual([before(15)]);
    expect(backMs('a')).toBe(Infinity);
    expect(backMs('b')).toBe(NOW + 60_000);
    expect(backMs('c')).toBe(-Infinity);
    // What the transmitter measured in air and cups is not the water's.
    let nowMs = NOW;
    const hub = new LiveHub(() => nowMs);
    const measures = (membraneMohm: number) =>
      hub.publish({
        event: 'sample',
        data: {
          channelId: 'c',
          t: 0,
          epoch: 'e',
          signal: 0,
          unit: 'mV',
          temperatureC: 25,
          impedance: { membraneMohm, referenceKohm: 5 },
        },
      });
    measures(1e4);
    nowMs += 2 * 60_000;
    measures(120);
    const loop = { channel: { id: 'c' } } as FittedLoop;
    expect(impedanceOf(livelyOf(hub, loop, backMs('b'))).membraneMohm).toBe(120);
    expect(impedanceOf(livelyOf(hub, loop, backMs('a')))).toEqual({});
    expect(impedanceOf(livelyOf(hub, loop, backMs('c'))).membraneMohm).toBeCloseTo((1e4 + 120) / 2, 6);
  });
});
