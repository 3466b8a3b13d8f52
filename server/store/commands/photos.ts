import { count, eq } from 'drizzle-orm';
import { Refusal } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { photos } from '../schema/index.ts';

type PhotoRecord = typeof photos.$inferSelect;

/** Pictures that one run may have. */
const MAX_A_RUN = 40;

export async function readPhoto(db: Reader, photoId: string): Promise<PhotoRecord | null> {
  const [row] = await db.select().from(photos).where(eq(photos.id, photoId));
  return row ?? null;
}

/** Of every picture there is. */
export const readPhotoIds = async (db: Reader): Promise<string[]> =>
  (await db.select({ id: photos.id }).from(photos)).map((p) => p.id);

/** @throws Refusal `too-many-photos` */
export async function keepPhoto(tx: Transaction, photo: PhotoRecord): Promise<void> {
  const [have] = await tx.select({ n: count() }).from(photos).where(eq(photos.runId, photo.runId));
  if ((have?.n ?? 0) >= MAX_A_RUN)
    throw new Refusal('too-many-photos', `This run has ${MAX_A_RUN} pictures already. Keep what counts.`);
  await tx.insert(photos).values(photo);
}
