import { Worker } from 'node:worker_threads';
import { Refusal, refusalSaid } from '@frustum/core';
import type { Store } from './commands/index.ts';
import { diskRefusal, errorOf } from './failures.ts';
import { FOLDER_LOST } from './folder-lock.ts';
import { damaged, NOT_OPENED } from './first-database.ts';
import { storeFolders, withKnownGood } from './known-good.ts';
import type { Answer, ThreadCommands, WorkerOptions } from './messages.ts';

export interface OpenStore {
  readonly store: Store;
  readonly thread: ThreadCommands;
  readonly close: () => Promise<void>;
  /** ends the thread as a crash would, and it opens again; for tests */
  readonly crash: () => Promise<unknown>;
}

/** A thread that has ended is started again; one that ends so often within a minute stays away. */
const MAX_DEATHS = 3;
const WITHIN_MS = 60_000;

const AWAY = new Refusal(
  'store-away',
  'Frustum’s database has just ended and is opened again: this was not kept there. What waits on this device is sent again by itself.',
);
const GONE = new Refusal(
  'store-gone',
  'Frustum’s database does not open any more: nothing is kept there. Start Frustum anew, and look at what it says.',
);

interface Waiting {
  readonly resolve: (value: unknown) => void;
  readonly reject: (error: Error) => void;
}

/**
 * Starts the database's thread and waits until it has opened and migrated its folder. When the thread ends by itself it is
 * started again, and what was asked meanwhile is refused in words.
 *
 * @param script the worker, as built or as source
 * @param onTrouble told why nothing is kept just now, and null once it is again
 * @param say receives sentences for the person who starts the server
 * @throws Error when the thread dies before it was ready for the first time
 */
export async function openStore(
  script: URL,
  options: WorkerOptions,
  onTrouble: (trouble: Refusal | null) => void = () => {},
  say: (sentence: string) => void = () => {},
): Promise<OpenStore> {
  const deaths: number[] = [];
  let count = 0;
  let closing = false;
  let gone = false;
  let thread = begin();
  await thread.ready;

  function begin() {
    const waiting = new Map<number, Waiting>();
    const worker = new Worker(script, {
      workerData: options,
      execArgv: script.pathname.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    const wait = (id: number) => new Promise<unknown>((resolve, reject) => waiting.set(id, { resolve, reject }));
    let first: Error | null = null;
    worker.on('error', (error: unknown) => (first ??= errorOf(error)));
    worker.on('exit', () => died(waiting, first));
    worker.on('message', (answer: Answer) => {
      if ('said' in answer) return say(answer.said);
      const mine = waiting.get(answer.id);
      waiting.delete(answer.id);
      if (answer.ok) mine?.resolve(answer.value);
      else if ('refusal' in answer) {
        const refusal = refusalSaid(answer.refusal);
        if (refusal.code === FOLDER_LOST.code) onTrouble(refusal);
        mine?.reject(refusal);
      } else mine?.reject(new Error(answer.crash));
    });
    let isReady = false;
    const ready = wait(0).then(() => (isReady = true));
    // A caller that waits gets the error; without one it is reported as trouble.
    ready.catch(() => undefined);
    return { worker, wait, ready, hasBeenReady: () => isReady };
  }

  /** @param why what the thread itself said, where it said anything */
  function died(waiting: ReadonlyMap<number, Waiting>, why: Error | null): void {
    const wasReady = thread.hasBeenReady();
    // A library that gives up on its files may end the thread before that has said so.
    const unopened = (why && diskRefusal(why)) ?? notOpened() ?? why;
    const refusal = wasReady ? AWAY : (unopened ?? new Error('the database thread has ended'));
    for (const { reject } of waiting.values()) reject(refusal);
    if (closing || (!wasReady && deaths.length === 0)) return;
    const now = performance.now();
    deaths.push(now);
    gone = deaths.filter((at) => now - at < WITHIN_MS).length > MAX_DEATHS;
    onTrouble(gone ? GONE : AWAY);
    if (gone) return;
    thread = begin();
    thread.ready.then(
      () => onTrouble(null),
      () => undefined,
    );
  }

  function notOpened(): Refusal | null {
    if (options.dataFolder === null) return null;
    const folders = storeFolders(options.dataFolder);
    return withKnownGood(damaged(folders.database, NOT_OPENED), folders);
  }

  async function ask(command: string, args: readonly unknown[]): Promise<unknown> {
    if (gone) throw GONE;
    const mine = thread;
    // While it opens again, questions wait for it.
    if (!mine.hasBeenReady()) await mine.ready.catch(() => Promise.reject(AWAY));
    const id = ++count;
    const answer = mine.wait(id);
    mine.worker.postMessage({ id, command, args });
    return answer;
  }

  const asking = <T extends object>() =>
    new Proxy({} as T, {
      get: (_, command) => (command === 'then' ? undefined : (...args: unknown[]) => ask(String(command), args)),
    });
  return {
    store: asking<Store>(),
    thread: asking<ThreadCommands>(),
    crash: () => thread.worker.terminate(),
    async close() {
      closing = true;
      if (gone) return;
      // A thread that is just opening again works on the folder, too: the caller may move its files next.
      const opened = await thread.ready.catch(() => false);
      if (opened) await ask('close', []);
      await thread.worker.terminate();
    },
  };
}
