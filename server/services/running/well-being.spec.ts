import { expect, it } from 'vitest';
import type { Store } from '../../store/commands/index.ts';
import { DISK_FULL } from '../../store/failures.ts';
import { WellBeing } from './well-being.ts';

it('what cannot be written is said until something is written again, and each change once', async () => {
  let changes = 0;
  let full = true;
  const being = new WellBeing(() => changes++);
  const store = being.watching({
    keepUsers: () => (full ? Promise.reject(DISK_FULL) : Promise.resolve()),
    readLots: () => Promise.resolve([]),
  } as unknown as Store);
  for (let i = 0; i < 2; i++) await expect(store.keepUsers([])).rejects.toBe(DISK_FULL);
  expect([being.trouble, changes]).toEqual([expect.stringMatching(/^The disk of Frustum’s computer is full/), 1]);
  // To read is not to keep.
  await store.readLots();
  expect(changes).toBe(1);
  full = false;
  await store.keepUsers([]);
  expect([being.trouble, changes]).toEqual([null, 2]);
  // A slip of somebody's is no trouble of the house's.
  being.note(new Error('x'));
  expect(being.trouble).toBeNull();
});
