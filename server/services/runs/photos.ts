import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Refusal, type RunId } from '@frustum/core';
import type { Context } from '../../context.ts';
import { flushed } from '../../store/journal.ts';
import { requireUnpacks, withoutMetadata, type ImageType } from './image.ts';

/** A photo may have so many bytes; a browser makes its own smaller before it sends them. */
export const MAX_PHOTO_BYTES = 12_000_000;

const fileOf = ({ config }: Context, photoId: string) => join(config.dataFolder, 'photos', photoId);

/**
 * Keeps a picture of a display for a run: checked by its own bytes, without metadata, in the data folder, under a name
 * that nobody chose. A refused photo leaves no file.
 *
 * @throws Refusal `run-unknown`, `not-an-image`, `image-too-large`, `too-many-photos`
 */
export async function keepPhoto(context: Context, runId: RunId, sent: unknown): Promise<{ photoId: string }> {
  if (!(await context.store.readRun(runId)))
    throw new Refusal('run-unknown', 'There is no such run. Go back to Margins.', { runId });
  const bare = withoutMetadata(Buffer.isBuffer(sent) ? sent : Buffer.alloc(0));
  await requireUnpacks(bare);
  const { type, bytes } = bare;
  const id = context.newId();
  const file = fileOf(context, id);
  try {
    await mkdir(dirname(file), { recursive: true });
    // It is on the disk before it is acknowledged, like everything else.
    await writeFile(file, bytes, { flag: 'wx', mode: 0o600, flush: true });
    flushed(dirname(file));
    const at = new Date(context.now()).toISOString();
    await context.store.keepPhoto({ id, runId, type, bytes: bytes.length, at });
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
  return { photoId: id };
}

/** @throws Refusal `photo-unknown` */
export async function readPhoto(context: Context, photoId: string): Promise<{ type: ImageType; bytes: Buffer }> {
  const kept = await context.store.readPhoto(photoId);
  const bytes = kept && (await readFile(fileOf(context, photoId)).catch(() => null));
  if (!kept || !bytes) throw new Refusal('photo-unknown', 'There is no such picture.', { photoId });
  return { type: kept.type, bytes };
}
