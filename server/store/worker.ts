/**
 * The database's own thread. PGlite blocks the thread that it runs in for as long as a query takes; here that is no
 * matter. Whole commands cross the boundary, so that a transaction begins and ends on this side. What a command has written is
 * answered once it is in the journal, too.
 */
import { parentPort, workerData } from 'node:worker_threads';
import { drizzle } from 'drizzle-orm/pglite';
import { Refusal, saidOf } from '@frustum/core';
import { changesOf } from './changes.ts';
import { READERS, WRITERS } from './commands/index.ts';
import type { Database, Transaction } from './database.ts';
import { bootId, noteState } from './database-state.ts';
import { diskRefusal, failureWords } from './failures.ts';
import { finished } from './first-database.ts';
import { FOLDER_LOST, holds } from './folder-lock.ts';
import * as schema from './schema/index.ts';
import type { Answer, Request, ThreadCommands, WorkerOptions } from './messages.ts';
import { migrationsIn } from './migrations.ts';
import { openFolder, openPassing } from './opening.ts';
import { sizesOf } from './pages.ts';
import { thinOut } from './retention.ts';
import { takeSnapshot } from './snapshot.ts';
import { countedRows } from './tables.ts';

const port = parentPort;
if (!port) throw new Error('the store worker runs in a worker thread');
const options = workerData as WorkerOptions;
const tell = (answer: Answer) => port.postMessage(answer);

const opening =
  options.dataFolder === null
    ? openPassing(migrationsIn(options.migrations))
    : openFolder(options.dataFolder, options.migrations, (said) => tell({ said }), options.boot);
const { client, kept } = await opening.catch((error: unknown) => {
  if (!(error instanceof Refusal)) throw error;
  // A thread's error arrives without its class: told as an answer, it keeps its words.
  tell({ id: 0, ok: false, refusal: saidOf(error) });
  // Nothing keeps the thread from ending once its words are out.
  port.close();
  return new Promise<never>(() => {});
});
const db: Database = drizzle(client, { schema });

// One at a time, in the order asked: PGlite has one connection, and commands must not interleave in it.
let queue: Promise<unknown> = Promise.resolve();
function between<T>(job: () => Promise<T>): Promise<T> {
  const mine = queue.then(job);
  queue = mine.catch(() => undefined);
  return mine;
}
/** Commands that are under way, and when the last one ended. */
let underWay = 0;
let endedAt = -Infinity;
port.on('message', (request: Request) => void answer(request));
tell({ id: 0, ok: true, value: null });

/** A page asks for one thing after the other: until so long nothing came, it has the way, ms; and for so long at most. */
const QUIET_MS = 12;
const MAX_PATIENCE_MS = 300;
/** Runs a slice of the copying when no question is waiting. */
async function aside<T>(job: () => Promise<T>): Promise<T> {
  // PGlite answers without giving way: what was asked meanwhile is heard first.
  await new Promise((resolve) => setImmediate(resolve));
  const since = performance.now();
  while ((underWay > 0 || performance.now() - endedAt < QUIET_MS) && performance.now() - since < MAX_PATIENCE_MS)
    await new Promise((resolve) => setTimeout(resolve, QUIET_MS / 3));
  return between(job);
}

async function answer(request: Request): Promise<void> {
  const command = !Object.hasOwn(THREAD, request.command);
  if (command) underWay++;
  try {
    tell({ id: request.id, ok: true, value: await perform(request) });
  } catch (error) {
    const refusal = error instanceof Refusal ? error : diskRefusal(error);
    tell(
      refusal
        ? { id: request.id, ok: false, refusal: saidOf(refusal) }
        : { id: request.id, ok: false, crash: failureWords(request.command, error) },
    );
  } finally {
    if (command) {
      underWay--;
      endedAt = performance.now();
    }
  }
}

async function perform({ command, args }: Request): Promise<unknown> {
  if (command === 'close') return between(close);
  if (Object.hasOwn(THREAD, command)) return THREAD[command as keyof ThreadCommands]();
  if (Object.hasOwn(READERS, command)) {
    const read = READERS[command as keyof typeof READERS] as (db: Database, ...args: unknown[]) => Promise<unknown>;
    return between(() => read(db, ...args));
  }
  if (Object.hasOwn(WRITERS, command)) {
    const write = WRITERS[command as keyof typeof WRITERS] as (tx: unknown, ...args: unknown[]) => Promise<unknown>;
    return between(() => written((tx) => write(tx, ...args)));
  }
  throw new Error(`the store has no command ${command}`);
}

/** One write: what it changes is in the journal before it is in the database, and nowhere when it fails. */
async function written(write: (tx: Transaction) => Promise<unknown>): Promise<unknown> {
  // A process that slept or was cut off may have lost the folder to a second one.
  if (options.holder && !holds(options.holder.file, options.holder.token)) throw FOLDER_LOST;
  let seq: number | null = null;
  try {
    return await db.transaction(async (tx) => {
      const value = await write(tx);
      const changes = kept ? await changesOf(tx) : '';
      if (changes) seq = await kept!.journal.keep(changes);
      return value;
    });
  } catch (error) {
    if (seq !== null) await kept!.journal.withdraw(seq).catch(() => undefined);
    throw error;
  }
}

let making = { rows: 0, of: 0 };
let snapshots = Promise.resolve<unknown>(null);
const THREAD: ThreadCommands = {
  snapshot() {
    const { folders, journal, house, migrations } = mustKeep();
    const mine = snapshots.then(async () => {
      making = { rows: 0, of: 0 };
      const onProgress = (rows: number, of: number) => void (making = { rows, of });
      const source = { client, between: aside, journal, house, migrations, now: Date.now, onProgress };
      const taken = await takeSnapshot(folders.snapshots, source);
      await thinOut(folders.snapshots, journal, house);
      noteState(folders.database, { closed: false, boot: options.boot ?? bootId(), sizes: sizesOf(folders.database) });
      return taken;
    });
    snapshots = mine.catch(() => null);
    return mine;
  },
  begun: async () => {
    if (kept) finished(kept.folders.database);
  },
  state: async () => ({
    house: kept?.house ?? '',
    seq: kept?.journal.lastSeq ?? 0,
    bytes: kept?.journal.size ?? 0,
    counts: await between(() => countedRows(client)),
    making,
  }),
};

function mustKeep() {
  if (!kept) throw new Error('a database that passes has no snapshots');
  return kept;
}

async function close(): Promise<null> {
  await client.close();
  if (kept) {
    await kept.journal.close();
    const { database } = kept.folders;
    noteState(database, { closed: true, boot: options.boot ?? bootId(), sizes: sizesOf(database) });
  }
  setImmediate(() => port!.close());
  return null;
}
