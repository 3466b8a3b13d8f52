import {
  daysLater,
  fitOf,
  outlookOf,
  replay,
  type RunId,
  driftOf,
  eventsOf,
  observationsOf,
  ofSensor,
} from '@frustum/core';
import type { OutlookView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { placeOf, readRun } from './runs.ts';

/**
 * What if nothing is done: the error at the next visit, left and adjusted, by the history of this sensor and what this run
 * has found so far.
 *
 * @throws Refusal `run-unknown`, `sensor-unknown`
 */
export async function readOutlook(context: Context, runId: RunId): Promise<OutlookView> {
  const view = await readRun(context, runId);
  const state = replay(view.events);
  const fit = fitOf(state);
  const { plan } = state;
  if (!fit.ok || plan.procedure?.kind === 'electrical') return { outlook: null };
  const fitted = await placeOf(context, view);
  const all = ofSensor(await context.store.readOutcomes()).filter(
    (o) => o.sensorId === view.sensorId && o.endedAt < state.startedAt,
  );
  const model = 'sensor' in fitted ? fitted.sensor.model : '';
  const { prior, working } = driftOf(fitted, context.fleets.of(fitted.loop.family, model));
  const found = {
    atMs: context.now(),
    kind: 'verification' as const,
    found: fit.coefficients,
    covariance: fit.covariance,
    inForceAfter: plan.inForce,
    cleaned: false,
  };
  const services = eventsOf(await context.store.readServices(view.sensorId));
  const nextMs = daysLater(fitted.timeZone, context.now(), fitted.loop.intervalDays);
  const before = all[0]?.outcome.inForceBefore;
  return { outlook: outlookOf(observationsOf(all), found, prior, working, plan.tolerance, nextMs, before, services) };
}
