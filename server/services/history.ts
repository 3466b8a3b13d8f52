import {
  cone,
  countsAt,
  familyOf,
  modelOf,
  priorOf,
  type Cone,
  type FamilyPrior,
  type Observation,
  type RunOutcome,
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

/** The cone of a fitted loop's sensor. */
export function coneOf(
  fitted: FittedLoop,
  history: readonly Observation[],
  first: RunOutcome | undefined,
  untilMs: number,
): Cone {
  const { prior, working } = driftOf(fitted);
  return cone(history, prior, working, untilMs, first?.inForceBefore);
}

/** Where a loop stops trusting its sensor: the family's limits, with the loop's own in their place. */
export const limitsOf = ({ family, limits }: FittedLoop['loop']): SensorLimits => ({
  ...familyOf(family).limits,
  ...limits,
});

/** What the drift model must know of a loop. */
export function driftOf({ loop }: FittedLoop): { prior: FamilyPrior; working: Working } {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const working = { model, value: loop.workingValue, temperatureC: loop.workingC };
  return { prior: priorOf(family, countsAt(family, model, working)), working };
}
