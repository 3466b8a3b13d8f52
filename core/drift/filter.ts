import { MS_PER_DAY } from '../quantities/constants.ts';
import { apart, moved, seen, type Belief, type Motion } from '../statistics/kalman.ts';
import type { FamilyPrior, Observation, ServiceEvent } from './history.ts';

/** What is believed of one sensor: zero, its rate (a day), sensitivity, its rate (a day), with covariance. */
export interface DriftState {
  readonly atMs: number;
  readonly belief: Belief;
}

/** Places in the state. */
export const ZERO = 0;
export const SENSITIVITY = 2;
const SIZE = 4;

/** What one observation has made of a state. */
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
  const covariance = new Array<number>(SIZE * SIZE).fill(0);
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
export function predict(state: DriftState, prior: FamilyPrior, toMs: number): DriftState {
  const days = (toMs - state.atMs) / MS_PER_DAY;
  if (!(days > 0)) return state;
  return { atMs: toMs, belief: moved(state.belief, motionOver(prior, days)) };
}

/** How a sensor's state moves over so many days. */
export function motionOver(prior: FamilyPrior, days: number): Motion {
  const transition = new Array<number>(SIZE * SIZE).fill(0);
  const noise = new Array<number>(SIZE * SIZE).fill(0);
  const shift = new Array<number>(SIZE).fill(0);
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

/** One way in which a sensor may stand: with so much chance, and a belief. */
export interface Way {
  readonly chance: number;
  readonly belief: Belief;
}

/**
 * A carried state with the jumps that may have come meanwhile: none, one of the zero, or one of the sensitivity, each as
 * often as it comes by itself. Two in one stretch are taken as one.
 *
 * @param days since the last observation
 */
export function mayHaveJumped({ belief }: DriftState, prior: FamilyPrior, days: number): readonly Way[] {
  const kinds = [
    { at: ZERO, aYear: prior.zeroJumpsPerYear, sd: prior.zeroJumpSd },
    { at: SENSITIVITY, aYear: prior.sensitivityJumpsPerYear, sd: prior.sensitivityJumpSd },
  ].filter((k) => k.sd > 0);
  const aYear = kinds.reduce((sum, k) => sum + k.aYear, 0);
  const any = -Math.expm1((-aYear * Math.max(0, days)) / DAYS_PER_YEAR);
  if (!(any > 0)) return [{ chance: 1, belief }];
  const ways: Way[] = [{ chance: 1 - any, belief }];
  for (const { at, sd, aYear: its } of kinds)
    ways.push({ chance: (any * its) / aYear, belief: widened(belief, [{ at, variance: sd ** 2 }]) });
  return ways;
}
const DAYS_PER_YEAR = 365.25;

/** A belief with so much more spread at some places. */
function widened({ mean, covariance }: Belief, by: readonly { at: number; variance: number }[]): Belief {
  const wider = covariance.slice();
  for (const { at, variance } of by) wider[at * SIZE + at]! += variance;
  return { mean, covariance: wider };
}

/** Forgets one parameter: it is as little known as in a new sensor, and has nothing to do with the other one any more. */
function forgotten({ mean, covariance }: Belief, prior: FamilyPrior, atMs: number, level: number): Belief {
  const fresh = priorState(prior, atMs).belief;
  const m = mean.slice();
  const c = covariance.slice();
  for (const i of [level, level + 1]) {
    m[i] = fresh.mean[i]!;
    for (let j = 0; j < SIZE; j++) c[i * SIZE + j] = c[j * SIZE + i] = 0;
    c[i * SIZE + i] = fresh.covariance[i * SIZE + i]!;
  }
  return { mean: m, covariance: c };
}

/**
 * What a service does to what is known: a cleaning, or a plug that was dried, moves both parameters a little, a refill makes the zero anybody's
 * guess (the reference is another one), a new tip, cap or cell makes both, and so does drying out.
 */
export function serviced(state: DriftState, prior: FamilyPrior, { kind, atMs }: ServiceEvent): DriftState {
  const { belief } = predict(state, prior, atMs);
  const after =
    kind === 'cleaned' || kind === 'plug dried'
      ? widened(belief, [
          { at: ZERO, variance: prior.cleanedZeroSd ** 2 },
          { at: SENSITIVITY, variance: prior.cleanedSensitivitySd ** 2 },
        ])
      : kind === 'refilled'
        ? forgotten(belief, prior, atMs, ZERO)
        : kind === 'tip replaced' || kind === 'stored dry'
          ? priorState(prior, atMs).belief
          : belief;
  return { atMs: Math.max(state.atMs, atMs), belief: after };
}

const ROW_ZERO = [1, 0, 0, 0];
const ROW_SENSITIVITY = [0, 0, 1, 0];

/**
 * Takes in a run: carries the state to its time, weighs whether the sensor has jumped since, and updates each way with
 * what was found. The ways are then drawn together into one belief of the same mean and covariance.
 *
 * @param days since the last observation; 0 for the first one
 * @see Durbin & Koopman (2012), 4.3 and 6.4 (one figure after the other); Bar-Shalom, Li & Kirubarajan, Estimation with
 * Applications to Tracking and Navigation (2001), 11.6 (drawing together, "GPB1")
 */
export function takeIn(
  before: DriftState,
  prior: FamilyPrior,
  observation: Observation,
  days = (observation.atMs - before.atMs) / MS_PER_DAY,
): TakenIn {
  let state = predict(before, prior, observation.atMs);
  if (observation.cleaned) state = serviced(state, prior, { kind: 'cleaned', atMs: observation.atMs });
  const { zero, sensitivity } = observation.found;
  const [first, second] = apart(
    { row: ROW_ZERO, value: zero },
    { row: ROW_SENSITIVITY, value: sensitivity },
    observation.covariance,
  );
  const tried = mayHaveJumped(state, prior, days).map(({ chance, belief }) => {
    const one = seen(belief, first);
    const two = seen(one.belief, second);
    return { one, two, log: Math.log(chance) + one.logLikelihood + two.logLikelihood };
  });
  const top = Math.max(...tried.map((t) => t.log));
  const raw = tried.map((t) => Math.exp(t.log - top));
  const total = raw.reduce((s, w) => s + w, 0);
  const [quiet] = tried;
  const over = (s: { innovation: number; variance: number }) =>
    s.variance > 0 ? s.innovation / Math.sqrt(s.variance) : 0;
  return {
    state: {
      atMs: state.atMs,
      belief: drawnTogether(tried.map((t, i) => ({ chance: raw[i]! / total, belief: t.two.belief }))),
    },
    logLikelihood: top + Math.log(total),
    standardised: [over(quiet!.one), over(quiet!.two)],
    jumped: 1 - raw[0]! / total,
  };
}

/** One belief with the mean and the covariance of several. */
export function drawnTogether(ways: readonly Way[]): Belief {
  const [first] = ways;
  if (ways.length === 1) return first!.belief;
  // About the first one: what all agree on stays exactly as it is.
  const mean = first!.belief.mean.slice();
  const covariance = new Array<number>(SIZE * SIZE).fill(0);
  for (const { chance, belief } of ways)
    for (let i = 0; i < SIZE; i++) mean[i]! += chance * (belief.mean[i]! - first!.belief.mean[i]!);
  for (const { chance, belief } of ways)
    for (let i = 0; i < SIZE; i++) {
      const off = belief.mean[i]! - mean[i]!;
      for (let j = 0; j < SIZE; j++)
        covariance[i * SIZE + j]! += chance * (belief.covariance[i * SIZE + j]! + off * (belief.mean[j]! - mean[j]!));
    }
  return { mean, covariance };
}
