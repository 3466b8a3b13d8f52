/** What a clock on the wall of a zone shows at a moment, as if it were UTC, epoch ms. */
function shownIn(zone: string, ms: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', { timeZone: zone, hourCycle: 'h23', year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric', second: 'numeric' }).formatToParts(ms); // prettier-ignore
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value);
  return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'), of('second'));
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
  const wall = Date.parse(`${when}Z`);
  const before = wall - (shownIn(zone, wall) - wall);
  const ms = wall - (shownIn(zone, before) - before);
  return new Date(ms).toISOString();
}
