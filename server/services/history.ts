import {
  DRIFT_VERSION,
  cone,
  countsAt,
  familyOf,
  filtered,
  modelOf,
  ofFleet,
  pastOf,
  priorOf,
  type Cone,
  type FamilyPrior,
  type Fleet,
  type Observation,
  type PastRun,
  type RunOutcome,
  type ServiceEvent,
  type SensorLimits,
  type Working,
} from '@frustum/core';
import type { FittedLoop } from '../store/commands/places.ts';

/** What finished runs say of their sensor, in the form that the drift engine takes. */
export function observationsOf(
  outcomes: readonly { readonly endedAt: string; readonly outcome: RunOutcome }[],
): Observation[] {
  return outcomes.flatMap(({ endedAt, outcome }) => {
    const { kind } = outcome;
    // A transmitter's electronics say nothing of the sensor.
    if (kind === 'electrical') return [];
    return [
      {
        atMs: Date.parse(endedAt),
        kind,
        found: outcome.coefficients,
        covariance: outcome.evidence ?? outcome.covariance,
        inForceAfter: outcome.inForceAfter,
        cleaned: outcome.cleaned,
      },
    ];
  });
}

/** Finished runs that were about the sensor, and not about its transmitter. */
export const ofSensor = <T extends { readonly outcome: RunOutcome }>(list: readonly T[]): T[] =>
  list.filter((o) => o.outcome.kind !== 'electrical');

/** What one sensor has been through, and what its siblings say of sensors like it. */
export interface Past {
  /** finished runs, oldest first */
  readonly finished: readonly { readonly endedAt: string; readonly outcome: RunOutcome }[];
  /** what was done to it outside of runs, oldest first */
  readonly services: readonly ServiceEvent[];
  readonly fleet: Fleet;
}

/** Who says what is expected of a sensor: the version of the engine, and of how many it has learned. */
export const learnedFrom = ({ fleet: { sensors, runs } }: Pick<Past, 'fleet'>) => ({
  version: DRIFT_VERSION,
  sensors,
  runs,
});

/** Services as the drift engine takes them, oldest first. */
export const eventsOf = (rows: readonly { readonly at: string; readonly kind: string }[]): ServiceEvent[] =>
  rows
    .map(({ at, kind }) => ({ atMs: Date.parse(at), kind: kind as ServiceEvent['kind'] }))
    .sort((a, b) => a.atMs - b.atMs);

/** The cone of a fitted loop's sensor. @param fromMs segments that ended before are left out */
export function coneOf(
  fitted: FittedLoop,
  { finished, services, fleet }: Past,
  untilMs: number,
  fromMs?: number,
): Cone {
  const { prior, working } = driftOf(fitted, fleet);
  const mine = ofSensor(finished);
  return cone(observationsOf(mine), prior, working, untilMs, mine[0]?.outcome.inForceBefore, services, fromMs);
}

/** Zero and sensitivity of a fitted loop's sensor through all its runs. */
export function pastRunsOf(fitted: FittedLoop, { finished, services, fleet }: Past): readonly PastRun[] {
  const { prior } = driftOf(fitted, fleet);
  return pastOf(filtered(observationsOf(ofSensor(finished)), prior, services), prior, services);
}

/** A list of things of sensors, by sensor. */
export function bySensor<T extends { readonly sensorId: string }>(all: readonly T[]): ReadonlyMap<string, T[]> {
  const by = new Map<string, T[]>();
  for (const one of all) {
    const mine = by.get(one.sensorId);
    if (mine) mine.push(one);
    else by.set(one.sensorId, [one]);
  }
  return by;
}

/** Where a loop stops trusting its sensor: the family's limits, with the loop's own in their place. */
export const limitsOf = ({ family, limits }: FittedLoop['loop']): SensorLimits => ({
  ...familyOf(family).limits,
  ...limits,
});

/** What the drift model must know of a loop. */
export function driftOf({ loop }: FittedLoop, fleet: Fleet): { prior: FamilyPrior; working: Working } {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const working = { model, value: loop.workingValue, temperatureC: loop.workingC };
  return { prior: ofFleet(priorOf(family, countsAt(family, model, working)), fleet), working };
}
