import { describe, expect, it } from 'vitest';
import { toKeep } from './retention.ts';

const HOUR = 3_600_000;
const NOW = Date.parse('2026-11-29T12:30:00Z');
const every = (hours: number, count: number) =>
  Array.from({ length: count }, (_, i) => new Date(NOW - i * hours * HOUR).toISOString());

describe('which snapshots are kept', () => {
  it('hourly ones of three months: six hours, seven days, eight weeks, each by its newest', () => {
    const kept = [...toKeep(every(1, 24 * 90))].sort().reverse();
    const agesH = kept.map((at) => Math.round((NOW - Date.parse(at)) / HOUR));
    // The last six hours; then the last one of each day (23:30 of the day before is 13 h ago), and of each week from Thursday on.
    expect(agesH.slice(0, 6)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(agesH).toContain(13);
    expect(agesH).toContain(13 + 5 * 24);
    expect(agesH.at(-1)! / 24).toBeGreaterThan(45);
    expect(kept).toHaveLength(6 + 6 + 6);
  });

  it('a house that was off for a year keeps what it had: spans without a snapshot do not count', () => {
    expect(toKeep(every(24 * 30, 12)).size).toBe(8);
    expect(toKeep([]).size).toBe(0);
  });

  it('two within one minute both stay: where the newest does not read back, the one before it does', () => {
    const two = ['2026-11-29T12:00:01.000Z', '2026-11-29T12:00:02.000Z', '2026-11-29T12:00:00.000Z'];
    expect([...toKeep(two)].sort()).toEqual(two.slice(0, 2));
  });
});
