import type { Coefficients } from '../families/ph/electrode.ts';
import { shownValue } from '../families/sensor.ts';
import type { ValueError } from '../families/working-error.ts';
import { spanOf } from './electrical.ts';
import type { DecisionAction } from './events.ts';
import type { Calibration } from './fit.ts';
import { fitOf, lastPass, planInForce, pointsOf } from './measured.ts';
import { familyOfPlan } from './plan.ts';
import type { RunState } from './state.ts';
import { errorAtWork, judge } from './verdict.ts';

/** What a finished run leaves for the sensor's history. Derived from its events, kept beside them for quick reading. */
export interface RunOutcome {
  readonly kind: 'calibration' | 'verification' | 'grab-sample' | 'electrical';
  readonly action: DecisionAction;
  readonly sentence: string;
  readonly coefficients: Coefficients;
  readonly covariance: Calibration['covariance'];
  /**
   * the covariance without what the history lent to it: what the drift model may learn from; absent in records of before,
   * when every run determined both
   */
  readonly evidence?: Calibration['covariance'];
  /** as found at the working value, against the coefficients then in force */
  readonly asFound: ValueError;
  /** the same after everything */
  readonly asLeft: ValueError;
  readonly inForceBefore: Coefficients;
  readonly inForceAfter: Coefficients;
  readonly cleaned: boolean;
  readonly t90: number | null;
  /** temperature of the cup that it was timed in, °C; absent in records of before */
  readonly t90C?: number;
  readonly readBackShown: number | null;
}

/** So uncertain that what is held says nothing by itself: in the unit of the gain, and in millivolts or µS. */
const NOTHING_LENT = 100;

/**
 * Outcome of a closed run; null when it was closed or abandoned without a verdict.
 */
export function outcomeOf(state: RunState): RunOutcome | null {
  const firstFit = fitOf(state, 1);
  const lastFit = fitOf(state);
  const decided = state.decisions.at(-1);
  if (!firstFit.ok || !lastFit.ok || !decided) return null;
  const plan = planInForce(state);
  const kind = plan.procedure?.kind;
  const evidence = fitOf(state, lastPass(state), NOTHING_LENT);
  const inForceAfter = state.adjusted?.coefficients ?? plan.inForce;
  const at = (fit: Calibration, inForce: Coefficients, pass: number) =>
    errorAtWork(plan, fit, inForce, pointsOf(state, pass));
  const readBack = state.captures.find((c) => c.purpose === 'read-back');
  return {
    kind:
      kind === 'electrical'
        ? 'electrical'
        : kind === 'sample'
          ? 'grab-sample'
          : state.adjusted
            ? 'calibration'
            : 'verification',
    action: decided.action,
    sentence: judge(state)?.sentence ?? '',
    coefficients: lastFit.coefficients,
    covariance: lastFit.covariance,
    ...(evidence.ok ? { evidence: evidence.covariance } : {}),
    asFound: kind === 'electrical' ? worstOf(state, 'found') : at(firstFit, plan.inForce, 1),
    asLeft: kind === 'electrical' ? worstOf(state, 'left') : at(lastFit, inForceAfter, lastPass(state)),
    inForceBefore: plan.inForce,
    inForceAfter,
    cleaned: lastPass(state) > 1,
    ...slowestOf(state),
    readBackShown: readBack
      ? shownValue(familyOfPlan(plan).model, readBack.signal, readBack.temperatureC, inForceAfter)
      : null,
  };
}

/** The slowest answer of a run, and how warm that cup was. */
function slowestOf(state: RunState): { t90: number | null; t90C?: number } {
  const [slowest] = pointsOf(state)
    .filter((p) => p.t90)
    .sort((a, b) => b.t90! - a.t90!);
  return slowest ? { t90: slowest.t90!, t90C: slowest.temperatureC } : { t90: null };
}

/** The largest error of an electrical check, in the unit of the channel. */
function worstOf(state: RunState, look: 'found' | 'left'): ValueError {
  const errors = spanOf(state).rows.map((r) => (r[look] ?? r.found)?.error ?? 0);
  return { error: errors.reduce((a, e) => (Math.abs(e) > Math.abs(a) ? e : a), 0), uncertainty: 0 };
}
