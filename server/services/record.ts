import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Refusal, replay } from '@frustum/core';
import { recordOf } from '@frustum/formats';
import type { Context } from '../context.ts';
import { readPhoto } from './photos.ts';
import { fittedOf, readRun } from './runs.ts';

/** What is used of the PDF library. */
interface PdfMake {
  setFonts(fonts: Readonly<Record<string, Readonly<Record<string, string>>>>): void;
  setUrlAccessPolicy(allowed: (url: string) => boolean): void;
  setLocalAccessPolicy(allowed: (path: string) => boolean): void;
  createPdf(document: object): { getBuffer(): Promise<Buffer> };
}

const require = createRequire(import.meta.url);
let made: PdfMake | null = null;

/** The library with its own fonts: it fetches nothing, and reads no file but these. */
function library(): PdfMake {
  if (made) return made;
  const pdfmake = require('pdfmake') as PdfMake;
  const fonts = join(dirname(require.resolve('pdfmake/package.json')), 'fonts/Roboto');
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => path.startsWith(fonts));
  pdfmake.setFonts({
    Roboto: {
      normal: join(fonts, 'Roboto-Regular.ttf'),
      bold: join(fonts, 'Roboto-Medium.ttf'),
      italics: join(fonts, 'Roboto-Italic.ttf'),
      bolditalics: join(fonts, 'Roboto-MediumItalic.ttf'),
    },
  });
  return (made = pdfmake);
}

/**
 * The printable record of a run, ended or still going.
 *
 * @returns a PDF and a plain name for its file
 * @throws Refusal `run-unknown`
 */
export async function printRecord(context: Context, runId: string): Promise<{ name: string; pdf: Buffer }> {
  const view = await readRun(context, runId);
  const { siteName, loop, sensor } = await fittedOf(context, view.sensorId);
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
  const { serial } = sensor;
  const make = (pictures: Readonly<Record<string, string>>) => {
    const of = { runId, siteName, place, serial, state, events: view.events, photos: pictures };
    return library().createPdf(recordOf(of)).getBuffer();
  };
  const pdf = await make(photos).catch((error: unknown) => {
    // A picture whose inside cannot be read: the record comes without pictures rather than not at all.
    context.log.warn({ error, runId }, 'a record was printed without its pictures');
    return make({});
  });
  const plain = loop.name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return { name: `${plain || 'run'}-${state.startedAt.slice(0, 10)}.pdf`, pdf };
}
