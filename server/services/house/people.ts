import type { ChangePerson, NewPerson, PersonRow } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { Person } from '../../store/commands/users.ts';

const rowOf = ({ id, name, leftAt }: Person): PersonRow => ({ personId: id, name, left: leftAt !== null });

/** Everybody who ever worked here. The list proves nothing: there is no secret yet. */
export const readPeople = async ({ store }: Context): Promise<PersonRow[]> => (await store.readPeople()).map(rowOf);

/** @throws Refusal `person-exists` */
export const addPerson = async ({ store, newId }: Context, { name }: NewPerson): Promise<PersonRow> =>
  rowOf(await store.addPerson({ id: newId(), name }));

/** @throws Refusal `person-unknown`, `person-exists` */
export async function changePerson({ store, now }: Context, personId: string, to: ChangePerson): Promise<PersonRow> {
  const { name, left } = to;
  return rowOf(
    await store.changePerson(personId, {
      ...(name === undefined ? {} : { name }),
      ...(left === undefined ? {} : { leftAt: left ? new Date(now()).toISOString() : null }),
    }),
  );
}
