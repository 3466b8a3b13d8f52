import { MS_PER_DAY } from './constants.ts';

const clocks = new Map<string, Intl.DateTimeFormat>();
/** Made once for each zone: making one costs a hundred times what reading it does. */
function clockOf(zone: string): Intl.DateTimeFormat {
  const known = clocks.get(zone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-GB', { timeZone: zone, calendar: 'gregory', numberingSystem: 'latn', hourCycle: 'h23', year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric', second: 'numeric' }); // prettier-ignore
  clocks.set(zone, made);
  return made;
}

/** What a clock on the wall of a zone shows at a moment, as if it were UTC, epoch ms. */
function shownIn(zone: string, ms: number): number {
  if (zone === 'UTC') return ms;
  const parts = clockOf(zone).formatToParts(ms);
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value);
  return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'), of('second')) + (ms % 1000);
}

/** The moment at which the clock on the wall of a zone shows something, epoch ms; `wall` as if it were UTC. */
function momentOf(zone: string, wall: number): number {
  const before = wall - (shownIn(zone, wall) - wall);
  return wall - (shownIn(zone, before) - before);
}

/**
 * The moment at which the clock on the wall of a zone showed something. An hour that a zone leaves out is taken as the hour after
 * it; of one that comes twice the first is meant.
 *
 * @param when like 2024-03-01T08:30, or with a zone of its own, which then counts
 * @param zone IANA name
 * @returns ISO 8601 UTC
 * @example byWallClock('2024-07-01T12:00', 'Europe/Paris') // '2024-07-01T10:00:00.000Z'
 */
export function byWallClock(when: string, zone: string): string {
  if (/(Z|[+-]\d{2}:?\d{2})$/.test(when.slice(16))) return new Date(when).toISOString();
  return new Date(momentOf(zone, Date.parse(`${when}Z`))).toISOString();
}

/**
 * Which day it is in a zone.
 *
 * @param ms epoch ms
 * @returns like 2026-11-23
 * @example dayIn('Pacific/Auckland', Date.UTC(2026, 10, 23, 12)) // '2026-11-24'
 */
export const dayIn = (zone: string, ms: number): string => new Date(shownIn(zone, ms)).toISOString().slice(0, 10);

/**
 * So many days from one day to another.
 *
 * @example daysFrom('2026-02-27', '2026-03-01') // 2
 */
export const daysFrom = (from: string, to: string): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / MS_PER_DAY);

/**
 * The moment so many days later at the same time by the clock on the wall: where clocks are put forward or back in between, that
 * is an hour less or more.
 *
 * @param ms epoch ms
 * @returns epoch ms
 * @example new Date(daysLater('Europe/Paris', Date.UTC(2026, 2, 28, 8), 1)).toISOString() // '2026-03-29T07:00:00.000Z'
 */
export const daysLater = (zone: string, ms: number, days: number): number =>
  momentOf(zone, shownIn(zone, ms) + days * MS_PER_DAY);
