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
 * Slow and quick ones of a family: the two points that have the mean and the spread of a normal logarithm (Gauss-Hermite). And
 * steady ones, whose sensitivity keeps the rate at which it wears.
 *
 * @see Abramowitz & Stegun, Handbook of Mathematical Functions (1964), 25.4.46, n = 2
 * @example pacesOf({ ...phPrior, paceSd: 0.5 }).map((p) => p.prior.zero.memoryDays) // [148, 55]
 */
export function pacesOf(prior: FamilyPrior): readonly Pace[] {
  const { paceSd, steadyShare = 0 } = prior;
  const lives = steadyShare > 0 ? { ...prior, steadyShare: 0 } : prior;
  const paces =
    paceSd > 0
      ? [-paceSd, paceSd].map((log) => ({ chance: (1 - steadyShare) / 2, prior: atPace(lives, Math.exp(log)) }))
      : [{ chance: 1 - steadyShare, prior: lives }];
  return steadyShare > 0 ? [...paces, { chance: steadyShare, prior: steadily(lives) }] : paces;
}

/** A steady one remembers the rate at which its sensitivity goes so many times as long: for as long as it lives. */
const STEADY_MEMORY = 20;
const steadily = ({ zero, sensitivity }: FamilyPrior): FamilyPrior => ({
  zero,
  // It does not run in for ever.
  sensitivity: {
    ...sensitivity,
    memoryDays: STEADY_MEMORY * sensitivity.memoryDays,
    firstRate: 0,
    firstRateSd: Math.min(sensitivity.firstRateSd, sensitivity.rateSd),
  },
  paceSd: 0,
});

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
    const known = filtered(history, pace.prior, services, true);
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
  if (!(prior.paceSd > 0 || prior.steadyShare)) return prior;
  return filteredAtPaces(history, prior, services).reduce((best, p) => (p.log > best.log ? p : best)).prior;
}
