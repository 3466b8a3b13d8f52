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
 * @example dueOf('forecast', 0, 30, { atMs: 12 * day, reason: 'it drifts' }).reason // 'it drifts'
 * @see ILAC-G24 / OIML D 10, which name both methods and leave the choice to the laboratory
 */
export function dueOf(by: DueBy, lastRunMs: number | null, intervalDays: number, forecast: Due): Due {
  const calendar = fixedInterval(lastRunMs, intervalDays);
  if (by === 'calendar' || calendar.atMs === null) return calendar;
  if (forecast.atMs !== null && forecast.atMs < calendar.atMs) return forecast;
  return { atMs: calendar.atMs, reason: `${calendar.reason} at the latest; the forecast leaves it longer` };
}
