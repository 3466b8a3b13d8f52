import { chancesOf } from '../statistics/chances.ts';
import { filtered, type Course } from './course.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior, FigurePrior } from '../sensor/prior.ts';

/** A pace at which a sensor may live: how likely beforehand, and what is known of such a sensor. */
interface Pace {
  readonly chance: number;
  readonly prior: FamilyPrior;
}

/**
 * Slow and quick ones of a family: the two points that have the mean and the spread of a normal logarithm (Gauss-Hermite).
 *
 * @see Abramowitz & Stegun, Handbook of Mathematical Functions (1964), 25.4.46, n = 2
 * @example pacesOf({ ...phPrior, paceSd: 0.5 }).map((p) => p.prior.zero.memoryDays) // [148, 55]
 */
export const pacesOf = (prior: FamilyPrior): readonly Pace[] =>
  prior.paceSd > 0
    ? [-prior.paceSd, prior.paceSd].map((log) => ({ chance: 0.5, prior: atPace(prior, Math.exp(log)) }))
    : [{ chance: 1, prior }];

/** A sensor in whose life everything goes so many times as fast: it runs in and ages sooner; its jumps are chance. */
const atPace = ({ zero, sensitivity }: FamilyPrior, pace: number): FamilyPrior => ({
  zero: figureAtPace(zero, pace),
  sensitivity: figureAtPace(sensitivity, pace),
  paceSd: 0,
});

const figureAtPace = (figure: FigurePrior, pace: number): FigurePrior => ({
  ...figure,
  walk: figure.walk * Math.sqrt(pace),
  rate: figure.rate * pace,
  rateSd: figure.rateSd * pace,
  firstRate: figure.firstRate * pace,
  firstRateSd: figure.firstRateSd * pace,
  memoryDays: figure.memoryDays / pace,
});

/** What runs have made of what is known, if the sensor lives at one pace. */
interface Paced {
  readonly prior: FamilyPrior;
  readonly known: Course;
  /** how likely this pace is after each run */
  readonly chances: readonly number[];
  /** natural logarithm of the chance beforehand, with the density of all that was found */
  readonly log: number;
}

/** Runs the filter over a history at each pace, and weighs the paces by how well they expected what was found. */
export function filteredAtPaces(
  history: readonly Observation[],
  prior: FamilyPrior,
  services: readonly ServiceEvent[] = [],
): readonly Paced[] {
  const tried = pacesOf(prior).map((pace) => {
    const known = filtered(history, pace.prior, services);
    let log = Math.log(pace.chance);
    return { prior: pace.prior, known, logs: known.map((k) => (log += k.logLikelihood)), log };
  });
  return tried.map(({ prior: own, known, logs, log }, t) => ({
    prior: own,
    known,
    log: logs.at(-1) ?? log,
    chances: logs.map((_, i) => chancesOf(tried.map((o) => o.logs[i]!)).chances[t]!),
  }));
}

/** The prior at the pace that expected a history best. */
export function atLikeliestPace(
  prior: FamilyPrior,
  history: readonly Observation[],
  services: readonly ServiceEvent[] = [],
): FamilyPrior {
  if (!(prior.paceSd > 0)) return prior;
  return filteredAtPaces(history, prior, services).reduce((best, p) => (p.log > best.log ? p : best)).prior;
}
