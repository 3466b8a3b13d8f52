/** Prints one record and ends: pictures that somebody sent are decoded here and nowhere else. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { Refusal, replay, saidOf } from '@frustum/core';
import { recordOf } from '@frustum/formats';
import type { Printed, PrintJob } from './services/runs/printer.ts';

/** What is used of the PDF library. */
interface PdfMake {
  setFonts(fonts: Readonly<Record<string, Readonly<Record<string, string>>>>): void;
  setUrlAccessPolicy(allowed: (url: string) => boolean): void;
  setLocalAccessPolicy(allowed: (path: string) => boolean): void;
  createPdf(document: object): { getBuffer(): Promise<Buffer> };
}

/** The library with its own fonts: it fetches nothing, and reads no file but these. */
function library(): PdfMake {
  const require = createRequire(import.meta.url);
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
  return pdfmake;
}

const job = workerData as PrintJob;
const tell = (printed: Printed) => parentPort!.postMessage(printed);
try {
  const document = recordOf({ ...job, state: replay(job.events) });
  tell({ pdf: await library().createPdf(document).getBuffer() });
} catch (error) {
  if (error instanceof Refusal) tell({ refusal: saidOf(error) });
  else tell({ trouble: error instanceof Error ? error.message : String(error) });
}
