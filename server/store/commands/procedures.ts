import { and, desc, eq } from 'drizzle-orm';
import { Refusal } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { procedures } from '../schema/index.ts';

export type ProcedureRecord = typeof procedures.$inferSelect;

/** The newest version of every procedure that a team still uses. */
export async function readProcedures(db: Reader): Promise<ProcedureRecord[]> {
  const rows = await db.select().from(procedures).orderBy(procedures.name, desc(procedures.version));
  const newest = rows.filter((r, i) => rows.findIndex((o) => o.id === r.id) === i);
  return newest.filter((r) => !r.retired);
}

/** Writes a version; what was written before stays. @throws Refusal `procedure-moved` when somebody was faster */
export async function keepProcedure(
  tx: Transaction,
  procedure: Omit<ProcedureRecord, 'createdAt'>,
): Promise<ProcedureRecord> {
  const { id, version } = procedure;
  const [twin] = await tx
    .select({ version: procedures.version })
    .from(procedures)
    .where(and(eq(procedures.id, id), eq(procedures.version, version)));
  if (twin)
    throw new Refusal(
      'procedure-moved',
      'Somebody changed this procedure meanwhile. Look at it again, then change it.',
    );
  const [kept] = await tx.insert(procedures).values(procedure).returning();
  return kept!;
}
