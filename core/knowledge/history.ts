import type { RunOutcome } from '../calibration/outcome.ts';
import { significantStep } from '../calibration/plan.ts';
import { type Cone, DRIFT_VERSION, type Working, coneAlong } from '../drift/cone.ts';
import { filtered } from '../drift/course.ts';
import type { Observation, ServiceEvent } from '../drift/history.ts';
import { atLikeliestPace, filteredAtPaces } from '../drift/pace.ts';
import { type PastRun, pastOf } from '../drift/past.ts';
import { type Fleet, ofFleet } from '../drift/pool.ts';
import { familyOf } from '../families/registry.ts';
import type { Ended, Fitted } from './fitted.ts';
import type { Past } from './past.ts';
import type { SensorId } from '../quantities/ids.ts';
import type { ServiceKind } from '../sensor/befalls.ts';
import { type Coefficients, IDEAL_SENSOR } from '../sensor/coefficients.ts';
import type { SensorLimits } from '../sensor/family.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import { modelOf } from '../sensor/sensor.ts';

/** What finished runs say of their sensor, in the form that the drift engine takes. */
export function observationsOf(outcomes: readonly Ended[]): Observation[] {
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

/** Who says what is expected of a sensor: the version of the engine, and of how many it has learned. */
export const learnedFrom = ({ fleet: { sensors, runs } }: Pick<Past, 'fleet'>) => ({
  version: DRIFT_VERSION,
  sensors,
  runs,
});

/** Services as the drift engine takes them, oldest first. */
export const eventsOf = (rows: readonly { readonly at: string; readonly kind: ServiceKind }[]): ServiceEvent[] =>
  rows.map(({ at, kind }) => ({ atMs: Date.parse(at), kind })).sort((a, b) => a.atMs - b.atMs);

/** The cone of a fitted loop's sensor. @param fromMs segments that ended before are left out */
export function coneOf(
  fitted: Fitted,
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
export function pastRunsOf(fitted: Fitted, { finished, services, fleet }: Past): readonly PastRun[] {
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
export const limitsOf = ({ family, limits }: Fitted['loop']): SensorLimits => ({
  ...familyOf(family).limits,
  ...limits,
});

/** What the drift model must know of a loop. */
export function driftOf({ loop }: Fitted, fleet: Fleet): { prior: FamilyPrior; working: Working } {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const working = { model, value: loop.workingValue, temperatureC: loop.workingC };
  return { prior: ofFleet(family.prior(significantStep(family, model, working)), fleet), working };
}

/** The change that counts at a loop's working value, in the unit of its signal. */
export function stepAt({ loop }: Pick<Fitted, 'loop'>): number {
  const family = familyOf(loop.family);
  return significantStep(family, modelOf(family, loop.settings), {
    value: loop.workingValue,
    temperatureC: loop.workingC,
  });
}

/** What a channel believed at a time, by the runs of its sensor, oldest first. */
export const coefficientsInForce =
  (mine: readonly Ended[]) =>
  (ms: number): Coefficients =>
    mine.findLast((o) => Date.parse(o.endedAt) <= ms)?.outcome.inForceAfter ??
    mine[0]?.outcome.inForceBefore ??
    IDEAL_SENSOR;
