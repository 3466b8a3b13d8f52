import {
  cone,
  familyOf,
  modelOf,
  priorOf,
  type Cone,
  type Family,
  type Observation,
  type RunOutcome,
} from '@frustum/core';
import type { FittedLoop } from '../store/commands/places.ts';

/** What finished runs say of their sensor, in the form that the drift engine takes. */
export function observationsOf(
  outcomes: readonly { readonly endedAt: string; readonly outcome: RunOutcome }[],
): Observation[] {
  return outcomes.map(({ endedAt, outcome }) => ({
    atMs: Date.parse(endedAt),
    kind: outcome.kind,
    found: outcome.coefficients,
    covariance: outcome.covariance,
    inForceAfter: outcome.inForceAfter,
    cleaned: outcome.cleaned,
  }));
}

/** The change of signal that counts where the sensor gives so much. */
const stepAt = ({ step }: Family, response: number) => Math.max(step.absolute, step.relative * response);

/** The cone of a fitted loop's sensor. */
export function coneOf(
  fitted: FittedLoop,
  history: readonly Observation[],
  first: RunOutcome | undefined,
  untilMs: number,
): Cone {
  const { family: id, settings, workingValue, workingC } = fitted.loop;
  const family = familyOf(id);
  const model = modelOf(family, settings);
  const working = { model, value: workingValue, temperatureC: workingC };
  const prior = priorOf(family, stepAt(family, Math.abs(model.ideal(workingValue, workingC))));
  return cone(history, prior, working, untilMs, first?.inForceBefore);
}
