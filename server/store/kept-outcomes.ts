import type { Store } from './commands/index.ts';

/**
 * A store that reads all outcomes again only when there are others: finished runs are only ever added, and a house of a
 * thousand loops has tens of thousands of them.
 */
export function keepingOutcomes(store: Store): Store {
  let kept: { readonly mark: string; readonly list: ReturnType<Store['readOutcomes']> } | null = null;
  const readOutcomes: Store['readOutcomes'] = async () => {
    const mark = await store.readOutcomesMark();
    if (kept?.mark !== mark) kept = { mark, list: store.readOutcomes() };
    const { list } = kept;
    // What could not be read is read anew the next time.
    list.catch(() => (kept = null));
    return list;
  };
  // The store lives in a worker and has no properties of its own to copy.
  return new Proxy(store, {
    get: (target, name) => (name === 'readOutcomes' ? readOutcomes : (Reflect.get(target, name) as unknown)),
  });
}
