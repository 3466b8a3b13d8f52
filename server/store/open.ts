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

/** One life of the thread: what was asked of it and is not answered yet. */
interface Thread {
  readonly worker: Worker;
  readonly waiting: Map<number, Waiting>;
  readonly ready: Promise<unknown>;
  isReady: boolean;
}

/** The database's thread, through all of its lives. */
class StoreThread {
  private readonly deaths: number[] = [];
  private count = 0;
  private closing = false;
  private gone = false;
  private thread: Thread;
  private readonly script: URL;
  private readonly options: WorkerOptions;
  private readonly onTrouble: (trouble: Refusal | null) => void;
  private readonly say: (sentence: string) => void;

  constructor(
    script: URL,
    options: WorkerOptions,
    onTrouble: (trouble: Refusal | null) => void,
    say: (sentence: string) => void,
  ) {
    this.script = script;
    this.options = options;
    this.onTrouble = onTrouble;
    this.say = say;
    this.thread = this.begin();
  }

  get ready(): Promise<unknown> {
    return this.thread.ready;
  }

  async ask(command: string, args: readonly unknown[]): Promise<unknown> {
    if (this.gone) throw GONE;
    const mine = this.thread;
    // While it opens again, questions wait for it.
    if (!mine.isReady) await mine.ready.catch(() => Promise.reject(AWAY));
    const id = ++this.count;
    const answer = answerTo(mine.waiting, id);
    mine.worker.postMessage({ id, command, args });
    return answer;
  }

  crash(): Promise<number> {
    return this.thread.worker.terminate();
  }

  async close(): Promise<void> {
    this.closing = true;
    if (this.gone) return;
    // A thread that is just opening again works on the folder, too: the caller may move its files next.
    const opened = await this.thread.ready.catch(() => false);
    if (opened) await this.ask('close', []);
    await this.thread.worker.terminate();
  }

  private begin(): Thread {
    const waiting = new Map<number, Waiting>();
    const worker = new Worker(this.script, {
      workerData: this.options,
      execArgv: this.script.pathname.endsWith('.ts') ? ['--import', 'tsx'] : [],
    });
    let first: Error | null = null;
    worker.on('error', (error: unknown) => (first ??= errorOf(error)));
    worker.on('exit', () => this.died(waiting, first));
    worker.on('message', (answer: Answer) => this.hear(waiting, answer));
    const thread: Thread = {
      worker,
      waiting,
      isReady: false,
      ready: answerTo(waiting, 0).then(() => (thread.isReady = true)),
    };
    // A caller that waits gets the error; without one it is reported as trouble.
    thread.ready.catch(() => undefined);
    return thread;
  }

  private hear(waiting: Map<number, Waiting>, answer: Answer): void {
    if ('said' in answer) return this.say(answer.said);
    const mine = waiting.get(answer.id);
    waiting.delete(answer.id);
    if (answer.ok) return mine?.resolve(answer.value);
    if (!('refusal' in answer)) return mine?.reject(new Error(answer.crash));
    const refusal = refusalSaid(answer.refusal);
    if (refusal.code === FOLDER_LOST.code) this.onTrouble(refusal);
    mine?.reject(refusal);
  }

  /** @param why what the thread itself said, where it said anything */
  private died(waiting: ReadonlyMap<number, Waiting>, why: Error | null): void {
    const wasReady = this.thread.isReady;
    // A library that gives up on its files may end the thread before that has said so.
    const unopened = (why && diskRefusal(why)) ?? this.notOpened() ?? why;
    const refusal = wasReady ? AWAY : (unopened ?? new Error('the database thread has ended'));
    for (const { reject } of waiting.values()) reject(refusal);
    if (this.closing || (!wasReady && this.deaths.length === 0)) return;
    const now = performance.now();
    this.deaths.push(now);
    this.gone = this.deaths.filter((at) => now - at < WITHIN_MS).length > MAX_DEATHS;
    this.onTrouble(this.gone ? GONE : AWAY);
    if (this.gone) return;
    this.thread = this.begin();
    this.thread.ready.then(
      () => this.onTrouble(null),
      () => undefined,
    );
  }

  private notOpened(): Refusal | null {
    if (this.options.dataFolder === null) return null;
    const folders = storeFolders(this.options.dataFolder);
    return withKnownGood(damaged(folders.database, NOT_OPENED), folders);
  }
}

const answerTo = (waiting: Map<number, Waiting>, id: number) =>
  new Promise<unknown>((resolve, reject) => waiting.set(id, { resolve, reject }));

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
  const thread = new StoreThread(script, options, onTrouble, say);
  await thread.ready;
  const asking = <T extends object>() =>
    new Proxy({} as T, {
      get: (_, command) => (command === 'then' ? undefined : (...args: unknown[]) => thread.ask(String(command), args)),
    });
  return {
    store: asking<Store>(),
    thread: asking<ThreadCommands>(),
    crash: () => thread.crash(),
    close: () => thread.close(),
  };
}
