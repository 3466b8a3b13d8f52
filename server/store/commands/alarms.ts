import type { SensorId } from '@frustum/core';
import { and, desc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { alarms } from '../schema/index.ts';
import { queueMessages, type NewMessage } from './alarm-messages.ts';

export type AlarmRecord = typeof alarms.$inferSelect;

/** Alarms whose cause lasts, the newest first. */
export async function readStandingAlarms(db: Reader): Promise<AlarmRecord[]> {
  return db.select().from(alarms).where(isNull(alarms.clearedAt)).orderBy(desc(alarms.raisedAt));
}

/** Alarms whose cause is gone, the latest first. */
export async function readPastAlarms(db: Reader, most: number): Promise<AlarmRecord[]> {
  return db.select().from(alarms).where(isNotNull(alarms.clearedAt)).orderBy(desc(alarms.clearedAt)).limit(most);
}

/** Every alarm of a sensor, the oldest first. */
export async function readAlarmsOf(db: Reader, sensorId: SensorId): Promise<AlarmRecord[]> {
  return db.select().from(alarms).where(eq(alarms.sensorId, sensorId)).orderBy(alarms.raisedAt);
}

export interface AlarmChanges {
  readonly raised: readonly AlarmRecord[];
  /** those that stand on, as they are told now; `anew`: also to those who have seen them */
  readonly changed: readonly (AlarmRecord & { readonly anew: boolean })[];
  readonly over: readonly string[];
  readonly at: string;
  readonly messages: readonly NewMessage[];
}

/**
 * Raises what is new, ends what is over, notes on which ways the others have gone, and queues what is told of it, in one go. A cause
 * that stands already is not raised again; one that somebody has seen meanwhile stays seen.
 */
export async function changeAlarms(
  tx: Transaction,
  { raised, changed, over, at, messages }: AlarmChanges,
): Promise<void> {
  await queueMessages(tx, messages);
  if (over.length)
    await tx
      .update(alarms)
      .set({ clearedAt: at })
      .where(inArray(alarms.id, [...over]));
  for (const { id, level, text, told, anew, snoozedUntil, tellingSince } of changed) {
    const again = { level, text, snoozedUntil, tellingSince, acknowledgedAt: null, acknowledgedBy: null };
    await tx
      .update(alarms)
      .set({ told, ...(anew ? again : {}) })
      .where(eq(alarms.id, id));
  }
  if (raised.length)
    await tx
      .insert(alarms)
      .values([...raised])
      .onConflictDoNothing();
}

/** Quiet until then. */
export async function snoozeAlarm(
  tx: Transaction,
  id: string,
  snoozedUntil: string,
  messages: readonly NewMessage[],
): Promise<void> {
  await tx
    .update(alarms)
    .set({ snoozedUntil, acknowledgedAt: null, acknowledgedBy: null })
    .where(and(eq(alarms.id, id), isNull(alarms.clearedAt)));
  await queueMessages(tx, messages);
}

/** @returns false when there is no such alarm, or somebody was faster */
export async function acknowledgeAlarm(
  tx: Transaction,
  id: string,
  by: string,
  at: string,
  messages: readonly NewMessage[] = [],
): Promise<boolean> {
  const done = await tx
    .update(alarms)
    .set({ acknowledgedAt: at, acknowledgedBy: by, snoozedUntil: null })
    .where(and(eq(alarms.id, id), isNull(alarms.acknowledgedAt)))
    .returning({ id: alarms.id });
  if (done.length > 0) await queueMessages(tx, messages);
  return done.length > 0;
}
