import type { Model } from '../families/family.ts';
import type { Coefficients } from '../families/ph/electrode.ts';
import { errorGradientOf, shownErrorOf, type Covariance2 } from '../families/working-error.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { Z50, Z95 } from '../statistics/normal.ts';
import { halfWidth, sdOf, type Spread } from '../statistics/spread.ts';
import {
  mayHaveJumped,
  predict,
  priorState,
  SENSITIVITY,
  serviced,
  takeIn,
  ZERO,
  type DriftState,
  type TakenIn,
} from './filter.ts';
import type { FamilyPrior, Observation, ServiceEvent } from './history.ts';

/** Counts up whenever a stored prediction would come out differently. */
export const DRIFT_VERSION = 5;

/** Where the sensor works: the error that counts is the one shown here. */
export interface Working {
  readonly model: Model;
  readonly value: number;
  readonly temperatureC: number;
}

/** Error that the channel shows at the working value, in its unit, at one moment. */
export interface ErrorAt extends Spread {
  readonly atMs: number;
  readonly sd: number;
  /** half widths of the bands that hold it with 50 and 95 % */
  readonly half50: number;
  readonly half95: number;
}

/** A found error, as a mark on the cone. */
export interface FoundMark {
  readonly atMs: number;
  readonly kind: Observation['kind'];
  readonly error: number;
  readonly sd: number;
  /** chance that the sensor has jumped since the run before */
  readonly jumped: number;
}

/** From one run to the next (or to the horizon): narrow at its run, widening since. */
export interface Segment {
  readonly fromMs: number;
  readonly toMs: number;
  readonly points: readonly ErrorAt[];
}

/** Zero and sensitivity expected at a moment, with standard deviations. */
export interface ParametersAt {
  readonly zero: number;
  readonly zeroSd: number;
  readonly sensitivity: number;
  readonly sensitivitySd: number;
}

export interface Cone {
  readonly segments: readonly Segment[];
  readonly marks: readonly FoundMark[];
  /** forecast from the last run on; null before the first run */
  readonly errorAt: ((atMs: number) => ErrorAt) | null;
  /** what the bench holds a new reading against */
  readonly expectedAt: (atMs: number) => ParametersAt;
}

const POINTS_A_SEGMENT = 12;

/**
 * How wrong a sensor is shown to be, and how sure that is, from its runs on.
 *
 * History and prior in, `errorAt(t)` with its spread out. Each run narrows the cone; the time since widens it.
 *
 * @param history finished runs, rising time
 * @param untilMs horizon of the last segment
 * @param inForceBefore what the channel believed before the first run
 * @param services what was done to the sensor outside of runs, rising time
 * @param fromMs segments that ended before are left out: nobody looks at them
 * @example cone(falling, phPrior, atWork, 90 * day).segments.length // 3
 */
export function cone(
  history: readonly Observation[],
  prior: FamilyPrior,
  working: Working,
  untilMs: number,
  inForceBefore: Coefficients = { zero: 0, sensitivity: 1 },
  services: readonly ServiceEvent[] = [],
  fromMs = Number.NEGATIVE_INFINITY,
): Cone {
  const course = filtered(history, prior, services);
  if (course.length === 0)
    return { segments: [], marks: [], errorAt: null, expectedAt: (atMs) => parametersIn(priorState(prior, atMs)) };
  let inForce = inForceBefore;
  const segments: Segment[] = [];
  const marks: FoundMark[] = [];
  course.forEach(({ observation, state, jumped }, i) => {
    const found = spreadOf([{ chance: 1, covariance: observation.covariance }], observation.found, inForce, working);
    const { atMs, kind } = observation;
    marks.push({ atMs, kind, error: found.mean, sd: sdOf(found), jumped });
    inForce = observation.inForceAfter;
    const toMs = course[i + 1]?.observation.atMs ?? Math.max(untilMs, atMs + MS_PER_DAY);
    if (toMs < fromMs) return;
    const at = errorFrom(state, prior, inForce, working, services);
    const points = Array.from({ length: POINTS_A_SEGMENT + 1 }, (_, k) =>
      at(state.atMs + ((toMs - state.atMs) * k) / POINTS_A_SEGMENT),
    );
    segments.push({ fromMs: state.atMs, toMs, points });
  });
  const last = course.at(-1)!.state;
  return {
    segments,
    marks,
    errorAt: errorFrom(last, prior, inForce, working, services),
    expectedAt: (atMs) => parametersIn(carried(last, prior, services, atMs)),
  };
}

