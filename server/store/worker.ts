/**
 * The database's own thread. PGlite blocks the thread that it runs in for as long as a query takes; here that is no
 * matter. Whole commands cross the boundary, so that a transaction begins and ends on this side.
 */
import { existsSync, openAsBlob } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parentPort, workerData } from 'node:worker_threads';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { Refusal } from '@frustum/core';
import { READERS, WRITERS } from './commands/index.ts';
import type { Database } from './database.ts';
import { diskRefusal, failureWords } from './failures.ts';
import { begun, damaged, finished, NOT_OPENED, wantsNew } from './first-database.ts';
import * as schema from './schema/index.ts';
import type { Answer, Request, WorkerOptions } from './messages.ts';

const port = parentPort;
if (!port) throw new Error('the store worker runs in a worker thread');
const options = workerData as WorkerOptions;

// A new database begins as a copy of an empty one that the build has made (`empty-database.ts`): a third of the time. Whatever
// migrations have come since are applied to it like to any other.
const empty = fileURLToPath(new URL('./empty-database.tar.gz', import.meta.url));
const { folder } = options;
const { client, db } = await opened().catch((error: unknown) => {
  // A thread's error arrives without its class: told as an answer, it keeps its words.
  const refusal =
    error instanceof Refusal ? error : (diskRefusal(error) ?? (folder ? damaged(folder, reasonOf(error)) : null));
  if (!refusal) throw error;
  const { code, message, facts } = refusal;
  port.postMessage({ id: 0, ok: false, refusal: { code, message, facts } } satisfies Answer);
  // Nothing keeps the thread from ending once its words are out.
  port.close();
  return new Promise<never>(() => {});
});

async function opened(): Promise<{ client: PGlite; db: Database }> {
  const begins = folder === null || wantsNew(folder);
  if (begins && folder !== null) begun(folder);
  const made = await PGlite.create({
    dataDir: folder ?? 'memory://',
    ...(begins && existsSync(empty) ? { loadDataDir: await openAsBlob(empty) } : {}),
  });
  const drizzled: Database = drizzle(made, { schema });
  await migrate(drizzled, { migrationsFolder: options.migrations });
  if (begins && folder !== null) finished(folder);
  return { client: made, db: drizzled };
}

/** Why it does not open. The database’s library says no more than that it gave up; what PostgreSQL says itself is kept. */
function reasonOf(error: unknown): string {
  const code = error instanceof Error ? (error as { code?: string }).code : undefined;
  return code && /^[0-9A-Z]{5}$/.test(code) ? `PostgreSQL says ${code}` : NOT_OPENED;
}

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
