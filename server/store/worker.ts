/**
 * The database's own thread. PGlite blocks the thread that it runs in for as long as a query takes; here that is no
 * matter. Whole commands cross the boundary, so that a transaction begins and ends on this side.
 */
import { existsSync, openAsBlob } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { Refusal } from '@frustum/core';
import { READERS, WRITERS } from './commands/index.ts';
import type { Database } from './database.ts';
import { diskRefusal, failureWords } from './failures.ts';
import * as schema from './schema/index.ts';
import type { Answer, Request, WorkerOptions } from './messages.ts';

const port = parentPort;
if (!port) throw new Error('the store worker runs in a worker thread');
const options = workerData as WorkerOptions;

// A new database begins as a copy of an empty one that the build has made (`empty-database.ts`): a third of the time. Whatever
// migrations have come since are applied to it like to any other.
const empty = fileURLToPath(new URL('./empty-database.tar.gz', import.meta.url));
const begins = !options.folder || !existsSync(join(options.folder, 'PG_VERSION'));
const client = await PGlite.create({
  dataDir: options.folder ?? 'memory://',
  ...(begins && existsSync(empty) ? { loadDataDir: await openAsBlob(empty) } : {}),
});
const db: Database = drizzle(client, { schema });
await migrate(db, { migrationsFolder: options.migrations });

// One at a time, in the order asked: PGlite has one connection, and commands must not interleave in it.
let queue: Promise<unknown> = Promise.resolve();
port.on('message', (request: Request) => {
  queue = queue.then(() => answer(request));
});
port.postMessage({ id: 0, ok: true, value: null } satisfies Answer);

async function answer(request: Request): Promise<void> {
  try {
    const value = await perform(request);
    port!.postMessage({ id: request.id, ok: true, value } satisfies Answer);
  } catch (error) {
    const refusal = error instanceof Refusal ? error : diskRefusal(error);
    const failure: Answer = refusal
      ? { id: request.id, ok: false, refusal: { code: refusal.code, message: refusal.message, facts: refusal.facts } }
      : { id: request.id, ok: false, crash: failureWords(request.command, error) };
    port!.postMessage(failure);
  }
}

async function perform({ command, args }: Request): Promise<unknown> {
  if (command === 'close') {
    await client.close();
    setImmediate(() => port!.close());
    return null;
  }
  if (Object.hasOwn(READERS, command)) {
    const read = READERS[command as keyof typeof READERS] as (db: Database, ...args: unknown[]) => Promise<unknown>;
    return read(db, ...args);
  }
  if (Object.hasOwn(WRITERS, command)) {
    const write = WRITERS[command as keyof typeof WRITERS] as (tx: unknown, ...args: unknown[]) => Promise<unknown>;
    return db.transaction((tx) => write(tx, ...args));
  }
  throw new Error(`the store has no command ${command}`);
}
