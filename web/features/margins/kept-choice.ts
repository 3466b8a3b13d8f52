import { GROUPS, SORTS, type Choice, type Group, type Sort } from './choose.ts';

const KEY = 'frustum.margins';
const USUAL_CHOICE: Choice = { filter: 'all', find: '', sort: 'consequence', group: '' };

/** What was chosen on Margins before the page was loaded again; what means nothing any more is as usual. */
export function keptChoice(): Choice {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Record<keyof Choice, unknown>>;
    const { filter, sort, group } = kept;
    return {
      ...USUAL_CHOICE,
      ...(typeof filter === 'string' ? { filter } : {}),
      ...(typeof sort === 'string' && Object.hasOwn(SORTS, sort) ? { sort: sort as Sort } : {}),
      ...(typeof group === 'string' && Object.hasOwn(GROUPS, group) ? { group: group as Group } : {}),
    };
  } catch {
    return USUAL_CHOICE;
  }
}

/** Keeps a choice on this device; letters to find are of the moment. */
export const keepChoice = ({ filter, sort, group }: Choice): void =>
  localStorage.setItem(KEY, JSON.stringify({ filter, sort, group }));
