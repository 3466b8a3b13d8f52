import type { ErrorAt } from '../drift/working.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { chanceBeyond } from '../statistics/mixture.ts';
import type { Due } from './fixed-interval.ts';

/** Chance of being outside that is borne at the end of an interval: a reliability target of 95 %. */
const BORNE = 0.05;
/** No date is given later than this: nothing was learned for so long a time. */
const MAX_DAYS = 730;
/** Looked at in steps that grow by this. */
const GROWTH = 1.15;

/**
 * Due date of the drift forecast: the first day on which the chance of being outside the tolerance exceeds what is borne.
 *
 * @param errorAt forecast from the last run on, null before the first run
 * @param fromMs end of the last finished run
 * @param tolerance half width, in the unit of the error
 * @param borne chance of being outside, 0 to 1
 * @see ILAC-G24 / OIML D 10, reliability methods; from memory
 */
export function forecastDue(
  errorAt: ((atMs: number) => ErrorAt) | null,
  fromMs: number | null,
  tolerance: number,
  borne = BORNE,
): Due {
  if (!errorAt || fromMs === null) return { atMs: null, reason: 'never calibrated' };
  const over = (days: number) => chanceBeyond(errorAt(fromMs + days * MS_PER_DAY), tolerance) > borne;
  const reason = `chance of being outside reaches ${(100 * borne).toFixed(0)} %`;
  if (over(0)) return { atMs: fromMs, reason: `${reason} at once` };
  let inside = 0;
  for (let day = 1; day <= MAX_DAYS; day = Math.max(day + 1, day * GROWTH)) {
    if (!over(day)) {
      inside = day;
      continue;
    }
    let outside = day;
    while (outside - inside > 0.25) {
      const middle = (inside + outside) / 2;
      if (over(middle)) outside = middle;
      else inside = middle;
    }
    return { atMs: fromMs + outside * MS_PER_DAY, reason };
  }
  return { atMs: fromMs + MAX_DAYS * MS_PER_DAY, reason: `inside for ${MAX_DAYS} days and more` };
}
