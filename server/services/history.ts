import {
  DRIFT_VERSION,
  IDEAL_SENSOR,
  atLikeliestPace,
  coneAlong,
  countsAt,
  familyOf,
  filtered,
  filteredAtPaces,
  filteredTogether,
  modelOf,
  ofFleet,
  pastOf,
  weekly,
  type AtOnePace,
  type Coefficients,
  type Cone,
  type FamilyPrior,
  type Hung,
  type Fleet,
  type Observation,
  type PastRun,
  type RunOutcome,
  type ServiceEvent,
  type SensorLimits,
  type Working,
  type SensorId,
} from '@frustum/core';
import type { FittedLoop } from '../store/commands/places.ts';
import type { DayBeside } from '../store/commands/readings.ts';
import { comparedOn } from './beside.ts';

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
  /** others in the same water, where they were held beside it */
  readonly together?: Together;
}

/** A sensor as one of several in the same water. */
export interface Together {
  /** names of the loops of the others */
  readonly withLoops: readonly string[];
  /** how often they were held beside each other */
  readonly times: number;
  /** changes whenever what is known by it does */
  readonly basis: string;
  readonly known: () => AtOnePace;
}

/**
 * What a sensor's fellows in the same water say of it.
 *
 * @param members with one run each at least, itself among them
 */
export function togetherOf(
  { sensor }: FittedLoop,
  members: readonly { readonly fitted: FittedLoop; readonly past: Past }[],
  days: readonly DayBeside[],
): Together {
  const runs = members.map(({ past }) => ofSensor(past.finished));
  const breaks = [
    ...runs.flat().map((r) => Date.parse(r.endedAt)),
    ...members.flatMap(({ past }) => past.services.map((s) => s.atMs)),
  ];
  const group = members.map((m) => m.fitted);
  const comparisons = weekly(
    comparedOn(
      days,
      group,
      runs.map((list) => beliefsOf(list)),
      breaks,
    ),
    breaks,
  );
  const mine = group.findIndex((f) => f.sensor.id === sensor.id);
  return {
    withLoops: group.filter((_, i) => i !== mine).map((f) => f.loop.name),
    times: comparisons.length,
    basis: JSON.stringify([breaks.length, Math.max(...breaks), comparisons.length, comparisons.at(-1)]),
    known: () => {
      const hung = members.map(({ fitted, past }, i): Hung => {
        const { prior, working } = driftOf(fitted, past.fleet);
        const history = observationsOf(runs[i]!);
        const own = atLikeliestPace(prior, history, past.services);
        return { prior: own, working, step: stepAt(fitted), history, services: past.services };
      });
      const known = filteredTogether(hung, comparisons)[mine]!;
      return { prior: hung[mine]!.prior, known, chances: known.map(() => 1) };
    },
  };
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
  { finished, services, fleet, together }: Past,
  untilMs: number,
  fromMs?: number,
): Cone {
  const { prior, working } = driftOf(fitted, fleet);
  const mine = ofSensor(finished);
  const lines = together ? [together.known()] : filteredAtPaces(observationsOf(mine), prior, services);
  return coneAlong(lines, working, untilMs, mine[0]?.outcome.inForceBefore, services, fromMs);
}

/** Zero and sensitivity of a fitted loop's sensor through all its runs. */
export function pastRunsOf(fitted: FittedLoop, { finished, services, fleet }: Past): readonly PastRun[] {
  const history = observationsOf(ofSensor(finished));
  const prior = atLikeliestPace(driftOf(fitted, fleet).prior, history, services);
  return pastOf(filtered(history, prior, services), prior, services);
}

/** A list of things of sensors, by sensor. */
export function bySensor<T extends { readonly sensorId: SensorId }>(all: readonly T[]): ReadonlyMap<string, T[]> {
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
  return { prior: ofFleet(family.prior(countsAt(family, model, working)), fleet), working };
}

/** The change that counts at a loop's working value, in the unit of its signal. */
export function stepAt({ loop }: Pick<FittedLoop, 'loop'>): number {
  const family = familyOf(loop.family);
  return countsAt(family, modelOf(family, loop.settings), { value: loop.workingValue, temperatureC: loop.workingC });
}

/** What a channel believed at a time, by the runs of its sensor, oldest first. */
export const beliefsOf =
  (mine: Past['finished']) =>
  (ms: number): Coefficients =>
    mine.findLast((o) => Date.parse(o.endedAt) <= ms)?.outcome.inForceAfter ??
    mine[0]?.outcome.inForceBefore ??
    IDEAL_SENSOR;
