/** Builds a house from a backup in a folder of its own, in a thread of its own: the present one goes on meanwhile. */
import { parentPort, workerData } from 'node:worker_threads';
import { Refusal } from '@frustum/core';
import { diskRefusal, failureWords } from './failures.ts';
import { migrationsIn } from './migrations.ts';
import { EMPTY } from './empty-copy.ts';
import { build } from './rebuild.ts';

export interface BuildOrder {
  readonly target: string;
  readonly backup: string;
  /** id of the new house */
  readonly house: string;
  readonly migrations: string;
}

export type BuildNews =
  | { readonly rows: number; readonly of: number }
  | { readonly counts: Readonly<Record<string, number>> }
  | { readonly refusal: { readonly code: string; readonly message: string } };

const port = parentPort;
if (!port) throw new Error('the build worker runs in a worker thread');
const { target, backup, house, migrations } = workerData as BuildOrder;
const tell = (news: BuildNews) => port.postMessage(news);

try {
  const { counts } = await build(
    target,
    { backup, then: [], house },
    { migrations: migrationsIn(migrations), empty: EMPTY, onProgress: (rows, of) => tell({ rows, of }) },
  );
  tell({ counts });
} catch (error) {
  const refusal = error instanceof Refusal ? error : diskRefusal(error);
  tell({ refusal: { code: refusal?.code ?? 'crash', message: refusal?.message ?? failureWords('build', error) } });
}
port.close();
