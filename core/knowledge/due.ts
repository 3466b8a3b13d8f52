import type { LeansOn } from '../calibration/gates.ts';
import { marginOf } from '../drift/margin.ts';
import type { Fitted } from './fitted.ts';
import { coneOf, isKnownHere, ofSensor } from './history.ts';
import type { Past } from './past.ts';
import { dueWhenOutside } from '../scheduling/consequence.ts';
import { dueOf, triggeredBy } from '../scheduling/due.ts';
import { type Due, fixedInterval } from '../scheduling/fixed-interval.ts';
import { forecastDue } from '../scheduling/forecast.ts';

/** When the next run of a loop is due and whether it is outside now, as its row says both, without the rest of the row. */
export function standingOf(fitted: Fitted, past: Past, nowMs: number): Pick<LeansOn, 'dueMs' | 'outside'> {
  const { errorAt } = coneOf(fitted, past, nowMs);
  const { state } = marginOf(errorAt?.(nowMs) ?? null, fitted.loop.tolerance);
  return { dueMs: dueWhenOutside(dueOfLoop(fitted, past), state, nowMs).atMs, outside: state === 'outside' };
}

/** When the next run of a loop is due, and by what. */
export function dueOfLoop(fitted: Fitted, past: Past): Due {
  const { dueBy, intervalDays, tolerance } = fitted.loop;
  const { timeZone } = fitted;
  const last = ofSensor(past.finished).at(-1);
  const lastRunMs = last ? Date.parse(last.endedAt) : null;
  const forecast = () => forecastDue(coneOf(fitted, past, lastRunMs!).errorAt, lastRunMs, tolerance);
  const due =
    dueBy === 'calendar' || lastRunMs === null
      ? fixedInterval(lastRunMs, intervalDays, timeZone)
      : dueOf(dueBy, lastRunMs, intervalDays, forecast(), timeZone);
  return dueAtFit(triggeredBy(due, lastRunMs, past.services, past.notices), past);
}

/** An instrument that reckons with another sensor's coefficients is wrong from the moment at which a sensor is put onto it. */
export const dueAtFit = (due: Due, past: Pick<Past, 'finished' | 'atFit'>): Due =>
  past.atFit && !isKnownHere(past) ? { atMs: past.atFit.atMs, reason: 'fitted here, and not calibrated since' } : due;
