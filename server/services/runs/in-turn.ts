/** What is under way for a key: the next waits for its end, whatever that is. */
const turns = new Map<string, Promise<unknown>>();

/** Does work of one key one after the other, in the order in which it was asked for. */
export async function inTurn<T>(key: string, work: () => Promise<T>): Promise<T> {
  const before = turns.get(key) ?? Promise.resolve();
  const mine = before.then(work, work);
  turns.set(key, mine);
  try {
    return await mine;
  } finally {
    if (turns.get(key) === mine) turns.delete(key);
  }
}