/** What each run has made of what is known. */
export type Course = readonly (TakenIn & { readonly observation: Observation })[];

/** Runs the filter over a history. */
export function filtered(
  history: readonly Observation[],
  prior: FamilyPrior,
  services: readonly ServiceEvent[] = [],
): Course {
  const first = history[0];
  if (!first) return [];
  let state = priorState(prior, first.atMs);
  return history.map((observation) => {
    const days = (observation.atMs - state.atMs) / MS_PER_DAY;
    const made = takeIn(carried(state, prior, services, observation.atMs), prior, observation, days);
    state = made.state;
    return { ...made, observation };
  });
}

/** A state at a later moment, with all that was done to the sensor on the way. */
function carried(state: DriftState, prior: FamilyPrior, services: readonly ServiceEvent[], toMs: number): DriftState {
  const after = services.filter((s) => s.atMs > state.atMs && s.atMs <= toMs);
  return predict(
    after.reduce((s, event) => serviced(s, prior, event), state),
    prior,
    toMs,
  );
}

/** The forecast of the shown error from a state on. */
function errorFrom(
  state: DriftState,
  prior: FamilyPrior,
  inForce: Coefficients,
  working: Working,
  services: readonly ServiceEvent[],
): (atMs: number) => ErrorAt {
  return (atMs) => {
    const there = carried(state, prior, services, atMs);
    const ways = mayHaveJumped(there, prior, (atMs - state.atMs) / MS_PER_DAY);
    const { mean } = there.belief;
    const spread = spreadOf(
      ways.map(({ chance, belief: { covariance: c } }) => ({
        chance,
        covariance: [
          [c[ZERO * 4 + ZERO]!, c[ZERO * 4 + SENSITIVITY]!],
          [c[SENSITIVITY * 4 + ZERO]!, c[SENSITIVITY * 4 + SENSITIVITY]!],
        ] as const,
      })),
      { zero: mean[ZERO]!, sensitivity: mean[SENSITIVITY]! },
      inForce,
      working,
    );
    return {
      ...spread,
      atMs,
      sd: sdOf(spread),
      half50: halfWidth(spread, 0.5, Z50),
      half95: halfWidth(spread, 0.95, Z95),
    };
  };
}

/**
 * Mean and spread of the shown error: exact where it is linear in zero and sensitivity (glass, cells), to first order
 * about the mean where it is not (ion tips).
 */
function spreadOf(
  ways: readonly { readonly chance: number; readonly covariance: Covariance2 }[],
  actual: Coefficients,
  inForce: Coefficients,
  working: Working,
): Spread {
  const { perZero: z, perSensitivity: s } = errorGradientOf(working.model, working, actual, inForce);
  return {
    mean: shownErrorOf(working.model, working, actual, inForce),
    pieces: ways.map(({ chance, covariance: [[zz, zs], [, ss]] }) => ({
      chance,
      sd: Math.sqrt(Math.max(0, z * z * zz + 2 * z * s * zs + s * s * ss)),
    })),
  };
}

/** Both parameters as a state has them; jumps that may come are not in their spread. */
export function parametersIn({ belief: { mean, covariance } }: DriftState): ParametersAt {
  const sd = (at: number) => Math.sqrt(Math.max(0, covariance[at * 4 + at]!));
  return {
    zero: mean[ZERO]!,
    zeroSd: sd(ZERO),
    sensitivity: mean[SENSITIVITY]!,
    sensitivitySd: sd(SENSITIVITY),
  };
}
