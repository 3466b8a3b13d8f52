import type { Transaction } from '../database.ts';
import { users } from '../schema/index.ts';

/** Makes sure that the people of the house are there. */
export async function keepUsers(tx: Transaction, list: readonly (typeof users.$inferInsert)[]): Promise<void> {
  await tx
    .insert(users)
    .values([...list])
    .onConflictDoNothing();
}
