import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { fixedInterval } from './fixed-interval.ts';

describe('fixed calendar (ILAC-G24 / OIML D 10: method of the fixed calendar time)', () => {
  it('counts from the last finished run', () => {
    const last = Date.UTC(2026, 1, 1);
    expect(new Date(fixedInterval(last, 28).atMs!).toISOString()).toBe('2026-03-01T00:00:00.000Z');
    expect(fixedInterval(last, 28).reason).toBe('every 28 days');
    expect(fixedInterval(0, 1)).toEqual({ atMs: MS_PER_DAY, reason: 'every day' });
  });

  it('has no date before the first run', () =>
    expect(fixedInterval(null, 30)).toEqual({ atMs: null, reason: 'never calibrated' }));
});
