import type { Coefficients } from '../sensor/coefficients.ts';
import { shownValue } from '../sensor/sensor.ts';
import type { ValueError } from '../sensor/working-error.ts';
import { spanOf } from './electrical.ts';
import type { DecisionAction, Refused } from './events.ts';
import type { Calibration } from './fit.ts';
import { fitOf, lastPass, planInForce, pointsOf, standardAt } from './measured.ts';
import { familyOfPlan } from './plan.ts';

import type { RunState } from './state.ts';
import { unlessRefused } from '../sensor/sources.ts';
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
  /** the instrument did not take the calibration; absent where it did, or none was asked for */
  readonly refused?: Refused;
  /** what the sensor gave in each bottle that was noted, brought to 25 °C; absent in records of before */
  readonly bottles?: readonly Bottle[];
  /** from a paper logbook; absent for a run at the bench */
  readonly fromPaper?: true;
}

/** A sensor's signal in one bottle, in the unit of the signal. */
export interface Bottle {
  readonly lotId: string;
  readonly label: string;
  readonly standard: string;
  readonly signal: number;
  readonly sd: number;
}

/** So uncertain that what is held says nothing by itself: in the unit of the gain, and in millivolts or µS. */
const NOTHING_LENT = 100;

/**
 * Outcome of a closed run; null when it was closed or abandoned without a verdict, and when what was captured gives no error
 * at the working value: what no sensor can show is in the record, and leaves nothing to learn from.
 */
export const outcomeOf = (state: RunState): RunOutcome | null => unlessRefused(() => reckoned(state));

function reckoned(state: RunState): RunOutcome | null {
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
      ? shownValue(familyOfPlan(plan).model, readBack.signal, { temperatureC: readBack.temperatureC }, inForceAfter)
      : null,
    ...(state.refused ? { refused: { message: state.refused.message, shows: state.refused.shows } } : {}),
    bottles: bottlesOf(state, firstFit),
    ...(plan.fromPaper ? { fromPaper: true } : {}),
  };
}

/** As found: a bottle that is off is off before anything is adjusted. */
function bottlesOf(state: RunState, { coefficients: { zero, sensitivity }, covariance: c }: Calibration): Bottle[] {
  const { model } = familyOfPlan(state.plan);
  return pointsOf(state, 1).flatMap(({ pointIndex }) => {
    const { lot } = state.plan.points[pointIndex]!;
    const standard = standardAt(state, 1, pointIndex);
    const ideal = lot.id && standard ? unlessRefused(() => model.ideal(standard.nominal, { temperatureC: 25 })) : null;
    if (ideal === null || !standard) return [];
    const sd = Math.sqrt(Math.max(0, c[0][0] + 2 * ideal * c[0][1] + ideal ** 2 * c[1][1]));
    const signal = model.origin + zero + sensitivity * ideal;
    return [{ lotId: lot.id, label: lot.label, standard: standard.name, signal, sd }];
  });
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
