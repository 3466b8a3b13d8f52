import type { RestsOn } from '@frustum/core';
import { dayOf } from './dates.ts';
import { lower, upper, type InFamily } from './in-family.ts';
import { fixed } from './numbers.ts';

/** A chance in whole percent; nothing is ever quite sure. */
export const chanceWords = (chance: number): string =>
  chance > 0.99 ? '> 99 %' : chance < 0.01 ? '< 1 %' : `${fixed(100 * chance, 0)} %`;

/** The cause in a line: "The junction is blocked, > 99 %". */
export const restsOnLine = ({ name, chance, beside }: RestsOn): string =>
  `${upper(name)}, ${chanceWords(chance)}${beside ? `; and ${beside}` : ''}`;

/**
 * What the error rests on, in a sentence, with what would settle it.
 *
 * "Most likely −0.21 ±0.15 pH since 12 Nov 2026: the junction is blocked, > 99 %. To settle it: take a grab sample …"
 */
export function restsOnWords(
  { name, chance, beside, error, expanded, sinceMs, test }: RestsOn,
  figures: InFamily,
): string {
  const since = sinceMs === null ? '' : ` since ${dayOf(sinceMs)}`;
  const off = `${figures.off(error)} ±${figures.size(expanded)} ${figures.unit}`;
  return `Most likely ${off}${since}: ${name}, ${chanceWords(chance)}${beside ? `, and ${beside}` : ''}.${test ? ` To settle it: ${lower(test)}` : ''}`;
}
