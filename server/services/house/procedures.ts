import { familyOf, proceduresFor, Refusal } from '@frustum/core';
import type { ProcedureInput, ProcedureRow } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { ProcedureRecord } from '../../store/commands/procedures.ts';

const rowOf = ({ id, ...rest }: ProcedureRecord): ProcedureRow => ({
  procedureId: id,
  version: rest.version,
  family: rest.family,
  kind: rest.kind,
  name: rest.name,
  points: rest.points,
  school: rest.school,
  seconds: rest.seconds,
  words: rest.words,
  extra: rest.extra,
});

/** A team's own procedures, each in its newest version. */
export async function readProcedures({ store }: Context): Promise<ProcedureRow[]> {
  return (await store.readProcedures()).map(rowOf);
}

/**
 * A new procedure, or the next version of one.
 *
 * @param procedureId null for a new one
 * @throws Refusal `procedure-unknown`, `procedure-moved`, `unknown-standard`, `family-unknown`
 */
export async function saveProcedure(
  context: Context,
  procedureId: string | null,
  input: ProcedureInput,
): Promise<ProcedureRow> {
  const { store, newId } = context;
  const family = familyOf(input.family);
  if (!proceduresFor(family.id).some((p) => p.kind === input.kind))
    throw new Refusal('procedure-unfit', `A ${family.name} sensor has no such procedure. Pick another.`);
  const known = (await store.readProcedures()).find((p) => p.id === procedureId);
  if (procedureId && !known)
    throw new Refusal('procedure-unknown', 'This procedure is no longer there. Look at the list again.');
  if (known && known.version !== input.version)
    throw new Refusal(
      'procedure-moved',
      'Somebody changed this procedure meanwhile. Look at it again, then change it.',
    );
  const twin = (await store.readProcedures()).find((p) => p.name === input.name && p.id !== procedureId);
  if (twin) throw new Refusal('procedure-exists', `There is a procedure “${input.name}” already. Pick another name.`);
  const standards = await store.readStandards();
  const unknown = input.points.find((id) => !standards.some((s) => s.id === id));
  if (unknown) throw new Refusal('unknown-standard', `There is no standard “${unknown}”. Pick one from the list.`);
  const kept = await store.keepProcedure({
    ...input,
    id: procedureId ?? newId(),
    version: input.version + 1,
    words: input.words,
  });
  context.changed();
  return rowOf(kept);
}
