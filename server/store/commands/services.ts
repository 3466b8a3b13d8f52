import { and, asc, desc, eq, gt } from 'drizzle-orm';
import type { ServiceEvent, SensorId } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { services } from '../schema/index.ts';

type ServiceRecord = typeof services.$inferInsert;

/** Keeps what was done to sensors; the same thing at the same moment counts once. */
export async function keepServices(tx: Transaction, list: readonly ServiceRecord[]): Promise<void> {
  if (list.length)
    await tx
      .insert(services)
      .values([...list])
      .onConflictDoNothing();
}

/** Takes away an entry that was written down after a moment. @returns whether there was one */
export async function dropService(
  tx: Transaction,
  sensorId: SensorId,
  { at, kind }: { readonly at: string; readonly kind: ServiceEvent['kind'] },
  notedAfter: string,
): Promise<boolean> {
  const gone = await tx
    .delete(services)
    .where(
      and(
        eq(services.sensorId, sensorId),
        eq(services.at, at),
        eq(services.kind, kind),
        gt(services.notedAt, notedAfter),
      ),
    )
    .returning({ id: services.id });
  return gone.length > 0;
}

/** What was done to all sensors, oldest first, as the drift engine takes it. */
export async function readAllServices(db: Reader): Promise<(ServiceEvent & { sensorId: SensorId })[]> {
  const rows = await db
    .select({ sensorId: services.sensorId, at: services.at, kind: services.kind })
    .from(services)
    .orderBy(asc(services.at), asc(services.id));
  return rows.map(({ sensorId, at, kind }) => ({
    sensorId,
    atMs: Date.parse(at),
    kind,
  }));
}

/** What was done to a sensor, newest first. */
export async function readServices(db: Reader, sensorId: SensorId): Promise<(typeof services.$inferSelect)[]> {
  return db.select().from(services).where(eq(services.sensorId, sensorId)).orderBy(desc(services.at));
}
