import { TZDate } from '@date-fns/tz';
import { addDays, format } from 'date-fns';
import { describe, expect, it } from 'vitest';
import { seededChance } from '../statistics/chance.ts';
import { byWallClock, dayIn, daysFrom, daysLater } from './site-clock.ts';

const ZONES = ['UTC', 'Europe/Paris', 'America/New_York', 'America/Sao_Paulo', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'Pacific/Auckland', 'Pacific/Kiritimati', 'Africa/Casablanca']; // prettier-ignore
const SEED = 20_261_201;

describe(`the clock of a site (seed ${SEED})`, () => {
  const dice = seededChance(SEED);
  const moments = Array.from({ length: 4000 }, (_, i) => ({
    zone: ZONES[i % ZONES.length]!,
    ms: 1000 * Math.floor(Date.UTC(2015, 0, 1) / 1000 + dice.uniform() * 20 * 365 * 86_400),
    days: Math.floor(dice.uniform() * 800),
  }));

  const wall = (zone: string, ms: number) => format(new TZDate(ms, zone), "yyyy-MM-dd'T'HH:mm:ss");
  const offsetAt = (zone: string, ms: number) => new TZDate(ms, zone).getTimezoneOffset();

  it('has the day, and the same hour so many days later, as @date-fns/tz has them', () => {
    for (const { zone, ms, days } of moments) {
      const what = `${new Date(ms).toISOString()} ${zone} +${days}`;
      expect(dayIn(zone, ms), what).toBe(wall(zone, ms).slice(0, 10));
      const later = addDays(new TZDate(ms, zone), days).getTime();
      const mine = daysLater(zone, ms, days);
      // In an hour that is left out or comes twice both choose; they are an hour apart at most.
      const isOdd = [-2, 2].some((h) => offsetAt(zone, later + h * 3_600_000) !== offsetAt(zone, later));
      if (isOdd) expect(Math.abs(mine - later), what).toBeLessThanOrEqual(3_600_000);
      else expect(wall(zone, mine), what).toBe(wall(zone, later));
    }
  });

  it('a moment that is written by the clock on the wall comes back', () => {
    for (const { zone, ms } of moments) {
      const text = wall(zone, ms);
      expect(wall(zone, Date.parse(byWallClock(text, zone))), `${text} ${zone}`).toBe(text);
    }
  });

  it('counts days by the calendar, over leap days and changed clocks', () => {
    expect(daysFrom('2028-02-28', '2028-03-01')).toBe(2);
    expect(daysFrom('2026-03-28', '2026-03-30')).toBe(2);
    expect(daysFrom('2026-03-01', '2026-02-28')).toBe(-1);
  });
});
