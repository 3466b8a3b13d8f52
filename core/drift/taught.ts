import type { FamilyPrior } from '../sensor/prior.ts';
import type { Belief } from '../statistics/kalman.ts';
import { SENSITIVITY, ZERO, type Lessons, type Taught } from './state.ts';
import type { ServiceEvent } from './history.ts';

const NEVER: Taught = { times: 0, mean: 0, squares: 0 };
const NO_LESSONS: Lessons = { cleaned: [NEVER, NEVER], renewed: [NEVER, NEVER] };

/** What is known beforehand weighs as much as so many times, and is as sure of the spread as so many. Our own choice. */
const MEAN_TIMES = 0.5;
const SPREAD_TIMES = 2;

/** The same with one more (Welford's way). */
const once = ({ times, mean, squares }: Taught, by: number): Taught => {
  const n = times + 1;
  const off = by - mean;
  return { times: n, mean: mean + off / n, squares: squares + (off * (off * times)) / n };
};

/**
 * What the next time is expected to bring: of what came before a mean that leans on what is known beforehand, and a spread that
 * is wide as long as it came seldom.
 *
 * @example nextTime({ times: 0, mean: 0, squares: 0 }, { value: 0, sd: 20 }) // { value: 0, sd: 20 }
 * @example nextTime({ times: 2, mean: 97, squares: 0 }, { value: 0, sd: 20 }).value // 77.6
 */
export function nextTime(
  { times, mean, squares }: Taught,
  before: { readonly value: number; readonly sd: number },
): { readonly value: number; readonly sd: number } {
  if (!times) return before;
  const left = MEAN_TIMES / (MEAN_TIMES + times);
  const within = (SPREAD_TIMES * before.sd ** 2 + squares) / (SPREAD_TIMES + times - 1);
  const off = mean - before.value;
  return { value: mean - left * off, sd: Math.sqrt(within + (left * off) ** 2) };
}

/** By how much a cleaning moves zero and sensitivity, with standard deviations. */
export const cleaningOf = ({ zero, sensitivity }: FamilyPrior, { cleaned }: Lessons = NO_LESSONS) =>
  [zero, sensitivity].map((f, i) => nextTime(cleaned[i]!, { value: f.cleanedBy, sd: f.cleanedSd }));

/** Where zero and sensitivity of a new one begin, with standard deviations. */
export const newOnesOf = ({ zero, sensitivity }: FamilyPrior, { renewed }: Lessons = NO_LESSONS) =>
  [zero, sensitivity].map((f, i) => nextTime(renewed[i]!, { value: f.value, sd: f.sd }));

const CLEANS: readonly ServiceEvent['kind'][] = ['cleaned', 'plug dried'];

/**
 * What a run after some services has taught of them. A cleaning beside other things tells nothing of cleanings; a new tip begins
 * where new tips begin, whatever else was done.
 *
 * @param expected of the sensor at the time of the run, had nothing been done
 * @param found by the run
 */
export function taughtBy(
  lessons: Lessons | undefined,
  kinds: readonly ServiceEvent['kind'][],
  expected: Belief,
  found: { readonly zero: number; readonly sensitivity: number },
): Lessons | undefined {
  const known = lessons ?? NO_LESSONS;
  const did = kinds.filter((k) => k !== 'other');
  const values = [found.zero, found.sensitivity] as const;
  if (did.length && did.every((k) => CLEANS.includes(k))) {
    const was = [expected.mean[ZERO]!, expected.mean[SENSITIVITY]!];
    const [zero, sensitivity] = known.cleaned;
    return { ...known, cleaned: [once(zero, values[0] - was[0]!), once(sensitivity, values[1] - was[1]!)] };
  }
  if (did.some((k) => k === 'tip replaced')) {
    const [zero, sensitivity] = known.renewed;
    return { ...known, renewed: [once(zero, values[0]), once(sensitivity, values[1])] };
  }
  return lessons;
}
