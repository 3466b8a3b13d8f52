import { describe, expect, it } from 'vitest';
import type { Store } from './commands/index.ts';
import { keeping } from './kept.ts';

/** A store that counts how often it is asked, and answers with that count. */
function counting() {
  const asked: Record<string, number> = {};
  let fails = false;
  const store = new Proxy({} as Store, {
    get: (_, name: string) => () => {
      asked[name] = (asked[name] ?? 0) + 1;
      return fails ? Promise.reject(new Error('the database thread has ended')) : Promise.resolve(asked[name]);
    },
  });
  return { store: keeping(store), asked, fail: (now: boolean) => (fails = now) };
}

describe('what is kept of the database', () => {
  it('loops are read once, and again after a writer that may change them, not after one that leaves them', async () => {
    const { store, asked } = counting();
    await store.readFittedLoops();
    await store.readFittedLoops();
    await store.keepMinutes([]);
    await store.readFittedLoops();
    expect(asked['readFittedLoops']).toBe(1);
    for (const write of ['addSensor', 'changeChannel', 'changeSchedule'] as const) {
      const before = asked['readFittedLoops']!;
      await (store[write] as () => Promise<unknown>)();
      await store.readFittedLoops();
      expect([write, asked['readFittedLoops']]).toEqual([write, before + 1]);
    }
  });

  it('a failure is not kept', async () => {
    const { store, asked, fail } = counting();
    fail(true);
    await expect(store.readFittedLoops()).rejects.toThrow('has ended');
    fail(false);
    await expect(store.readFittedLoops()).resolves.toBe(2);
    expect(asked['readFittedLoops']).toBe(2);
  });

  it('outcomes are read again when their mark has moved', async () => {
    const asked: string[] = [];
    let mark = 'one';
    const store = keeping({
      readOutcomesMark: () => Promise.resolve(mark),
      readOutcomes: () => Promise.resolve((asked.push(mark), [])),
    } as unknown as Store);
    await store.readOutcomes();
    await store.readOutcomes();
    mark = 'two';
    await store.readOutcomes();
    expect(asked).toEqual(['one', 'two']);
  });
});
