import type { LoopId } from '@frustum/core';
import { and, asc, count, desc, eq, gt, gte, lte } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { doses } from '../schema/index.ts';

type DoseRecord = typeof doses.$inferSelect;

/** Rows in one statement. */
const AT_ONCE = 1000;

/** Keeps doses; the same substance at the same moment counts once. @returns how many were new */
export async function keepDoses(tx: Transaction, list: readonly DoseRecord[]): Promise<number> {
  let kept = 0;
  for (let i = 0; i < list.length; i += AT_ONCE) {
    const rows = list.slice(i, i + AT_ONCE);
    kept += (await tx.insert(doses).values(rows).onConflictDoNothing().returning({ id: doses.id })).length;
  }
  return kept;
}

/** Removes the doses that were written down at `notedAt`, if that is after `notedAfter`. @returns how many those were */
export async function dropDoses(tx: Transaction, loopId: LoopId, notedAt: string, notedAfter: string): Promise<number> {
  const gone = await tx
    .delete(doses)
    .where(and(eq(doses.loopId, loopId), eq(doses.notedAt, notedAt), gt(doses.notedAt, notedAfter)))
    .returning({ id: doses.id });
  return gone.length;
}

/** The last doses into a loop's water, newest first, and how many there are in all. */
export async function readLastDoses(
  db: Reader,
  loopId: LoopId,
  most: number,
): Promise<{ readonly all: number; readonly last: readonly DoseRecord[] }> {
  const [[counted], last] = await Promise.all([
    db.select({ all: count() }).from(doses).where(eq(doses.loopId, loopId)),
    db.select().from(doses).where(eq(doses.loopId, loopId)).orderBy(desc(doses.at)).limit(most),
  ]);
  return { all: counted!.all, last };
}

/** Doses into a loop's water from one moment to another, oldest first. */
export async function readDoses(db: Reader, loopId: LoopId, from: string, to: string): Promise<DoseRecord[]> {
  return db
    .select()
    .from(doses)
    .where(and(eq(doses.loopId, loopId), gte(doses.at, from), lte(doses.at, to)))
    .orderBy(asc(doses.at));
}
