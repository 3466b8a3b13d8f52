import type { Reader, Transaction } from '../database.ts';
import { fleets } from '../schema/index.ts';

export type FleetRecord = typeof fleets.$inferSelect;

export const readFleets = (db: Reader): Promise<FleetRecord[]> => db.select().from(fleets);

/** Puts what was learned in the place of what was known before. */
export async function keepFleets(tx: Transaction, list: readonly FleetRecord[]): Promise<void> {
  await tx.delete(fleets);
  if (list.length) await tx.insert(fleets).values([...list]);
}
