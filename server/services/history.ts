import { cone, PH_PRIOR, type Cone, type Observation, type RunOutcome } from '@frustum/core';
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

/** The cone of a fitted loop's sensor. */
export function coneOf(
  fitted: FittedLoop,
  history: readonly Observation[],
  first: RunOutcome | undefined,
  untilMs: number,
): Cone {
  const working = { ph: fitted.loop.workingPh, temperatureC: fitted.loop.workingC };
  return cone(history, PH_PRIOR, working, untilMs, first?.inForceBefore);
}
