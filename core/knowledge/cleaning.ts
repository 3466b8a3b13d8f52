import { filtered } from '../drift/course.ts';
import { cleaningOf } from '../drift/taught.ts';
import { atLikeliestPace } from '../drift/pace.ts';
import type { Figure } from '../health/evidence.ts';
import type { Fitted } from './fitted.ts';
import { driftOf, observationsOf, ofSensor } from './history.ts';
import type { Past } from './past.ts';

/** What the cleanings of a sensor have done to it, and what the next one is therefore expected to do. */
export interface CleaningTaught {
  readonly times: number;
  /** change of the zero, in the unit of the signal, and of the sensitivity, as a share */
  readonly zero: Figure;
  readonly sensitivity: Figure;
}

/** What is expected of the next cleaning; null where no run has yet followed one. */
export function cleaningTaught(fitted: Fitted, { finished, services, fleet }: Past): CleaningTaught | null {
  const history = observationsOf(ofSensor(finished));
  const prior = atLikeliestPace(driftOf(fitted, fleet).prior, history, services);
  const lessons = filtered(history, prior, services).at(-1)?.state.lessons;
  const times = lessons?.cleaned[0].times ?? 0;
  if (!times) return null;
  const [zero, sensitivity] = cleaningOf(prior, lessons);
  return { times, zero: zero!, sensitivity: sensitivity! };
}
