import { daysLater } from '../quantities/site-clock.ts';

/** When the next run is due, and the reason shown beside it. */
export interface Due {
  /** null: there is nothing to count from, the first run is due */
  readonly atMs: number | null;
  readonly reason: string;
}

/**
 * Due date of the fixed calendar: so many days after the last finished run, at the same hour by the clock of the site.
 *
 * @param lastRunMs end of the last finished run, null when there was none
 * @param intervalDays above 0
 * @param timeZone of the site, IANA name
 * @example fixedInterval(0, 30) // { atMs: 2592000000, reason: 'every 30 days' }
 * No method of ILAC-G24 / OIML D 10, which reviews an interval by what was found: common practice, no source.
 */
export function fixedInterval(lastRunMs: number | null, intervalDays: number, timeZone = 'UTC'): Due {
  if (lastRunMs === null) return { atMs: null, reason: 'never calibrated' };
  const reason = intervalDays === 1 ? 'every day' : `every ${intervalDays} days`;
  return { atMs: daysLater(timeZone, lastRunMs, intervalDays), reason };
}
