import { Worker } from 'node:worker_threads';
import { refusalSaid, type RefusalSaid } from '@frustum/core';
import type { RecordOf } from '@frustum/formats';

/** What a record is made of, as it goes to the thread that prints it: the state is made from the events there. */
export type PrintJob = Omit<RecordOf, 'state'>;
export type Printed = { readonly pdf: Uint8Array } | { readonly refusal: RefusalSaid } | { readonly trouble: string };

/** Longer than this, or with more memory, no record takes: a picture inside it does. */
const LIMITS = { milliseconds: 20_000, megabytes: 256 };

/** As built, whether we are built or a test runs us from the source. */
const SCRIPT = new URL(
  import.meta.filename.endsWith('.js') ? './print-worker.js' : '../../dist/print-worker.js',
  import.meta.url,
);

/** One record after the other: two at once would take the memory of two. */
let last: Promise<unknown> = Promise.resolve();

/**
 * Prints a record in a thread of its own, with limits of time and memory: whatever is in its pictures, the server goes on.
 *
 * @returns the bytes of a PDF
 * @throws Refusal as `recordOf`; Error when the limits are passed or a picture cannot be read
 */
export function print(job: PrintJob, limits = LIMITS): Promise<Buffer> {
  const mine = last.then(() => printNow(job, limits));
  last = mine.catch(() => undefined);
  return mine;
}

async function printNow(job: PrintJob, limits: typeof LIMITS): Promise<Buffer> {
  const worker = new Worker(SCRIPT, { workerData: job, resourceLimits: { maxOldGenerationSizeMb: limits.megabytes } });
  let late: NodeJS.Timeout | undefined;
  try {
    const printed = await new Promise<Printed>((resolve, reject) => {
      late = setTimeout(() => reject(new Error(`not printed within ${limits.milliseconds} ms`)), limits.milliseconds);
      worker.once('message', resolve);
      worker.once('error', reject);
      worker.once('exit', () => reject(new Error('the printing thread has ended')));
    });
    if ('refusal' in printed) throw refusalSaid(printed.refusal);
    if ('trouble' in printed) throw new Error(printed.trouble);
    return Buffer.from(printed.pdf);
  } finally {
    clearTimeout(late);
    await worker.terminate();
  }
}
