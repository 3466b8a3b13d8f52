import { max } from 'drizzle-orm';
import type { Reader } from '../database.ts';
import { alarms, readingMinutes, runEvents } from '../schema/index.ts';

/** Time of the newest record that this server has dated itself, epoch ms; null when there is none. */
export async function readNewest(db: Reader): Promise<number | null> {
  const [events] = await db.select({ at: max(runEvents.at) }).from(runEvents);
  const [minutes] = await db.select({ at: max(readingMinutes.minute) }).from(readingMinutes);
  const [raised] = await db.select({ at: max(alarms.raisedAt) }).from(alarms);
  const known = [events?.at, minutes?.at, raised?.at].flatMap((at) => (at ? [Date.parse(at)] : []));
  return known.length ? Math.max(...known) : null;
}
