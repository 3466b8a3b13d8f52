import { WRITERS, type Store } from './commands/index.ts';

/** Writers that leave loops, sensors and channels as they are; whatever else is written, they are read again. */
const LEAVE_PLACES: ReadonlySet<string> = new Set([
  'acknowledgeAlarm',
  'changeAlarms',
  'queueMessages',
  'dropMessages',
  'noteUntold',
  'forgetGivenUp',
  'addLot',
  'endLot',
  'keepPhoto',
  'keepProcedure',
  'keepStandards',
  'openRun',
  'appendEvents',
  'importRuns',
  'keepMinutes',
  'keepDoses',
  'dropDoses',
  'keepServices',
  'dropService',
  'keepUsers',
  'addPerson',
  'changePerson',
  'keepFleets',
] satisfies (keyof typeof WRITERS)[]);

/**
 * A store that reads what seldom changes only when it has: finished runs are only ever added, and loops are set up once. A
 * house of a thousand loops has tens of thousands of runs, and Margins asks for all of it. Nobody else writes to the
 * database: its folder is locked.
 */
export function keeping(store: Store): Store {
  let outcomes: { readonly mark: string; readonly list: ReturnType<Store['readOutcomes']> } | null = null;
  let places: ReturnType<Store['readFittedLoops']> | null = null;
  const readOutcomes: Store['readOutcomes'] = async () => {
    const mark = await store.readOutcomesMark();
    if (outcomes?.mark !== mark) outcomes = { mark, list: store.readOutcomes() };
    const { list } = outcomes;
    // What could not be read is read anew the next time.
    list.catch(() => (outcomes = null));
    return list;
  };
  const readFittedLoops: Store['readFittedLoops'] = () => {
    places ??= store.readFittedLoops();
    places.catch(() => (places = null));
    return places;
  };
  const forgetting =
    (write: (...args: unknown[]) => Promise<unknown>) =>
    async (...args: unknown[]) => {
      try {
        return await write(...args);
      } finally {
        // Readers get the new value only after the write has settled; an answer computed meanwhile is not cached.
        places = null;
      }
    };
  // The store lives in a worker and has no properties of its own to copy.
  return new Proxy(store, {
    get: (target, name) => {
      if (name === 'readOutcomes') return readOutcomes;
      if (name === 'readFittedLoops') return readFittedLoops;
      const there = Reflect.get(target, name) as (...args: unknown[]) => Promise<unknown>;
      return typeof name === 'string' && name in WRITERS && !LEAVE_PLACES.has(name) ? forgetting(there) : there;
    },
  });
}
