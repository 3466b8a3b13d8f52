import { Refusal, replay, type RunId } from '@frustum/core';
import type { Context } from '../../context.ts';
import { readPhoto } from './photos.ts';
import { print } from './printer.ts';
import { placeOf, readRun } from './runs.ts';

/**
 * The printable record of a run, ended or still going.
 *
 * @returns a PDF and a plain name for its file
 * @throws Refusal `run-unknown`
 */
export async function printRecord(context: Context, runId: RunId): Promise<{ name: string; pdf: Buffer }> {
  const view = await readRun(context, runId);
  const [{ siteName, loop }, life] = await Promise.all([placeOf(context, view), context.store.readLife(view.sensorId)]);
  const state = replay(view.events);
  const photos: Record<string, string> = {};
  for (const { photoId } of state.photos) {
    const photo = await readPhoto(context, photoId).catch((error: unknown) => {
      // A picture that is gone takes nothing else along.
      if (error instanceof Refusal) return null;
      throw error;
    });
    if (photo) photos[photoId] = `data:${photo.type};base64,${photo.bytes.toString('base64')}`;
  }
  const { place } = loop;
  const serial = life?.sensor.serial ?? '';
  const job = { runId, siteName, place, serial, events: view.events };
  const pdf = await print({ ...job, photos }).catch((error: unknown) => {
    if (error instanceof Refusal) throw error;
    // A picture whose inside cannot be read, or takes too long: the record comes without pictures rather than not at all.
    context.log.warn({ error, runId }, 'a record was printed without its pictures');
    return print({ ...job, photos: {} });
  });
  const plain = loop.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return { name: `${plain || 'run'}-${state.startedAt.slice(0, 10)}.pdf`, pdf };
}
