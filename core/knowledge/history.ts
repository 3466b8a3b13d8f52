import type { RunOutcome } from '../calibration/outcome.ts';
import { significantStep } from '../calibration/plan.ts';
import { type AtFit, type Cone, DRIFT_VERSION, coneAlong } from '../drift/cone.ts';
import type { Working } from '../drift/working.ts';
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
import { combinedOf, standingRowsOf } from '../sensor/rows.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';

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
        ...(outcome.byThermometer ? { byThermometer: outcome.byThermometer } : {}),
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
export const learnedFrom = ({ fleet: { sensors, runs, ofModel } }: Pick<Past, 'fleet'>) => ({
  version: DRIFT_VERSION,
  sensors,
  runs,
  ofModel: ofModel?.sensors ?? 0,
});

/** Services as the drift engine takes them, oldest first. */
export const eventsOf = (rows: readonly { readonly at: string; readonly kind: ServiceKind }[]): ServiceEvent[] =>
  rows.map(({ at, kind }) => ({ atMs: Date.parse(at), kind })).sort((a, b) => a.atMs - b.atMs);

/** The cone of a fitted loop's sensor. @param fromMs segments that ended before are left out */
export function coneOf(
  fitted: Fitted,
  { finished, services, fleet, together, atFit, explained }: Past,
  untilMs: number,
  fromMs?: number,
): Cone {
  const { prior, working } = driftOf(fitted, fleet);
  const mine = ofSensor(finished);
  // What its runs say is the first of the explanations, worked out already.
  const said = explained?.find((e) => e.cause === null)?.lines;
  const lines = said ?? (together ? [together.known()] : filteredAtPaces(observationsOf(mine), prior, services));
  return coneAlong(lines, working, untilMs, mine[0]?.outcome.inForceBefore, services, fromMs, atFit, explained);
}

/** Zero and sensitivity of a fitted loop's sensor through all its runs. */
export function pastRunsOf(fitted: Fitted, { finished, services, fleet }: Past): readonly PastRun[] {
  const history = observationsOf(ofSensor(finished));
  const prior = atLikeliestPace(driftOf(fitted, fleet).prior, history, services);
  return pastOf(filtered(history, prior, services), prior, services);
}

/** A list of things by one of their ids, each list in the order of the whole. */
export function byKey<T>(all: readonly T[], keyOf: (one: T) => string): ReadonlyMap<string, T[]> {
  const by = new Map<string, T[]>();
  for (const one of all) {
    const mine = by.get(keyOf(one));
    if (mine) mine.push(one);
    else by.set(keyOf(one), [one]);
  }
  return by;
}

/** A list of things of sensors, by sensor. */
export const bySensor = <T extends { readonly sensorId: SensorId }>(all: readonly T[]): ReadonlyMap<string, T[]> =>
  byKey(all, (one) => one.sensorId);

/** Where a loop stops trusting its sensor: the family's limits, with the loop's own in their place. */
export const limitsOf = ({ family, limits }: Fitted['loop']): SensorLimits => ({
  ...familyOf(family).limits,
  ...limits,
});

/** What the drift model must know of a loop. */
export function driftOf({ loop }: Pick<Fitted, 'loop'>, fleet: Fleet): { prior: FamilyPrior; working: Working } {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const at = { value: loop.workingValue, temperatureC: loop.workingC, calibrationC: loop.workingC };
  // What no run takes away is part of the error at every moment. Beyond the family's scale there is none to be had.
  const rest = (inForce: Coefficients, byThermometer?: Coefficients) =>
    unlessRefused(() => combinedOf(standingRowsOf(model, inForce, inForce, at, byThermometer))) ?? 0;
  const working = { model, value: loop.workingValue, temperatureC: loop.workingC, rest };
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

/**
 * What a channel reckoned with at a time, by the runs of its sensor.
 *
 * @param mine oldest first
 * @param atFit where the sensor came to another instrument
 */
export const coefficientsInForce =
  (mine: readonly Ended[], atFit?: AtFit) =>
  (ms: number): Coefficients => {
    const here = atFit && ms >= atFit.atMs ? mine.filter((o) => Date.parse(o.endedAt) > atFit.atMs) : mine;
    const before = here === mine ? undefined : atFit?.inForce;
    return (
      here.findLast((o) => Date.parse(o.endedAt) <= ms)?.outcome.inForceAfter ??
      before ??
      here[0]?.outcome.inForceBefore ??
      IDEAL_SENSOR
    );
  };

/** Whether a sensor was calibrated, or verified, at the instrument that it is on. */
export const isKnownHere = ({ finished, atFit }: Pick<Past, 'finished' | 'atFit'>): boolean => {
  const last = ofSensor(finished).at(-1);
  return last !== undefined && (!atFit || Date.parse(last.endedAt) > atFit.atMs);
};

/** What a channel reckons with now, and whether somebody has said so. */
export function reckonsWith({ finished, atFit }: Pick<Past, 'finished' | 'atFit'>): {
  readonly inForce: Coefficients;
  readonly known: boolean;
} {
  const last = ofSensor(finished).at(-1);
  const believed = isKnownHere({ finished, ...(atFit ? { atFit } : {}) }) ? last?.outcome.inForceAfter : atFit?.inForce;
  return { inForce: believed ?? IDEAL_SENSOR, known: believed != null };
}
