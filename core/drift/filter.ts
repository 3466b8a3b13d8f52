import { MS_PER_DAY } from '../quantities/constants.ts';
import {
  decorrelate,
  predict,
  update,
  zeros,
  type Belief,
  type Motion,
  type Measurement,
} from '../statistics/kalman.ts';
import { chancesOf } from '../statistics/chances.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** The belief about one sensor: zero, its rate per day, sensitivity, its rate per day, with their covariance. */
export interface DriftState {
  readonly atMs: number;
  readonly belief: Belief;
}

/** Places in the state. */
export const ZERO = 0;
export const SENSITIVITY = 2;
const SIZE = 4;

/** A state after one observation. */
export interface TakenIn {
  readonly state: DriftState;
  /** natural logarithm of the density of what was found, beforehand */
  readonly logLikelihood: number;
  /** found less expected, of zero and then of what sensitivity adds, each over its expected standard deviation */
  readonly standardised: readonly [number, number];
  /** chance that the sensor has jumped since the last observation */
  readonly jumped: number;
}

/** What is known before the first observation. */
export function priorState(prior: FamilyPrior, atMs: number): DriftState {
  const covariance = zeros(SIZE * SIZE);
  const spreads = [prior.zeroSd, prior.zeroFirstRateSd, prior.sensitivitySd, prior.sensitivityFirstRateSd];
  spreads.forEach((sd, i) => (covariance[i * SIZE + i] = sd ** 2));
  return {
    atMs,
    belief: {
      mean: [
        prior.zero,
        prior.zeroRate + prior.zeroFirstRate,
        prior.sensitivity,
        prior.sensitivityRate + prior.sensitivityFirstRate,
      ],
      covariance,
    },
  };
}

/**
 * Carries a state forward in continuous time: level' = rate + white noise, rate' = −(rate − usual rate)/τ + white noise.
 * Jumps are not in it: see `mayHaveJumped`.
 *
 * The rate is an Ornstein-Uhlenbeck process: what makes it unusual is forgotten with memory τ, so that the spread of the
 * level grows as √Δ in the long run, not as Δ^1.5. In the limit τ → ∞ the process noise tends to
 * σr²·[[Δ³/3, Δ²/2], [Δ²/2, Δ]].
 *
 * @param toMs not before the state's own time
 */
export function predictState(state: DriftState, prior: FamilyPrior, toMs: number): DriftState {
  const days = (toMs - state.atMs) / MS_PER_DAY;
  if (!(days > 0)) return state;
  return { atMs: toMs, belief: predict(state.belief, motionOver(prior, days)) };
}

/** How a sensor's state moves over so many days. */
export function motionOver(prior: FamilyPrior, days: number): Motion {
  const transition = zeros(SIZE * SIZE);
  const noise = zeros(SIZE * SIZE);
  const shift = zeros(SIZE);
  const of = (level: number, usualRate: number, walk: number, rateSd: number, tau: number) => {
    const gone = -Math.expm1(-days / tau);
    transition[level * SIZE + level] = 1;
    transition[level * SIZE + level + 1] = tau * gone;
    transition[(level + 1) * SIZE + level + 1] = 1 - gone;
    shift[level] = usualRate * (days - tau * gone);
    shift[level + 1] = usualRate * gone;
    addNoise(noise, level, walk, rateSd, tau, days);
  };
  of(ZERO, prior.zeroRate, prior.zeroWalk, prior.zeroRateSd, prior.zeroMemoryDays);
  of(SENSITIVITY, prior.sensitivityRate, prior.sensitivityWalk, prior.sensitivityRateSd, prior.sensitivityMemoryDays);
  return { transition, noise, shift };
}

/** Process noise of one level-and-rate pair over `days`, into a 4 × 4 matrix; the rate's stationary variance is rateSd². */
export function addNoise(q: number[], at: number, walk: number, rateSd: number, tau: number, days: number): void {
  const drive = (2 * rateSd ** 2) / tau;
  const e1 = -Math.expm1(-days / tau);
  const e2 = -Math.expm1((-2 * days) / tau);
  q[at * SIZE + at] = walk ** 2 * days + drive * tau ** 2 * (days - 2 * tau * e1 + (tau / 2) * e2);
  const cross = drive * tau ** 2 * (e1 - e2 / 2);
  q[at * SIZE + at + 1] = cross;
  q[(at + 1) * SIZE + at] = cross;
  q[(at + 1) * SIZE + at + 1] = drive * (tau / 2) * e2;
}

