import type { LoopId, Notice, NoticeKind, SensorId } from '@frustum/core';
import { and, asc, desc, eq, gt, gte, isNotNull, lte } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { notices } from '../schema/index.ts';

type NoticeRecord = typeof notices.$inferSelect;

/** Keeps what somebody noticed; the same thing at the same moment counts once. */
export async function keepNotices(tx: Transaction, list: readonly NoticeRecord[]): Promise<void> {
  if (list.length)
    await tx
      .insert(notices)
      .values([...list])
      .onConflictDoNothing();
}

/** Takes away one that was written down after a moment. @returns whether there was one */
export async function dropNotice(
  tx: Transaction,
  loopId: LoopId,
  { at, kind }: { readonly at: string; readonly kind: NoticeKind },
  notedAfter: string,
): Promise<boolean> {
  const gone = await tx
    .delete(notices)
    .where(and(eq(notices.loopId, loopId), eq(notices.at, at), eq(notices.kind, kind), gt(notices.notedAt, notedAfter)))
    .returning({ id: notices.id });
  return gone.length > 0;
}

/** What was noticed while a sensor was there, of all sensors, oldest first. */
export async function readAllNotices(db: Reader): Promise<(Notice & { sensorId: SensorId })[]> {
  const rows = await db
    .select({ sensorId: notices.sensorId, at: notices.at, kind: notices.kind })
    .from(notices)
    .where(isNotNull(notices.sensorId))
    .orderBy(asc(notices.at), asc(notices.id));
  return rows.map(({ sensorId, at, kind }) => ({ sensorId: sensorId!, atMs: Date.parse(at), kind }));
}

/** What was noticed at a loop from one moment to another, newest first. */
export const readNotices = (db: Reader, loopId: LoopId, from: string, to: string): Promise<NoticeRecord[]> =>
  db
    .select()
    .from(notices)
    .where(and(eq(notices.loopId, loopId), gte(notices.at, from), lte(notices.at, to)))
    .orderBy(desc(notices.at));
