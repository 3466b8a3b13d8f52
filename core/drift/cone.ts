import type { Model } from '../families/family.ts';
import type { Coefficients } from '../families/ph/electrode.ts';
import { errorGradientOf, shownErrorOf } from '../families/working-error.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { predict, priorState, update, type DriftState } from './filter.ts';
import type { FamilyPrior, Observation } from './history.ts';

/** Where the sensor works: the error that counts is the one shown here. */
export interface Working {
  readonly model: Model;
  readonly value: number;
  readonly temperatureC: number;
}

/** Error that the channel shows at the working value, in its unit, at one moment. */
export interface ErrorAt {
  readonly atMs: number;
  readonly mean: number;
  readonly sd: number;
}

/** A found error, as a mark on the cone. */
export interface FoundMark {
  readonly atMs: number;
  readonly kind: Observation['kind'];
  readonly error: number;
  readonly sd: number;
}

/** From one run to the next (or to the horizon): narrow at its run, widening since. */
export interface Segment {
  readonly fromMs: number;
  readonly toMs: number;
  readonly points: readonly ErrorAt[];
}

export interface Cone {
  readonly segments: readonly Segment[];
  readonly marks: readonly FoundMark[];
  /** forecast from the last run on; null before the first run */
  readonly errorAt: ((atMs: number) => ErrorAt) | null;
  /** zero and slope expected at a moment, with standard deviations: what the bench holds a new reading against */
  readonly expectedAt: (atMs: number) => {
    readonly zero: number;
    readonly zeroSd: number;
    readonly sensitivity: number;
    readonly sensitivitySd: number;
  };
}

const POINTS_A_SEGMENT = 12;

/**
 * How wrong a sensor is shown to be, and how sure that is, from its runs on.
 *
 * History and prior in, `errorAt(t)` with its spread out. Each run narrows the cone; the time since widens it.
 *
 * @param history finished runs, rising time
 * @param untilMs horizon of the last segment
 */
export function cone(
  history: readonly Observation[],
  prior: FamilyPrior,
  working: Working,
  untilMs: number,
  inForceBefore: Coefficients = { zero: 0, sensitivity: 1 },
): Cone {
  const first = history[0];
  if (!first) {
    return { segments: [], marks: [], errorAt: null, expectedAt: (atMs) => expected(priorState(prior, atMs)) };
  }
  let state = priorState(prior, first.atMs);
  let inForce = inForceBefore;
  const segments: Segment[] = [];
  const marks: FoundMark[] = [];
  history.forEach((observation, i) => {
    state = update(predict(state, prior, observation.atMs), prior, observation);
    const found = stateOf(observation);
    const { mean, sd } = errorIn(found, inForce, working);
    marks.push({ atMs: observation.atMs, kind: observation.kind, error: mean, sd });
    inForce = observation.inForceAfter;
    const toMs = history[i + 1]?.atMs ?? Math.max(untilMs, observation.atMs + MS_PER_DAY);
    segments.push(segmentFrom(state, prior, inForce, working, toMs));
  });
  const last = state;
  const lastInForce = inForce;
  return {
    segments,
    marks,
    errorAt: (atMs) => errorIn(predict(last, prior, atMs), lastInForce, working),
    expectedAt: (atMs) => expected(predict(last, prior, atMs)),
  };
}

function segmentFrom(
  state: DriftState,
  prior: FamilyPrior,
  inForce: Coefficients,
  working: Working,
  toMs: number,
): Segment {
  const points = Array.from({ length: POINTS_A_SEGMENT + 1 }, (_, i) => {
    const atMs = state.atMs + ((toMs - state.atMs) * i) / POINTS_A_SEGMENT;
    return errorIn(predict(state, prior, atMs), inForce, working);
  });
  return { fromMs: state.atMs, toMs, points };
}

/**
 * Mean and spread of the shown error: exact where it is linear in zero and sensitivity (glass, cells), to first order
 * about the mean where it is not (ion tips).
 */
function errorIn(state: DriftState, inForce: Coefficients, working: Working): ErrorAt {
  const actual = { zero: state.mean.get(0, 0), sensitivity: state.mean.get(2, 0) };
  const g = errorGradientOf(working.model, working, actual, inForce);
  const c = state.covariance;
  const variance =
    g.perZero ** 2 * c.get(0, 0) + 2 * g.perZero * g.perSensitivity * c.get(0, 2) + g.perSensitivity ** 2 * c.get(2, 2);
  return {
    atMs: state.atMs,
    mean: shownErrorOf(working.model, working, actual, inForce),
    sd: Math.sqrt(Math.max(0, variance)),
  };
}

/** What one run alone says, as a state: for the mark, which must not borrow from its neighbours. */
function stateOf(observation: Observation): DriftState {
  const [[zz, zs], [sz, ss]] = observation.covariance;
  const bare = priorState(
    { ...NO_SPREAD, zero: observation.found.zero, sensitivity: observation.found.sensitivity },
    observation.atMs,
  );
  bare.covariance.set(0, 0, zz);
  bare.covariance.set(0, 2, zs);
  bare.covariance.set(2, 0, sz);
  bare.covariance.set(2, 2, ss);
  return bare;
}

const NO_SPREAD: FamilyPrior = {
  zero: 0,
  zeroSd: 0,
  sensitivity: 1,
  sensitivitySd: 0,
  zeroWalk: 0,
  sensitivityWalk: 0,
  zeroRateSd: 0,
  sensitivityRateSd: 0,
  rateMemoryDays: 1,
  cleanedZeroSd: 0,
  cleanedSensitivitySd: 0,
};

function expected(state: DriftState) {
  return {
    zero: state.mean.get(0, 0),
    zeroSd: Math.sqrt(state.covariance.get(0, 0)),
    sensitivity: state.mean.get(2, 0),
    sensitivitySd: Math.sqrt(state.covariance.get(2, 2)),
  };
}
