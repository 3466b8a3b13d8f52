import type { ChannelId } from '@frustum/core';
import { Refusal } from '@frustum/core';
import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database.ts';
import { readingMinutes, walkReadings, walks } from '../schema/index.ts';
import { keepMinutes, type MinuteRecord } from './readings.ts';

export type WalkRecord = typeof walks.$inferSelect;
export type WalkReading = typeof walkReadings.$inferSelect;

/** The walk that is under way, with what was read in it; or the last one that ended. */
export async function readWalk(
  db: Reader,
): Promise<{ readonly walk: WalkRecord; readonly readings: readonly WalkReading[] } | null> {
  const [open] = await db.select().from(walks).where(isNull(walks.endedAt)).orderBy(desc(walks.begunAt)).limit(1);
  const [last] = open ? [open] : await db.select().from(walks).orderBy(desc(walks.begunAt)).limit(1);
  if (!last) return null;
  const readings = await db
    .select()
    .from(walkReadings)
    .where(eq(walkReadings.walkId, last.id))
    .orderBy(asc(walkReadings.seq));
  return { walk: last, readings };
}

/** Begins a walk, unless one is under way: then that one is gone on with. */
export async function beginWalk(tx: Transaction, walk: WalkRecord): Promise<WalkRecord> {
  const [open] = await tx.select().from(walks).where(isNull(walks.endedAt)).orderBy(desc(walks.begunAt)).limit(1);
  if (open) return open;
  await tx.insert(walks).values(walk);
  return walk;
}

/** It is done. @throws Refusal `walk-unknown` */
export async function endWalk(tx: Transaction, id: string, endedAt: string): Promise<void> {
  const [known] = await tx.select().from(walks).where(eq(walks.id, id));
  if (!known) throw walkUnknown(id);
  if (known.endedAt === null) await tx.update(walks).set({ endedAt }).where(eq(walks.id, id));
}

const walkUnknown = (id: string) => new Refusal('walk-unknown', 'There is no such walk. Begin one.', { id });

/**
 * Keeps a reading, and as a minute of its channel. The same one sent twice is there once. One that corrects another takes the place of
 * that one's minute, too: nobody reads a display twice within a minute to see it change.
 *
 * @param replaces minute of the reading that it corrects; null for none
 * @returns false when it was there already
 * @throws Refusal `walk-unknown`, `walk-ended`
 */
export async function keepWalkReading(
  tx: Transaction,
  reading: Omit<WalkReading, 'seq'>,
  minute: MinuteRecord,
  replaces: { readonly channelId: ChannelId; readonly minute: string } | null,
): Promise<boolean> {
  const [walk] = await tx.select().from(walks).where(eq(walks.id, reading.walkId));
  if (!walk) throw walkUnknown(reading.walkId);
  const [there] = await tx.select({ id: walkReadings.id }).from(walkReadings).where(eq(walkReadings.id, reading.id));
  if (there) return false;
  if (walk.endedAt !== null)
    throw new Refusal('walk-ended', 'This walk was ended meanwhile. Begin a new walk: what was kept stays.', {
      id: walk.id,
    });
  await tx.insert(walkReadings).values(reading);
  if (replaces)
    await tx
      .delete(readingMinutes)
      .where(and(eq(readingMinutes.channelId, replaces.channelId), eq(readingMinutes.minute, replaces.minute)));
  await keepMinutes(tx, [minute]);
  return true;
}
