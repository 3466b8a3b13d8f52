import { asc, eq, isNull, max } from 'drizzle-orm';
import type { Reader } from '../database.ts';
import { sensorEvents, sensors } from '../schema/index.ts';

/** Sensors that are on the shelf or retired. */
export const readShelved = (db: Reader): Promise<(typeof sensors.$inferSelect)[]> =>
  db.select().from(sensors).where(isNull(sensors.loopId)).orderBy(asc(sensors.name), asc(sensors.id));

/** The last event of each sensor on the shelf: since when it is there. */
export async function readShelvedSince(db: Reader): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .select({ sensorId: sensorEvents.sensorId, at: max(sensorEvents.at) })
    .from(sensorEvents)
    .innerJoin(sensors, eq(sensorEvents.sensorId, sensors.id))
    .where(isNull(sensors.loopId))
    .groupBy(sensorEvents.sensorId);
  return new Map(rows.flatMap((r) => (r.at === null ? [] : [[r.sensorId, r.at]])));
}
