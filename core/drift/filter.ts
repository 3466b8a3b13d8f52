import { inverse, Matrix } from 'ml-matrix';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { FamilyPrior, Observation } from './history.ts';

/** State of one sensor: zero (mV), its rate (mV/day), slope (fraction), its rate (1/day), with covariance. */
export interface DriftState {
  readonly atMs: number;
  readonly mean: Matrix;
  readonly covariance: Matrix;
}

/** What is known before the first observation. */
export function priorState(prior: FamilyPrior, atMs: number): DriftState {
  return {
    atMs,
    mean: Matrix.columnVector([prior.zero, 0, prior.sensitivity, 0]),
    covariance: Matrix.diag([
      prior.zeroSd ** 2,
      prior.zeroRateSd ** 2,
      prior.sensitivitySd ** 2,
      prior.sensitivityRateSd ** 2,
    ]),
  };
}

/**
 * Carries a state forward in continuous time: level' = rate + white noise, rate' = −rate/τ + white noise.
 *
 * The rate is an Ornstein-Uhlenbeck process: it is forgotten with memory τ, so the spread of the level grows as √Δ in
 * the long run, not as Δ^1.5. In the limit τ → ∞ the process noise tends to σr²·[[Δ³/3, Δ²/2], [Δ²/2, Δ]].
 *
 * @param toMs not before the state's own time
 */
export function predict(state: DriftState, prior: FamilyPrior, toMs: number): DriftState {
  const days = (toMs - state.atMs) / MS_PER_DAY;
  if (!(days > 0)) return state;
  const tau = prior.rateMemoryDays;
  const decay = Math.exp(-days / tau);
  const f = Matrix.eye(4);
  for (const level of [0, 2]) {
    f.set(level, level + 1, tau * (1 - decay));
    f.set(level + 1, level + 1, decay);
  }
  const q = Matrix.zeros(4, 4);
  addNoise(q, 0, prior.zeroWalk, prior.zeroRateSd, tau, days);
  addNoise(q, 2, prior.sensitivityWalk, prior.sensitivityRateSd, tau, days);
  return {
    atMs: toMs,
    mean: f.mmul(state.mean),
    covariance: f.mmul(state.covariance).mmul(f.transpose()).add(q),
  };
}

/** Process noise of one level-and-rate pair over `days`; the rate's stationary variance is rateSd². */
export function addNoise(q: Matrix, at: number, walk: number, rateSd: number, tau: number, days: number): void {
  const drive = (2 * rateSd ** 2) / tau;
  const e1 = -Math.expm1(-days / tau);
  const e2 = -Math.expm1((-2 * days) / tau);
  q.set(at, at, walk ** 2 * days + drive * tau ** 2 * (days - 2 * tau * e1 + (tau / 2) * e2));
  const cross = drive * tau ** 2 * (e1 - e2 / 2);
  q.set(at, at + 1, cross);
  q.set(at + 1, at, cross);
  q.set(at + 1, at + 1, drive * (tau / 2) * e2);
}

const OBSERVE = new Matrix([
  [1, 0, 0, 0],
  [0, 0, 1, 0],
]);

/**
 * Takes in a run that found zero and slope. The covariance is kept symmetric and positive by the Joseph form.
 *
 * @see Anderson & Moore, Optimal Filtering (1979), ch. 3 and 6
 */
export function update(state: DriftState, prior: FamilyPrior, observation: Observation): DriftState {
  const r = new Matrix(observation.covariance.map((row) => [...row]));
  if (observation.cleaned) {
    // A cleaning moves the sensor between what it was and what was measured after it.
    r.set(0, 0, r.get(0, 0) + prior.cleanedZeroSd ** 2);
    r.set(1, 1, r.get(1, 1) + prior.cleanedSensitivitySd ** 2);
  }
  const found = Matrix.columnVector([observation.found.zero, observation.found.sensitivity]);
  const p = state.covariance;
  const gain = p.mmul(OBSERVE.transpose()).mmul(inverse(OBSERVE.mmul(p).mmul(OBSERVE.transpose()).add(r)));
  const left = Matrix.sub(Matrix.eye(4), gain.mmul(OBSERVE));
  return {
    atMs: state.atMs,
    mean: Matrix.add(state.mean, gain.mmul(Matrix.sub(found, OBSERVE.mmul(state.mean)))),
    covariance: left.mmul(p).mmul(left.transpose()).add(gain.mmul(r).mmul(gain.transpose())),
  };
}