/** One possible past of the sensor since the last observation, with its chance and the belief that follows from it. */
export interface Branch {
  readonly chance: number;
  readonly belief: Belief;
  /** the figure that has jumped */
  readonly jumped?: number;
}

/** A sensor within a belief: what is known of its family, and where its four figures begin. */
interface Placed {
  readonly prior: FamilyPrior;
  readonly from: number;
}

/** A sensor that may have jumped in so many days. */
interface Unwatched extends Placed {
  readonly days: number;
}

/**
 * A carried state with the jumps that may have come meanwhile: none, one of the zero, or one of the sensitivity, each as
 * often as it comes by itself. Two in one stretch are taken as one.
 *
 * @param days since the last observation
 */
export const mayHaveJumped = ({ belief }: DriftState, prior: FamilyPrior, days: number): readonly Branch[] =>
  anyMayHaveJumped(belief, [{ prior, from: 0, days }]);

/** `mayHaveJumped` for a belief about several sensors: one of them may have, each since it was last seen. */
export function anyMayHaveJumped(belief: Belief, sensors: readonly Unwatched[]): readonly Branch[] {
  const jumps: { readonly at: number; readonly sd: number; readonly expected: number }[] = [];
  let expected = 0;
  const come = (at: number, aYear: number, sd: number, days: number) => {
    const its = sd > 0 && days > 0 ? (aYear * days) / DAYS_PER_YEAR : 0;
    if (!(its > 0)) return;
    jumps.push({ at, sd, expected: its });
    expected += its;
  };
  for (const { prior, from, days } of sensors) {
    come(from + ZERO, prior.zeroJumpsPerYear, prior.zeroJumpSd, days);
    come(from + SENSITIVITY, prior.sensitivityJumpsPerYear, prior.sensitivityJumpSd, days);
  }
  const any = -Math.expm1(-expected);
  if (!(any > 0)) return [{ chance: 1, belief }];
  const branches: Branch[] = [{ chance: 1 - any, belief }];
  for (const { at, sd, expected: its } of jumps)
    branches.push({ chance: (any * its) / expected, belief: widened(belief, [{ at, variance: sd ** 2 }]), jumped: at });
  return branches;
}
const DAYS_PER_YEAR = 365.25;

/** Adds variance to some figures of a belief. */
export function widened({ mean, covariance }: Belief, by: readonly { at: number; variance: number }[]): Belief {
  const wider = covariance.slice();
  for (const { at, variance } of by) wider[at * mean.length + at]! += variance;
  return { mean, covariance: wider };
}

/** Replaces some figures of a belief: each gets the given mean and variance, and no covariance with the others. */
export function forgotten(
  { mean, covariance }: Belief,
  figures: readonly { readonly at: number; readonly mean: number; readonly variance: number }[],
): Belief {
  const n = mean.length;
  const m = mean.slice();
  const c = covariance.slice();
  for (const figure of figures) {
    const i = figure.at;
    m[i] = figure.mean;
    for (let j = 0; j < n; j++) c[i * n + j] = c[j * n + i] = 0;
    c[i * n + i] = figure.variance;
  }
  return { mean: m, covariance: c };
}

/** A level of a new sensor and its rate, where a belief has them. */
const asNew = ({ prior, from }: Placed, level: number) => {
  const { mean, covariance } = priorState(prior, 0).belief;
  return [level, level + 1].map((i) => ({ at: from + i, mean: mean[i]!, variance: covariance[i * SIZE + i]! }));
};

/**
 * What a service does to what is known: a cleaning, or a plug that was dried, moves both parameters a little, a refill makes the zero anybody's
 * guess (the reference is a new one), a new tip, cap or cell makes both, and so does drying out.
 */
export function afterService(belief: Belief, sensor: Placed, kind: ServiceEvent['kind']): Belief {
  const { prior, from } = sensor;
  if (kind === 'cleaned' || kind === 'plug dried')
    return widened(belief, [
      { at: from + ZERO, variance: prior.cleanedZeroSd ** 2 },
      { at: from + SENSITIVITY, variance: prior.cleanedSensitivitySd ** 2 },
    ]);
  if (kind === 'refilled') return forgotten(belief, asNew(sensor, ZERO));
  if (kind === 'tip replaced' || kind === 'stored dry')
    return forgotten(belief, [...asNew(sensor, ZERO), ...asNew(sensor, SENSITIVITY)]);
  return belief;
}

