import { MS_PER_DAY, cone, forecastDue, ofFleet, shownErrorOf, type Observation } from '@frustum/core';
import { chance, seedOf } from '@frustum/sim';
import { lived, measured, type Parameters, type Place } from './drift-truths.ts';
import type { SimulatedFleet } from './drift-population.ts';

/** How long each sensor is watched, days. */
export const WATCHED_DAYS = 730;
/** No school goes below or above these, days: nobody comes every day, and nobody stays away for a year. */
const MIN_DAYS = 5;
const MAX_DAYS = 240;
/** A tolerance of so many steps that count. */
const TOLERANCE_STEPS = 12;

/** When to come next, by all runs so far. */
type Policy = (history: readonly Observation[]) => number;

/** What a sensor's years came to. */
interface YearsUnderPolicy {
  readonly runs: number;
  readonly daysOutside: number;
}

export function toleranceOf({ working, step }: Place): number {
  const straight = { zero: 0, sensitivity: 1 };
  return Math.abs(shownErrorOf(working.model, working, { zero: TOLERANCE_STEPS * step, sensitivity: 1 }, straight));
}

/** A fixed interval. */
export const every =
  (days: number): Policy =>
  (history) =>
    history.at(-1)!.atMs / MS_PER_DAY + days;

/** The drift forecast, to the reliability that Margins uses. */
export function byForecast({ place, fleet }: SimulatedFleet): Policy {
  const prior = ofFleet(place.prior, fleet);
  const tolerance = toleranceOf(place);
  return (history) => {
    const last = history.at(-1)!.atMs;
    const { errorAt } = cone(history, prior, place.working, last);
    const days = forecastDue(errorAt, last, tolerance).atMs! / MS_PER_DAY - last / MS_PER_DAY;
    return last / MS_PER_DAY + Math.min(MAX_DAYS, Math.max(MIN_DAYS, days));
  };
}

/** One sensor's two years under a policy; each run adjusts. The sensor's course is the same under every policy. */
export function kept(
  { place, kind }: Pick<SimulatedFleet, 'place' | 'kind'>,
  seed: number,
  policy: Policy,
): YearsUnderPolicy {
  const { course } = lived(kind, place, 1, seed);
  const tolerance = toleranceOf(place);
  const history: Observation[] = [];
  let inForce: Parameters = { zero: 0, sensitivity: 1 };
  let daysOutside = 0;
  let next = 0;
  for (let day = 0; day < WATCHED_DAYS; day++) {
    if (day >= next) {
      // The n-th run has the same luck under every policy.
      const dice = chance(seedOf(seed, `run ${history.length}`));
      const { found, covariance } = measured(place, course(day), dice);
      inForce = found;
      history.push({
        atMs: day * MS_PER_DAY,
        kind: 'calibration',
        found,
        covariance,
        inForceAfter: inForce,
        cleaned: false,
      });
      next = policy(history);
    }
    const off = shownErrorOf(place.working.model, place.working, course(day), inForce);
    if (Math.abs(off) > tolerance) daysOutside++;
  }
  return { runs: history.length, daysOutside };
}

/**
 * The longest single interval that makes at least so many runs: the best that a calendar can do with as many.
 *
 * @param runs of all sensors together
 */
export function equalInterval(sensors: number, runs: number): number {
  const made = (days: number) => sensors * Math.ceil(WATCHED_DAYS / days);
  let days = MAX_DAYS;
  while (days > MIN_DAYS && made(days) < runs) days--;
  return days;
}

/** Percentile interval of a mean over sensors, by resampling them. Efron & Tibshirani (1993), chapter 13, from memory. */
export function bootstrapped(differences: readonly number[], seed: number, times = 2000): readonly [number, number] {
  const dice = chance(seed);
  const n = differences.length;
  const means = Array.from({ length: times }, () => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += differences[Math.floor(dice.uniform() * n)]!;
    return sum / n;
  }).sort((a, b) => a - b);
  return [means[Math.floor(0.025 * times)]!, means[Math.floor(0.975 * times)]!];
}
