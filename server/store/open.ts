import { Worker } from 'node:worker_threads';
import { Refusal } from '@frustum/core';
import type { Store } from './commands/index.ts';
import type { Answer, WorkerOptions } from './messages.ts';

export interface OpenStore {
  readonly store: Store;
  readonly close: () => Promise<void>;
}

/**
 * Starts the database's thread and waits until it has opened and migrated its folder.
 *
 * @param script the worker, as built or as source
 * @throws Error when the thread dies before it is ready
 */
export async function openStore(script: URL, options: WorkerOptions): Promise<OpenStore> {
  const worker = new Worker(script, {
    workerData: options,
    execArgv: script.pathname.endsWith('.ts') ? ['--import', 'tsx'] : [],
  });
  const waiting = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  let count = 0;
  let dead: Error | null = null;
  const die = (error: Error) => {
    dead = error;
    for (const { reject } of waiting.values()) reject(error);
    waiting.clear();
  };
  worker.on('error', die);
  worker.on('exit', () => die(new Error('the database thread has ended')));
  worker.on('message', (answer: Answer) => {
    const mine = waiting.get(answer.id);
    waiting.delete(answer.id);
    if (answer.ok) mine?.resolve(answer.value);
    else if ('refusal' in answer)
      mine?.reject(new Refusal(answer.refusal.code, answer.refusal.message, answer.refusal.facts));
    else mine?.reject(new Error(answer.crash));
  });
  const wait = (id: number) => new Promise<unknown>((resolve, reject) => waiting.set(id, { resolve, reject }));
  const ask = (command: string, args: readonly unknown[]) => {
    if (dead) return Promise.reject(dead);
    const id = ++count;
    worker.postMessage({ id, command, args });
    return wait(id);
  };
  await wait(0);
  const store = new Proxy({} as Store, {
    get: (_, command) => (command === 'then' ? undefined : (...args: unknown[]) => ask(String(command), args)),
  });
  return {
    store,
    async close() {
      if (dead) return;
      await ask('close', []);
      await worker.terminate();
    },
  };
}
