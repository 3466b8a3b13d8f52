import { normalCdf } from '../statistics/normal.ts';
import { expandedOf, type ValueError } from '../sensor/working-error.ts';
import type { Written } from '../sensor/written.ts';

/** What a measurement proves of a tolerance; it is another thing than what is done about it. */
export type Conformity = 'inside' | 'outside' | 'cannot tell';

export interface Statement {
  readonly says: Conformity;
  /** what is kept away from the tolerance, in the unit of the error; 0 = simple acceptance */
  readonly guard: number;
  /** chance that the error is outside the tolerance, by this measurement alone */
  readonly chanceOutside: number;
}

/**
 * States whether a measured error is inside its tolerance, by a stated rule: simple acceptance, or guarded by a share of its ±.
 *
 * @param tolerance half width, in the unit of the error
 * @param guardShare 0 = simple acceptance, 1 = guarded by the whole ±
 * @see JCGM 106:2012, 7 (chance of conformity, nothing else being known) and 8.2 and 8.3 (decision rules); ILAC-G8:09/2019, 4.2
 * @example statementOf({ error: 0.058, uncertainty: 0.0315 }, 0.05).says // 'cannot tell'
 * @example statementOf({ error: 0.058, uncertainty: 0.0315 }, 0.05).chanceOutside // 0.6005
 * @example statementOf({ error: 0.058, uncertainty: 0.0315 }, 0.05, 0).says // 'outside'
 */
export function statementOf(measured: ValueError, tolerance: number, guardShare = 1): Statement {
  const { error, uncertainty } = measured;
  const guard = guardShare * expandedOf(measured);
  const off = Math.abs(error);
  const inside =
    uncertainty > 0
      ? normalCdf((tolerance - error) / uncertainty) - normalCdf((-tolerance - error) / uncertainty)
      : Number(off <= tolerance);
  const says = off <= tolerance - guard ? 'inside' : off > tolerance && off >= tolerance + guard ? 'outside' : 'cannot tell'; // prettier-ignore
  return { says, guard, chanceOutside: 1 - inside };
}

/** What a kit can prove before anything was measured with it. */
export type Proves = 'enough' | 'only the middle' | 'nothing';

/**
 * What standards and instruments with this ± can prove of a tolerance: an error inside `tolerance − guard` is stated inside.
 *
 * @param expanded expected ± of the error at work
 * @returns `nothing` where no error at all could be stated inside; `only the middle` where less than half of the tolerance is
 *   left; an operator's rule of thumb, common practice, no source
 * @example provesOf(0.03, 0.1) // 'enough'
 * @example provesOf(0.07, 0.1) // 'only the middle'
 * @example provesOf(0.12, 0.1) // 'nothing'
 */
export function provesOf(expanded: number, tolerance: number, guardShare = 1): Proves {
  const left = tolerance - guardShare * expanded;
  return left <= 0 ? 'nothing' : left < tolerance / 2 ? 'only the middle' : 'enough';
}

/** A chance in percent: nothing is ever quite sure. */
const percent = (chance: number) =>
  chance < 0.001 ? 'less than 0.1 %' : `${(100 * chance).toFixed(chance < 0.1 ? 1 : 0)} %`;

/**
 * The statement in a sentence, as the loop is written: what was proven, by which rule, and how likely it is wrong.
 *
 * @param written how the figures of the loop are written
 * @example statementWords(statementOf({ error: 0.02, uncertainty: 0.015 }, 0.15), 0.15, { unit: 'pH', digits: 2, size: (x) => x }) // 'Inside ±0.15 pH, guarded by 0.03: a chance of less than 0.1 % that it is outside all the same.'
 */
export function statementWords(
  { says, guard, chanceOutside }: Statement,
  tolerance: number,
  { unit, digits, size }: Pick<Written, 'unit' | 'digits' | 'size'>,
): string {
  const figure = (own: number) => size(own).toFixed(digits);
  const limits = `±${figure(tolerance)} ${unit}`;
  const rule = guard > 0 ? `guarded by ${figure(guard)}` : 'simply accepted';
  if (says === 'inside')
    return `Inside ${limits}, ${rule}: a chance of ${percent(chanceOutside)} that it is outside all the same.`;
  if (says === 'outside')
    return `Outside ${limits}, ${rule}: a chance of ${percent(1 - chanceOutside)} that it is inside all the same.`;
  return `Cannot tell whether it is inside ${limits}, ${rule}: outside with a chance of ${percent(chanceOutside)}.`;
}
