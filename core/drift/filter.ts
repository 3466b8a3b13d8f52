import { MS_PER_DAY } from '../quantities/constants.ts';
import { decorrelate, type Belief, type Measurement } from '../statistics/kalman.ts';
import { mayHaveJumped, weighedBranches } from './branches.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import {
  forgotten,
  predictState,
  priorState,
  SENSITIVITY,
  SIZE,
  widened,
  ZERO,
  type DriftState,
  type Lessons,
  type Placed,
} from './state.ts';
import { cleaningOf, newOnesOf } from './taught.ts';

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

/** A level of a new sensor and its rate, where a belief has them. */
const asWhenNew = ({ prior, from }: Placed, level: number, lessons?: Lessons) => {
  const { mean, covariance } = priorState(prior, 0).belief;
  const rate = level + 1;
  const begins = newOnesOf(prior, lessons)[level / 2]!;
  return [
    { at: from + level, mean: begins.value, variance: begins.sd ** 2 },
    { at: from + rate, mean: mean[rate]!, variance: covariance[rate * SIZE + rate]! },
  ];
};

/**
 * What a service does to what is known: a cleaning, or a plug that was dried, moves both parameters as it has done before, a
 * refill makes the zero anybody's guess (the reference is a new one), a new tip, cap or cell makes both, and so does drying out.
 *
 * @param lessons what such services have taught of this sensor; absent = nothing
 */
export function afterService(belief: Belief, sensor: Placed, kind: ServiceEvent['kind'], lessons?: Lessons): Belief {
  const { prior, from } = sensor;
  if (kind === 'cleaned' || kind === 'plug dried') {
    const by = cleaningOf(prior, lessons);
    const mean = belief.mean.slice();
    const places = [from + ZERO, from + SENSITIVITY];
    places.forEach((at, i) => (mean[at]! += by[i]!.value));
    return widened(
      { ...belief, mean },
      places.map((at, i) => ({ at, variance: by[i]!.sd ** 2 })),
    );
  }
  if (kind === 'refilled') return forgotten(belief, asWhenNew(sensor, ZERO));
  if (kind === 'tip replaced' || kind === 'stored dry')
    return forgotten(
      belief,
      [ZERO, SENSITIVITY].flatMap((level) => asWhenNew(sensor, level, lessons)),
    );
  return belief;
}

/** A state carried to a service, with what that does to it. */
export function serviced(state: DriftState, prior: FamilyPrior, { kind, atMs }: ServiceEvent): DriftState {
  const { belief } = predictState(state, prior, atMs);
  const after = afterService(belief, { prior, from: 0 }, kind, state.lessons);
  return { ...state, atMs: Math.max(state.atMs, atMs), belief: after };
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
    mayHaveJumped(state, prior, days, observation.found),
    measurementsOf(observation, ROW_ZERO, ROW_SENSITIVITY),
  );
  return {
    state: { ...state, belief },
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