/** A state carried to a service, with what that does to it. */
export function serviced(state: DriftState, prior: FamilyPrior, { kind, atMs }: ServiceEvent): DriftState {
  const { belief } = predictState(state, prior, atMs);
  return { atMs: Math.max(state.atMs, atMs), belief: afterService(belief, { prior, from: 0 }, kind) };
}

const ROW_ZERO = [1, 0, 0, 0];
const ROW_SENSITIVITY = [0, 0, 1, 0];

/**
 * Takes in a run: carries the state to its time, weighs whether the sensor has jumped since, and updates each branch with
 * what was found.
 *
 * @param days since the last observation; 0 for the first one
 */
export function takeIn(
  before: DriftState,
  prior: FamilyPrior,
  observation: Observation,
  days = (observation.atMs - before.atMs) / MS_PER_DAY,
): TakenIn {
  let state = predictState(before, prior, observation.atMs);
  if (observation.cleaned) state = serviced(state, prior, { kind: 'cleaned', atMs: observation.atMs });
  const { belief, logLikelihood, standardised, chances } = weighedBranches(
    mayHaveJumped(state, prior, days),
    measurementsOf(observation, ROW_ZERO, ROW_SENSITIVITY),
  );
  return {
    state: { atMs: state.atMs, belief },
    logLikelihood,
    standardised: [standardised[0]!, standardised[1]!],
    jumped: 1 - chances[0]!,
  };
}

/** The findings of a run as two independent measurements. @param zero and @param sensitivity where a belief has them */
export function measurementsOf(
  { found, covariance }: Pick<Observation, 'found' | 'covariance'>,
  zero: readonly number[],
  sensitivity: readonly number[],
): readonly Measurement[] {
  return decorrelate({ row: zero, value: found.zero }, { row: sensitivity, value: found.sensitivity }, covariance);
}

/** Several branches after the same measurements: one belief, and the chance of each branch now. */
interface WeighedBranches {
  readonly belief: Belief;
  readonly logLikelihood: number;
  /** each measurement, by the first branch: seen less expected, over its expected standard deviation */
  readonly standardised: readonly number[];
  readonly chances: readonly number[];
}

/**
 * Updates each branch with the same measurements, weighs the branches by how well they predicted them, and merges them into
 * one belief of the same mean and covariance.
 *
 * @param branches the first branch is "no jump"
 * @param measurements independent of each other
 * @see Durbin & Koopman (2012), 4.3 and 6.4 (one figure after the other); Bar-Shalom, Li & Kirubarajan, Estimation with
 * Applications to Tracking and Navigation (2001), 11.6 (drawing together, "GPB1")
 */
export function weighedBranches(branches: readonly Branch[], measurements: readonly Measurement[]): WeighedBranches {
  const standardised: number[] = [];
  const logs: number[] = [];
  const beliefs: Belief[] = [];
  for (const branch of branches) {
    let { belief } = branch;
    let log = Math.log(branch.chance);
    for (const measurement of measurements) {
      const made = update(belief, measurement);
      if (beliefs.length === 0) standardised.push(made.variance > 0 ? made.innovation / Math.sqrt(made.variance) : 0);
      belief = made.belief;
      log += made.logLikelihood;
    }
    beliefs.push(belief);
    logs.push(log);
  }
  const { chances, log } = chancesOf(logs);
  const drawn = merged(beliefs.map((belief, i) => ({ chance: chances[i]!, belief })));
  return { belief: drawn, logLikelihood: log, standardised, chances };
}

/** One belief with the mean and the covariance of several. */
export function merged(branches: readonly Branch[]): Belief {
  const [first] = branches;
  if (branches.length === 1) return first!.belief;
  // About the first one: what all agree on stays exactly as it is.
  const from = first!.belief.mean;
  const mean = from.slice();
  const n = mean.length;
  for (const { chance, belief } of branches)
    for (let i = 0; i < n; i++) mean[i]! += chance * (belief.mean[i]! - from[i]!);
  const covariance = zeros(n * n);
  for (const { chance, belief } of branches)
    for (let i = 0; i < n; i++) {
      const off = belief.mean[i]! - mean[i]!;
      for (let j = 0; j <= i; j++)
        covariance[i * n + j]! += chance * (belief.covariance[i * n + j]! + off * (belief.mean[j]! - mean[j]!));
    }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) covariance[j * n + i] = covariance[i * n + j]!;
  return { mean, covariance };
}
