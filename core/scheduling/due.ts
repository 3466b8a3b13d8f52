import { isReason, type Notice } from '../alarms/notices.ts';
import type { ServiceEvent } from '../drift/history.ts';
import { fixedInterval, type Due } from './fixed-interval.ts';

/** What decides when the next run of a loop is due. */
export const DUE_BY = ['calendar', 'forecast'] as const;
export type DueBy = (typeof DUE_BY)[number];

/**
 * When the next run is due, with its reason: so many days after the last one; or when the drift forecast says so, and then so
 * many days after the last one at the latest.
 *
 * @param lastRunMs end of the last finished run, null when there was none
 * @param intervalDays above 0
 * @param forecast date of the drift forecast
 * @param timeZone of the site, IANA name
 * @example dueOf('forecast', 0, 30, { atMs: 12 * day, reason: 'it drifts' }).reason // 'it drifts'
 * @see ILAC-G24 / OIML D 10: reliability methods are a class of it; a fixed calendar is none, and is to be reviewed by what was
 * found
 */
export function dueOf(by: DueBy, lastRunMs: number | null, intervalDays: number, forecast: Due, timeZone = 'UTC'): Due {
  const calendar = fixedInterval(lastRunMs, intervalDays, timeZone);
  if (by === 'calendar' || calendar.atMs === null) return calendar;
  if (forecast.atMs !== null && forecast.atMs < calendar.atMs) return forecast;
  return { atMs: calendar.atMs, reason: `${calendar.reason} at the latest; the forecast leaves it longer` };
}

const DONE: Readonly<Record<Exclude<ServiceEvent['kind'], 'other'>, string>> = {
  cleaned: 'cleaned, and not tested since',
  refilled: 'refilled, and not tested since',
  'plug dried': 'its plug was dried, and it was not tested since',
  'tip replaced': 'has a new tip, and was not calibrated since',
  'stored dry': 'was stored dry, and not tested since',
};

/**
 * What was done to a sensor overrides its date: from then on it is another sensor than the one that was calibrated. So does a reason
 * that somebody noted to look at it.
 *
 * @param services rising time
 * @param notices of its loop while it was there
 * @returns the date of the first service since the last run, if that comes before it is due anyway
 * @example triggeredBy(fixedInterval(0, 30), 0, [{ kind: 'refilled', atMs: 3 * day }]).reason // 'refilled, and not tested since'
 */
export function triggeredBy(
  due: Due,
  lastRunMs: number | null,
  services: readonly ServiceEvent[],
  notices: readonly Notice[] = [],
): Due {
  if (lastRunMs === null || due.atMs === null) return due;
  const since = [
    ...services.flatMap((s) => (s.kind === 'other' ? [] : [{ atMs: s.atMs, reason: DONE[s.kind] }])),
    ...notices.flatMap((n) =>
      isReason(n.kind) ? [{ atMs: n.atMs, reason: `noted: ${n.kind}; not tested since` }] : [],
    ),
  ].filter((r) => r.atMs > lastRunMs);
  const first = since.reduce<Due | null>((a, b) => (a?.atMs != null && a.atMs <= b.atMs ? a : b), null);
  return first?.atMs != null && first.atMs < due.atMs ? first : due;
}
