import { familyOf } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { upper } from '../../format/in-family.ts';
import { needsHands } from './headline.ts';

/** What is shown of the house, in which order. */
export interface Choice {
  /** 'all', 'hands', or a place */
  readonly filter: string;
  /** letters of a loop, sensor or serial number */
  readonly find: string;
  readonly sort: Sort;
  readonly group: Group;
}
export type Sort = 'consequence' | 'due' | 'outside' | 'name' | 'own';
export type Group = '' | 'site' | 'place' | 'family' | 'reference';

export const SORTS: Readonly<Record<Sort, string>> = {
  consequence: 'by consequence',
  due: 'by due date',
  outside: 'by chance of being outside',
  name: 'by name',
  own: 'as in Set-up',
};
export const GROUPS: Readonly<Record<Group, string>> = {
  '': 'no groups',
  site: 'by site',
  place: 'by place',
  family: 'by family',
  reference: 'by shared reference',
};

/** One line of the list: a heading with what is below it, or a loop. */
export type Line =
  | { readonly kind: 'heading'; readonly name: string; readonly loops: number; readonly hands: number }
  | { readonly kind: 'loop'; readonly row: LoopRow };

const GROUP_OF: Readonly<Record<Exclude<Group, ''>, (row: LoopRow) => string>> = {
  site: (r) => r.siteName,
  place: (r) => r.place || 'No place named',
  family: (r) => upper(familyOf(r.family).name),
  reference: (r) => r.referenceGroup || 'A reference of its own',
};

/**
 * The lines that a choice shows. Rows come from the server in the order of consequence; sorted by chance, a sensor that was
 * never calibrated stands first.
 */
export function linesOf(
  rows: readonly LoopRow[],
  { filter, find, sort, group }: Choice,
  nowMs: number,
): readonly Line[] {
  const letters = find.trim().toLowerCase();
  const shown = rows.filter(
    (r) =>
      (filter === 'all' || (filter === 'hands' ? needsHands(r, nowMs) : r.place === filter)) &&
      (!letters || `${r.loopName} ${r.place} ${r.sensorName} ${r.serial}`.toLowerCase().includes(letters)),
  );
  if (sort === 'due') shown.sort((a, b) => (a.due.atMs ?? nowMs) - (b.due.atMs ?? nowMs));
  if (sort === 'outside') shown.sort((a, b) => chanceOf(b) - chanceOf(a));
  if (sort === 'name') shown.sort((a, b) => a.loopName.localeCompare(b.loopName, 'en', { numeric: true }));
  if (sort === 'own')
    shown.sort((a, b) => a.position - b.position || a.loopName.localeCompare(b.loopName, 'en', { numeric: true }));
  if (group === '') return shown.map((row) => ({ kind: 'loop', row }));
  const groups = new Map<string, LoopRow[]>();
  for (const row of shown) {
    const name = GROUP_OF[group](row);
    const mine = groups.get(name);
    if (mine) mine.push(row);
    else groups.set(name, [row]);
  }
  // A reference of its own is the usual: it comes last.
  const last = (name: string) => Number(group === 'reference' && name === 'A reference of its own');
  return [...groups]
    .sort(([a], [b]) => last(a) - last(b) || a.localeCompare(b, 'en', { numeric: true }))
    .flatMap(([name, mine]): Line[] => [
      { kind: 'heading', name, loops: mine.length, hands: mine.filter((r) => needsHands(r, nowMs)).length },
      ...mine.map((row): Line => ({ kind: 'loop', row })),
    ]);
}

const chanceOf = ({ margin }: LoopRow) => margin.chanceOutside ?? 1.1;
