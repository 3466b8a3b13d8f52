import { MS_PER_DAY } from '../quantities/constants.ts';
import { serviced, takeIn, type TakenIn } from './filter.ts';
import { taughtBy } from './taught.ts';
import { predictState, priorState, SENSITIVITY, widened, ZERO, type DriftState } from './state.ts';
import type { Belief } from '../statistics/kalman.ts';
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

/**
 * Runs the filter over a history.
 *
 * @param byCharts whether its own control charts are listened to: where one has left its limits, its rate may be any
 */
export function filtered(
  history: readonly Observation[],
  prior: FamilyPrior,
  services: readonly ServiceEvent[] = [],
  byCharts = false,
): Course {
  const first = history[0];
  if (!first) return [];
  let state = priorState(prior, first.atMs);
  const charts = [new Chart(), new Chart()] as const;
  return history.map((observation) => {
    const days = (observation.atMs - state.atMs) / MS_PER_DAY;
    const made = takeIn(carried(state, prior, services, observation.atMs), prior, observation, days);
    const kinds = doneBetween(services, state.atMs, observation);
    const lessons = kinds.length
      ? taughtBy(state.lessons, kinds, predictState(state, prior, observation.atMs).belief, observation.found)
      : undefined;
    state = lessons ? { ...made.state, lessons } : made.state;
    if (byCharts) state = { ...state, belief: atAnotherPace(state.belief, prior, charts, made.standardised) };
    return { ...made, state, observation };
  });
}

/** Weight of the newest run and limit, as on the sensor's page; at first the limits are narrower, as a young average spreads less. */
const LAMBDA = 0.3;
const LIMIT = 3;
/** A single run counts for so many standard deviations at the most. */
const ONE_COUNTS = 2.5;

/** The average of what runs of a sensor found beyond what was expected: it runs off where the sensor has changed its pace. */
class Chart {
  private average = 0;
  private left = 1;

  /** @returns whether it has left its limits; then it begins anew */
  leaves(standardised: number): boolean {
    // A single run far off is a jump, or was a sample: a pace is seen in several runs.
    const seen = Math.max(-ONE_COUNTS, Math.min(ONE_COUNTS, standardised));
    this.average = LAMBDA * seen + (1 - LAMBDA) * this.average;
    this.left *= (1 - LAMBDA) ** 2;
    const off = Math.abs(this.average) > LIMIT * Math.sqrt((LAMBDA / (2 - LAMBDA)) * (1 - this.left));
    if (off) [this.average, this.left] = [0, 1];
    return off;
  }
}

/** A rate that its chart has left may be any that its family has. */
const ANEW = 4;

/** What is known of a sensor whose chart may say that it goes at another pace than it did. */
function atAnotherPace(
  belief: Belief,
  prior: FamilyPrior,
  charts: readonly [Chart, Chart],
  standardised: readonly [number, number],
): Belief {
  const wider = [ZERO, SENSITIVITY].flatMap((level, i) => {
    const { rateSd } = i ? prior.sensitivity : prior.zero;
    return charts[i]!.leaves(standardised[i]!) ? [{ at: level + 1, variance: (ANEW * rateSd) ** 2 }] : [];
  });
  return wider.length ? widened(belief, wider) : belief;
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
