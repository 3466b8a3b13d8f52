import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { dueOf, triggeredBy } from './due.ts';
import { fixedInterval } from './fixed-interval.ts';

describe('fixed calendar (common practice: no method of ILAC-G24 / OIML D 10)', () => {
  it('counts from the last finished run', () => {
    const last = Date.UTC(2026, 1, 1);
    expect(new Date(fixedInterval(last, 28).atMs!).toISOString()).toBe('2026-03-01T00:00:00.000Z');
    expect(fixedInterval(last, 28).reason).toBe('every 28 days');
    // Over the night in which clocks are put forward, and the one in which they are put back.
    const paris = (iso: string) => new Date(fixedInterval(Date.parse(iso), 30, 'Europe/Paris').atMs!).toISOString();
    expect(paris('2026-03-10T08:00:00Z')).toBe('2026-04-09T07:00:00.000Z');
    expect(paris('2026-10-10T08:00:00Z')).toBe('2026-11-09T09:00:00.000Z');
    expect(fixedInterval(0, 1)).toEqual({ atMs: MS_PER_DAY, reason: 'every day' });
  });

  it('has no date before the first run', () =>
    expect(fixedInterval(null, 30)).toEqual({ atMs: null, reason: 'never calibrated' }));
});

describe('what was done to it', () => {
  const calendar = fixedInterval(10 * MS_PER_DAY, 30);
  const done = (day: number, kind: 'refilled' | 'tip replaced' | 'other') => ({ atMs: day * MS_PER_DAY, kind });

  it('makes it due at once: another reference is another sensor', () => {
    expect(
      triggeredBy(calendar, 10 * MS_PER_DAY, [done(4, 'tip replaced'), done(20, 'refilled'), done(22, 'tip replaced')]),
    ).toEqual({
      atMs: 20 * MS_PER_DAY,
      reason: 'refilled, and not tested since',
    });
  });

  it('changes nothing before the last run, by a remark, after the date, or where there is no date yet', () => {
    for (const services of [[done(4, 'refilled')], [done(20, 'other')], [done(60, 'refilled')], []])
      expect(triggeredBy(calendar, 10 * MS_PER_DAY, services)).toBe(calendar);
    const never = fixedInterval(null, 30);
    expect(triggeredBy(never, null, [done(20, 'refilled')])).toBe(never);
  });
});

describe('what decides', () => {
  const forecast = (days: number | null) => ({ atMs: days === null ? null : days * MS_PER_DAY, reason: 'it drifts' });

  it('by the calendar the forecast decides nothing', () =>
    expect(dueOf('calendar', 0, 30, forecast(3))).toEqual({ atMs: 30 * MS_PER_DAY, reason: 'every 30 days' }));

  it('by the forecast it is the earlier one, and the days are the longest that it may take', () => {
    expect(dueOf('forecast', 0, 30, forecast(3))).toEqual({ atMs: 3 * MS_PER_DAY, reason: 'it drifts' });
    const later = dueOf('forecast', 0, 30, forecast(300));
    expect(later.atMs).toBe(30 * MS_PER_DAY);
    expect(later.reason).toMatch(/^every 30 days at the latest/);
    expect(dueOf('forecast', 0, 30, forecast(null)).atMs).toBe(30 * MS_PER_DAY);
    expect(dueOf('forecast', null, 30, forecast(3))).toEqual({ atMs: null, reason: 'never calibrated' });
  });
});

describe('a reason to look', () => {
  const calendar = { atMs: 40 * MS_PER_DAY, reason: 'every 30 days' };
  it('makes a sensor due at its moment, whichever came first; what befell the water does not', () => {
    const at = (days: number, kind: 'fell' | 'feeding' | 'reset') => ({ kind, atMs: days * MS_PER_DAY });
    expect(triggeredBy(calendar, 10 * MS_PER_DAY, [], [at(12, 'feeding')])).toBe(calendar);
    expect(triggeredBy(calendar, 10 * MS_PER_DAY, [], [at(5, 'fell'), at(20, 'fell'), at(22, 'reset')])).toEqual({
      atMs: 20 * MS_PER_DAY,
      reason: 'noted: fell; not tested since',
    });
    const services = [{ kind: 'refilled' as const, atMs: 15 * MS_PER_DAY }];
    expect(triggeredBy(calendar, 10 * MS_PER_DAY, services, [at(20, 'fell')]).reason).toContain('refilled');
    expect(triggeredBy(calendar, null, [], [at(20, 'fell')])).toBe(calendar);
  });
});
