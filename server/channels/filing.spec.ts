import { describe, expect, it } from 'vitest';
import { filingOf } from './filing.ts';

const NOW = Date.parse('2026-11-23T09:00:00Z');
const S = 1000;
const MIN = 60 * S;
const HOUR = 60 * MIN;
const rule = { staleMs: 15 * S, fittedMs: NOW - 48 * HOUR };
const at = (ms: number, buffered: boolean) => filingOf((NOW + ms) / 1000, NOW, { ...rule, buffered });

describe('under which moment a reading is kept', () => {
  it.each([
    ['none', null],
    ['a clock that counts from its own beginning', 12_345],
    ['the last second of such a clock', 2 ** 28 - 1],
  ])('%s: when it came, buffered or not', (_, own) => {
    for (const buffered of [true, false])
      expect(filingOf(own, NOW, { ...rule, buffered })).toEqual({ as: 'live', atMs: NOW });
  });

  it('a time within five minutes is its own; beyond, when it came', () => {
    for (const ms of [-5 * MIN, -MIN, 0, 5 * MIN]) expect(at(ms, false)).toEqual({ as: 'live', atMs: NOW + ms });
    for (const ms of [-5 * MIN - 1, -8 * HOUR, 5 * MIN + 1]) expect(at(ms, false)).toEqual({ as: 'live', atMs: NOW });
  });

  it('of a buffered channel its own, whenever that was, and live only while it is fresh', () => {
    for (const ms of [-15 * S, 0, 15 * S]) expect(at(ms, true)).toEqual({ as: 'live', atMs: NOW + ms });
    for (const ms of [-16 * S, -8 * HOUR, -48 * HOUR, 16 * S, 24 * HOUR])
      expect(at(ms, true)).toEqual({ as: 'past', atMs: NOW + ms });
  });

  it('tomorrow, and before the sensor was fitted, are set aside', () => {
    expect(at(24 * HOUR + 1, true)).toMatchObject({ as: 'aside', because: 'more than a day ahead' });
    expect(at(-48 * HOUR - 1, true)).toMatchObject({ as: 'aside', because: 'before its sensor was fitted' });
  });
});
