import { describe, expect, it } from 'vitest';
import { LiveHub } from './live-hub.ts';
import { LiveReader } from './live-reader.ts';
import { Recorder } from './recorder.ts';
import type { MinuteRecord } from '../store/commands/readings.ts';

const sample = (hub: LiveHub, channelId: string, t: number, signal = t) =>
  hub.publish({ event: 'sample', data: { channelId, t, epoch: 'e', signal, unit: 'mV', temperatureC: 25 } });

/** A browser that takes so many pieces at once, and what it has read. */
function browser(hub: LiveHub, watched: string[], room = Infinity, lastId = 0) {
  const text: string[] = [];
  let left = room;
  const reader = new LiveReader(hub, watched, lastId, (piece) => {
    text.push(piece);
    return --left > 0;
  });
  hub.listen((message) => reader.heard(message));
  const events = () =>
    text
      .join('')
      .split('\n\n')
      .filter(Boolean)
      .map((block) => Object.fromEntries(block.split('\n').map((line) => line.split(/: (.*)/, 2) as [string, string])));
  const times = () =>
    events().flatMap((e) => (e['event'] === 'sample' ? [(JSON.parse(e['data']!) as { t: number }).t] : []));
  return {
    reader,
    text,
    events,
    times,
    /** it has read what it had, and takes so many more */
    takes: (more: number) => {
      left = more;
      reader.drained();
    },
  };
}

describe('the stream to one browser', () => {
  it('has every sample of what it watches, in order, with ids to resume by; of others the newest, once a second', () => {
    const hub = new LiveHub();
    const bench = browser(hub, ['a']);
    for (let t = 1; t <= 5; t++) {
      sample(hub, 'a', t);
      sample(hub, 'b', 10 * t);
      sample(hub, 'c', 100 * t);
    }
    expect(bench.times()).toEqual([1, 2, 3, 4, 5]);
    bench.reader.tick();
    const latest = bench.events().at(-1)!;
    expect(latest['event']).toBe('latest');
    const { samples } = JSON.parse(latest['data']!) as { samples: { channelId: string; t: number }[] };
    expect(samples.map((s) => [s.channelId, s.t])).toEqual([
      ['b', 50],
      ['c', 500],
    ]);
    const before = bench.text.length;
    bench.reader.tick();
    expect(bench.text).toHaveLength(before);
    // The third of its samples is the last that it had: it gets the two that it missed, and states again only if news.
    const third = Number(bench.events().filter((e) => e['event'] === 'sample')[2]!['id']);
    const again = browser(hub, ['a'], Infinity, third);
    again.reader.pump();
    expect(again.times()).toEqual([4, 5]);
  });

  it('a slow browser costs nobody anything: it is written to only as it drains, and misses nothing that is kept', () => {
    const hub = new LiveHub();
    hub.watch(['a']);
    const slow = browser(hub, ['a'], 1);
    const fast = browser(hub, ['a']);
    for (let t = 1; t <= 3000; t++) sample(hub, 'a', t);
    expect(slow.text).toHaveLength(1);
    expect(fast.times()).toHaveLength(3000);
    slow.reader.note('changed');
    slow.reader.note('changed');
    slow.takes(2);
    expect(slow.text.length).toBeLessThanOrEqual(3);
    // Records changed twice while it could not listen: it hears of it, once.
    expect(slow.events().filter((e) => e['event'] === 'changed')).toHaveLength(1);
    slow.takes(Infinity);
    expect(slow.times()).toEqual(Array.from({ length: 3000 }, (_, i) => i + 1));
  });

  it('a reader that slept too long misses what has left the memory, and gets the rest', () => {
    const hub = new LiveHub();
    const slow = browser(hub, ['a'], 1);
    for (let t = 1; t <= 20_000; t++) sample(hub, 'a', t);
    slow.takes(Infinity);
    const times = slow.times().slice(1);
    expect(times.at(-1)).toBe(20_000);
    expect(times.length).toBeLessThan(1300);
    expect(times.at(-1)! - times[0]!).toBe(times.length - 1);
  });

  it('states go to all at once, each only when it is news', () => {
    const hub = new LiveHub();
    const one = browser(hub, []);
    const say = (state: 'live' | 'stale', message = '') =>
      hub.publish({ event: 'state', data: { channelId: 'a', state, message } });
    say('live');
    say('live');
    say('stale', 'time out');
    say('stale', 'time out');
    expect(one.events().map((e) => (JSON.parse(e['data']!) as { state: string }).state)).toEqual(['live', 'stale']);
  });
});

describe('the recorder', () => {
  it('keeps a minute as count, mean, low and high once it is over; counts it never keeps', async () => {
    const hub = new LiveHub();
    let now = Date.UTC(2026, 10, 23, 9, 0, 5);
    const kept: Omit<MinuteRecord, 'onBench'>[] = [];
    let busy = true;
    const recorder = new Recorder(
      hub,
      async (minutes) => {
        if (busy) throw new Error('the database is busy');
        kept.push(...minutes);
      },
      () => now,
    );
    for (const signal of [10, 30, 20]) sample(hub, 'a', signal, signal);
    hub.publish({
      event: 'sample',
      data: { channelId: 'n', t: 1, epoch: 'e', signal: 4711, unit: 'counts', temperatureC: 25 },
    });
    await recorder.flush(false);
    expect(kept).toEqual([]);
    now += 60_000;
    sample(hub, 'a', 99, 50);
    await recorder.flush(false);
    // The database was busy: nothing is lost by that.
    busy = false;
    await recorder.flush(true);
    recorder.stop();
    expect(kept).toEqual([
      { channelId: 'a', minute: '2026-11-23T09:00:00.000Z', count: 3, mean: 20, low: 10, high: 30, temperatureC: 25 },
      { channelId: 'a', minute: '2026-11-23T09:01:00.000Z', count: 1, mean: 50, low: 50, high: 50, temperatureC: 25 },
    ]);
  });
});
