import type { StandardPoint } from '../sensor/standard-point.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';
import { calibrationOf, type CalibrationResult } from './fit.ts';
import type { KeptCapture, RunState } from './state.ts';

/** The standard of a point: what was entered in this pass, or what was planned. */
export function standardAt(state: RunState, pass: number, pointIndex: number): Standard | undefined {
  return state.entered[`${pass}.${pointIndex}`] ?? state.plan.points[pointIndex]?.standard;
}

/** Settlings of one point in one pass, in the order in which they were made. */
export function settlingsOf(state: RunState, pass: number, pointIndex: number): readonly KeptCapture[] {
  return state.captures.filter(
    (c) => c.pass === pass && c.pointIndex === pointIndex && c.purpose !== 'read-back' && c.purpose !== 'as-left',
  );
}

/** Number of the last pass through the standards: 1, or more after a cleaning. */
export function lastPass(state: RunState): number {
  return Math.max(1, ...state.captures.map((c) => c.pass));
}

/** Signal of one point in one pass: the mean of its settlings, and how far they agree. */
export interface MeasuredPoint extends StandardPoint {
  readonly pointIndex: number;
  /** second settling − first, in the unit of the signal; null when there was only one */
  readonly disagreement: number | null;
  readonly t90: number | null;
  /** first settling − what is taken, in the unit of the signal; null where no settling was left out */
  readonly firstOff: number | null;
}

/**
 * The measured points of one pass, one for each standard captured in it.
 *
 * The last two settlings of the same cup are averaged; half their difference is a source of its own.
 */
export function pointsOf(state: RunState, pass = lastPass(state)): readonly MeasuredPoint[] {
  return state.plan.points.flatMap((planned, pointIndex) => {
    if (planned.role === 'input') return [];
    const all = settlingsOf(state, pass, pointIndex);
    // The last two: what a wiggle has cleared away does not count any more.
    const mine = all.slice(-2);
    const [first] = mine;
    if (!first) return [];
    const second = mine[1] ?? null;
    const spread = second ? second.signal - first.signal : null;
    const mean = (of: (c: KeptCapture) => number) => mine.reduce((s, c) => s + of(c), 0) / mine.length;
    const own = Math.max(...mine.map((c) => c.signalUncertainty));
    return [
      {
        pointIndex,
        standard: standardAt(state, pass, pointIndex)!,
        lotId: planned.lot.id,
        temperatureC: mean((c) => c.temperatureC),
        signal: mean((c) => c.signal),
        signalUncertainty: own,
        // The mean of two is as uncertain as half of what they are apart: one degree of freedom.
        ...(spread === null ? {} : { repeatability: { uncertainty: Math.abs(spread) / 2, degreesOfFreedom: 1 } }),
        // A reading from the record has its step in its ± already.
        ...(mine.every((c) => c.method === 'reading') ? {} : { resolution: state.plan.resolution }),
        ...(planned.lot.ageUncertainty ? { ageUncertainty: planned.lot.ageUncertainty } : {}),
        // A wire and a recorded trace bring the temperature that the instrument itself compensates by.
        byLoopThermometer: mine.every((c) => c.method === 'live' || c.method === 'trace'),
        disagreement: spread,
        t90: all[0]!.t90,
        firstOff: all.length > mine.length ? all[0]!.signal - mean((c) => c.signal) : null,
      },
    ];
  });
}

/** What was measured with the instrument's input shorted; null when nobody looked. */
export function inputOf(state: RunState): KeptCapture | null {
  return state.captures.findLast((c) => state.plan.points[c.pointIndex]?.role === 'input') ?? null;
}

/**
 * The plan as far as the run follows it: a health check that does not go on has one standard, the shorted input is no
 * point of the line, and what was entered stands where something stood in for it.
 */
export function planInForce(state: RunState, pass = lastPass(state)): RunPlan {
  const { plan } = state;
  const points = plan.points
    .map((p, i) => ({ ...p, standard: standardAt(state, pass, i) ?? p.standard }))
    .filter((p) => p.role !== 'input');
  const checking = plan.procedure?.kind === 'check-first' && state.decisions[0]?.action !== 'go-on';
  return { ...plan, points: checking ? points.slice(0, 1) : points };
}

/** Fit of one pass; a typed reason while there are too few standards. */
export function fitOf(state: RunState, pass = lastPass(state), heldSd?: number): CalibrationResult {
  return calibrationOf(planInForce(state, pass), pointsOf(state, pass), heldSd);
}
