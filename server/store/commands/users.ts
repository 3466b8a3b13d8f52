import { and, asc, eq, ne } from 'drizzle-orm';
import { Refusal } from '@frustum/core';
import type { Reader, Transaction } from '../database.ts';
import { users } from '../schema/index.ts';

export type Person = typeof users.$inferSelect;

/** Makes sure that the people of the house are there. */
export async function keepUsers(tx: Transaction, list: readonly (typeof users.$inferInsert)[]): Promise<void> {
  await tx
    .insert(users)
    .values([...list])
    .onConflictDoNothing();
}

/** Everybody who ever worked here, by name. */
export const readPeople = (db: Reader): Promise<Person[]> => db.select().from(users).orderBy(asc(users.name));

/** @throws Refusal `person-exists` */
async function requireFreeName(tx: Transaction, name: string, id: string): Promise<void> {
  const [twin] = await tx
    .select({ id: users.id })
    .from(users)
    .where(and(eq(users.name, name), ne(users.id, id)));
  if (twin) throw new Refusal('person-exists', `“${name}” is in the list already. Type another name.`, { name });
}

/** One more name in the list. @throws Refusal `person-exists` */
export async function addPerson(
  tx: Transaction,
  person: { readonly id: string; readonly name: string },
): Promise<Person> {
  await requireFreeName(tx, person.name, person.id);
  const [kept] = await tx
    .insert(users)
    .values({ ...person, role: 'operator' })
    .returning();
  return kept!;
}

/** Another name, or whether it is still offered; what was done keeps the name that it was done by. @throws Refusal `person-unknown`, `person-exists` */
export async function changePerson(
  tx: Transaction,
  id: string,
  to: { readonly name?: string; readonly leftAt?: string | null },
): Promise<Person> {
  if (to.name !== undefined) await requireFreeName(tx, to.name, id);
  const [kept] = await tx.update(users).set(to).where(eq(users.id, id)).returning();
  if (!kept) throw new Refusal('person-unknown', 'There is no such name in the list. Look at it again.', { id });
  return kept;
}
