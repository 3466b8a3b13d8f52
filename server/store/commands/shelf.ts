import { and, asc, eq, sql } from 'drizzle-orm';
import { Refusal, type Standard, type Unit, type LotId } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { lots, standards } from '../schema/index.ts';

export async function readStandards(db: Reader): Promise<Standard[]> {
  const rows = await db.select().from(standards).orderBy(asc(standards.nominal), asc(standards.id));
  return rows.map(({ unit, against, remedy, inAir, ...row }) => ({
    ...row,
    unit: unit as Unit,
    ...(against ? { against } : {}),
    ...(remedy ? { remedy } : {}),
    ...(inAir ? { inAir } : {}),
  }));
}

/** Writes the built-in standards; those that are there already stay as they are, but for what older houses did not know. */
export async function keepStandards(tx: Transaction, list: readonly Standard[]): Promise<void> {
  await tx
    .insert(standards)
    .values(list.map((s) => ({ ...s, table: s.table.map(([t, v]): [number, number] => [t, v]) })))
    .onConflictDoUpdate({
      target: standards.id,
      set: { inAir: sql`excluded.in_air` },
      setWhere: sql`${standards.inAir} is distinct from excluded.in_air`,
    });
}

export type LotRecord = typeof lots.$inferSelect;

export async function readLots(db: Reader): Promise<LotRecord[]> {
  return db.select().from(lots).orderBy(asc(lots.standardId), asc(lots.expiresOn));
}

/** @throws Refusal `lot-exists` for a label that the standard has already */
export async function addLot(tx: Transaction, lot: Omit<LotRecord, 'createdAt'>): Promise<LotRecord> {
  const [twin] = await tx
    .select({ id: lots.id })
    .from(lots)
    .where(and(eq(lots.standardId, lot.standardId), eq(lots.label, lot.label)));
  if (twin)
    throw new Refusal('lot-exists', `Lot ${lot.label} stands on the shelf already. Pick it there.`, {
      label: lot.label,
    });
  const [standard] = await tx.select({ id: standards.id }).from(standards).where(eq(standards.id, lot.standardId));
  if (!standard)
    throw new Refusal('unknown-standard', `There is no standard “${lot.standardId}”. Pick one from the list.`);
  const [kept] = await tx.insert(lots).values(lot).returning();
  return kept!;
}

/** A bottle that is empty or withdrawn, from this day on. @throws Refusal `lot-unknown` */
export async function endLot(tx: Transaction, lotId: LotId, day: string): Promise<LotRecord> {
  const [kept] = await tx.update(lots).set({ usedUpOn: day }).where(eq(lots.id, lotId)).returning();
  if (!kept) throw new Refusal('lot-unknown', 'There is no such bottle. Look at the shelf again.', { lotId });
  return kept;
}
