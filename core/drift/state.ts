import { MS_PER_DAY } from '../quantities/constants.ts';
import { predict, zeros, type Belief, type Motion } from '../statistics/kalman.ts';
import type { FamilyPrior, FigurePrior } from '../sensor/prior.ts';

/** The belief about one sensor: zero, its rate per day, sensitivity, its rate per day, with their covariance. */
export interface DriftState {
  readonly atMs: number;
  readonly belief: Belief;
  /** what services have taught of it so far; absent = nothing */
  readonly lessons?: Lessons;
}

/** What one kind of service has done to one figure of a sensor so far. */
export interface Taught {
  readonly times: number;
  readonly mean: number;
  /** sum of squares about the mean */
  readonly squares: number;
}

/** Zero and sensitivity: by how much a cleaning moved them, and where new tips, caps and membranes began. */
export interface Lessons {
  readonly cleaned: readonly [zero: Taught, sensitivity: Taught];
  readonly renewed: readonly [zero: Taught, sensitivity: Taught];
}

/** Places in the state. */
export const ZERO = 0;
export const SENSITIVITY = 2;

/** Figures of one sensor in a belief. */
export const SIZE = 4;

/** A sensor within a belief: what is known of its family, and where its four figures begin. */
export interface Placed {
  readonly prior: FamilyPrior;
  readonly from: number;
}

/** What is known before the first observation. */
export function priorState(prior: FamilyPrior, atMs: number): DriftState {
  const covariance = zeros(SIZE * SIZE);
  const figures = [prior.zero, prior.sensitivity];
  figures.flatMap((f) => [f.sd, f.firstRateSd]).forEach((sd, i) => (covariance[i * SIZE + i] = sd ** 2));
  return { atMs, belief: { mean: figures.flatMap((f) => [f.value, f.rate + f.firstRate]), covariance } };
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
  return { ...state, atMs: toMs, belief: predict(state.belief, motionOver(prior, days)) };
}

/** How a sensor's state moves over so many days. */
export function motionOver(prior: FamilyPrior, days: number): Motion {
  const transition = zeros(SIZE * SIZE);
  const noise = zeros(SIZE * SIZE);
  const shift = zeros(SIZE);
  const moves = (level: number, { rate, walk, rateSd, memoryDays: tau }: FigurePrior) => {
    const gone = -Math.expm1(-days / tau);
    transition[level * SIZE + level] = 1;
    transition[level * SIZE + level + 1] = tau * gone;
    transition[(level + 1) * SIZE + level + 1] = 1 - gone;
    shift[level] = rate * (days - tau * gone);
    shift[level + 1] = rate * gone;
    addNoise(noise, level, walk, rateSd, tau, days);
  };
  moves(ZERO, prior.zero);
  moves(SENSITIVITY, prior.sensitivity);
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
