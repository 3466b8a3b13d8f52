import { tz } from '@date-fns/tz';
import { differenceInCalendarDays, format } from 'date-fns';

/** "in 9 days, Thu 3 Dec", "Today", "overdue 6 days": by the days of a site; without its zone by the viewer's. */
export function dueWords(
  atMs: number | null,
  nowMs: number,
  timeZone?: string,
): { readonly main: string; readonly day: string; readonly overdue: boolean } {
  if (atMs === null) return { main: 'First run', day: '', overdue: false };
  const there = timeZone === undefined ? {} : { in: tz(timeZone) };
  const days = differenceInCalendarDays(atMs, nowMs, there);
  // Beyond half a year a day without its year may be this year's or the next one's.
  const day = format(atMs, Math.abs(days) > 180 ? 'EEE d MMM yyyy' : 'EEE d MMM', there);
  if (days === 0) return { main: 'Today', day, overdue: false };
  if (days === 1) return { main: 'Tomorrow', day, overdue: false };
  if (days > 0) return { main: `in ${days} days`, day, overdue: false };
  return { main: days === -1 ? 'overdue 1 day' : `overdue ${-days} days`, day, overdue: true };
}

/**
 * The day of a moment, as a date field has it: by the clock of a site, or of the viewer where no site is known yet.
 *
 * @example fieldDay(Date.UTC(2026, 10, 23, 12), 'Pacific/Auckland') // '2026-11-24'
 */
export const fieldDay = (at: string | number, timeZone?: string) =>
  format(new Date(at), 'yyyy-MM-dd', timeZone === undefined ? {} : { in: tz(timeZone) });

export const dayOf = (at: string | number) => format(new Date(at), 'd MMM yyyy');
export const timeOf = (at: string | number) => format(new Date(at), 'd MMM yyyy, HH:mm');

/** The time of a day that is known. */
export const hourOf = (at: string | number) => format(new Date(at), 'HH:mm');
