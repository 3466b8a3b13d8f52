import { and, asc, desc, eq, inArray, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { alarmMessages } from '../schema/index.ts';

export type MessageRecord = typeof alarmMessages.$inferSelect;
/** One as it is queued. */
export type NewMessage = Pick<MessageRecord, 'id' | 'way' | 'body' | 'at'>;

/** Messages of a way that wait, in the order in which they are told. */
export async function readWaitingMessages(
  db: Reader,
  way: MessageRecord['way'],
  most: number,
): Promise<MessageRecord[]> {
  return db
    .select()
    .from(alarmMessages)
    .where(and(eq(alarmMessages.way, way), isNull(alarmMessages.givenUpAt)))
    .orderBy(asc(alarmMessages.seq))
    .limit(most);
}

/** How many wait, and what was given up, the latest first. */
export async function readUntold(
  db: Reader,
  most: number,
): Promise<{ readonly waiting: number; readonly givenUp: readonly MessageRecord[] }> {
  const [counted] = await db
    .select({ n: sql<number>`count(*)::int` })
    .from(alarmMessages)
    .where(isNull(alarmMessages.givenUpAt));
  const givenUp = await db
    .select()
    .from(alarmMessages)
    .where(isNotNull(alarmMessages.givenUpAt))
    .orderBy(desc(alarmMessages.givenUpAt), desc(alarmMessages.seq))
    .limit(most);
  return { waiting: counted?.n ?? 0, givenUp };
}

/** Queues messages; part of the transaction that writes what they tell of. */
export async function queueMessages(tx: Transaction, messages: readonly NewMessage[]): Promise<void> {
  if (messages.length) await tx.insert(alarmMessages).values([...messages]);
}

/** They were told. */
export async function dropMessages(tx: Transaction, ids: readonly string[]): Promise<void> {
  if (ids.length) await tx.delete(alarmMessages).where(inArray(alarmMessages.id, [...ids]));
}

/** It could not be told. @param givenUpAt null while it is tried again */
export async function noteUntold(
  tx: Transaction,
  id: string,
  trouble: string,
  givenUpAt: string | null,
): Promise<void> {
  await tx
    .update(alarmMessages)
    .set({ trouble, givenUpAt, tries: sql`${alarmMessages.tries} + 1` })
    .where(eq(alarmMessages.id, id));
}

/** What was given up is shown for a while, and then goes. */
export async function forgetGivenUp(tx: Transaction, before: string): Promise<void> {
  await tx.delete(alarmMessages).where(lt(alarmMessages.givenUpAt, before));
}
