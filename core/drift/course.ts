import { MS_PER_DAY } from '../quantities/constants.ts';
import { serviced, takeIn, type TakenIn } from './filter.ts';
import { taughtBy } from './taught.ts';
import { predictState, priorState, type DriftState } from './state.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** What is known of a sensor from a moment on, and the run that said so; null = something else did. */
export interface Known {
  readonly state: DriftState;
  readonly observation: Observation | null;
  /** chance that the sensor has jumped since the moment before */
  readonly jumped: number;
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
    const kinds = doneBetween(services, state.atMs, observation);
    const lessons = kinds.length
      ? taughtBy(state.lessons, kinds, predictState(state, prior, observation.atMs).belief, observation.found)
      : undefined;
    state = lessons ? { ...made.state, lessons } : made.state;
    return { ...made, state, observation };
  });
}

const NOTHING: readonly ServiceEvent['kind'][] = [];

/** What was done to a sensor between a moment and its next run, and in that before it was read. */
function doneBetween(services: readonly ServiceEvent[], fromMs: number, { atMs, cleaned }: Observation) {
  if (!services.length && !cleaned) return NOTHING;
  const kinds = services.filter((s) => s.atMs > fromMs && s.atMs <= atMs).map((s) => s.kind);
  return cleaned ? [...kinds, 'cleaned' as const] : kinds;
}

/** A state at a later moment, with all that was done to the sensor on the way. */
export function carried(
  state: DriftState,
  prior: FamilyPrior,
  services: readonly ServiceEvent[],
  toMs: number,
): DriftState {
  if (services.length === 0) return predictState(state, prior, toMs);
  const after = services.filter((s) => s.atMs > state.atMs && s.atMs <= toMs);
  return predictState(
    after.reduce((s, event) => serviced(s, prior, event), state),
    prior,
    toMs,
  );
}
