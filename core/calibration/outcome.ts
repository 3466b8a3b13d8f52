import type { Coefficients } from '../sensor/coefficients.ts';
import { expectedIn, shownValue, signalOf } from '../sensor/sensor.ts';
import type { ValueError } from '../sensor/working-error.ts';
import { spanOf } from './electrical.ts';
import type { DecisionAction, Refused } from './events.ts';
import type { Calibration } from './fit.ts';
import { fitOf, lastPass, planInForce, pointsOf, standardAt } from './measured.ts';
import { statementOf, type Statement } from './statement.ts';
import { familyOfPlan } from './plan.ts';

import type { RunState } from './state.ts';
import { moveOf, unlessRefused } from '../sensor/sources.ts';
import { COVERAGE, errorAtWork, judge } from './verdict.ts';

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
  /** what one standard uncertainty of the loop's own thermometer did to what was found; absent where a separate thermometer stood in the cups */
  readonly byThermometer?: Coefficients;
  /** as found at the working value, against the coefficients then in force */
  readonly asFound: ValueError;
  /**
   * the same after everything: as the read-back measured it, where one was made after an adjustment; a fit is no witness of
   * itself
   */
  readonly asLeft: ValueError;
  /** what was proven of the tolerance as found; absent in records of before, and for a transmitter's boxes */
  readonly statement?: Statement;
  /** one more look after an adjustment, held against what the standard has; absent where none was made, and in records of before */
  readonly readBack?: ReadBack;
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
  const lookBack = state.captures.find((c) => c.purpose === 'read-back');
  const readBack = readBackOf(state, inForceAfter);
  const asFound = kind === 'electrical' ? worstOf(state, 'found') : at(firstFit, plan.inForce, 1);
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
    ...(evidence.ok ? evidenceOf(evidence) : {}),
    asFound,
    ...(kind === 'electrical' ? {} : { statement: statementOf(asFound, plan.tolerance, plan.limits.guardShare) }),
    asLeft:
      kind === 'electrical'
        ? worstOf(state, 'left')
        : asLeftOf(at(lastFit, inForceAfter, lastPass(state)), readBack, () =>
            at(movedBy(lastFit, readBack!.signalOff), inForceAfter, lastPass(state)),
          ),
    inForceBefore: plan.inForce,
    inForceAfter,
    cleaned: lastPass(state) > 1,
    ...slowestOf(state),
    readBackShown: lookBack
      ? shownValue(familyOfPlan(plan).model, lookBack.signal, { temperatureC: lookBack.temperatureC }, inForceAfter)
      : null,
    ...(readBack ? { readBack } : {}),
    ...(state.refused ? { refused: { message: state.refused.message, shows: state.refused.shows } } : {}),
    bottles: bottlesOf(state, firstFit),
    ...(plan.fromPaper ? { fromPaper: true } : {}),
  };
}

/** What the drift model may learn from: without the thermometer of the loop, which is off at work by as much as in the cups. */
function evidenceOf({ covariance, whole }: Calibration): Pick<RunOutcome, 'evidence' | 'byThermometer'> {
  const ofLoop = whole.sources.find((s) => s.ofLoop);
  if (!ofLoop) return { evidence: covariance };
  const by = moveOf(ofLoop, whole.inputs, whole.refit);
  const [[zz, zs], [, ss]] = covariance;
  const cross = zs - by.zero * by.sensitivity;
  return {
    evidence: [
      [Math.max(0, zz - by.zero ** 2), cross],
      [cross, Math.max(0, ss - by.sensitivity ** 2)],
    ],
    byThermometer: by,
  };
}

/** One more look at a standard after an adjustment. */
export interface ReadBack {
  readonly standard: string;
  /** in the unit of the value */
  readonly shown: number;
  readonly expected: number;
  /** signal − what the adjusted channel takes for that standard, in the unit of the signal */
  readonly signalOff: number;
  /** expanded uncertainty of the difference, in the unit of the value: bottle and thermometer are the same and take no part */
  readonly expanded: number;
  /** normalised error: beyond 1 in size, the read-back and the calibration do not agree */
  readonly en: number;
}

/**
 * The read-back of an adjusted run, against the bottle that it was adjusted in. A sample or a bath is what it was at one
 * moment: a later look at it says nothing.
 *
 * @returns null where there is none, nothing was adjusted, or its standard was entered
 * @see ISO 13528 and ILAC-G8, En = (x1 − x2)/√(U1² + U2²), shared parts taken out
 */
function readBackOf(state: RunState, inForceAfter: Coefficients): ReadBack | null {
  const capture = state.captures.findLast((c) => c.purpose === 'read-back');
  const standard = capture && standardAt(state, capture.pass, capture.pointIndex);
  if (!capture || !standard || !state.adjusted || state.entered[`${capture.pass}.${capture.pointIndex}`]) return null;
  const { model } = familyOfPlan(state.plan);
  const at = { temperatureC: capture.temperatureC };
  const { signal } = capture;
  const shownAt = (s: number) => shownValue(model, s, at, inForceAfter);
  const shown = shownAt(signal);
  const expected = expectedIn(model, { standard, ...at });
  const point = pointsOf(state).find((p) => p.pointIndex === capture.pointIndex);
  const sd = Math.hypot(
    capture.signalUncertainty,
    point?.signalUncertainty ?? 0,
    point?.repeatability?.uncertainty ?? 0,
    (Math.SQRT2 * state.plan.resolution) / Math.sqrt(12),
  );
  const [above, below] = [unlessRefused(() => shownAt(signal + sd)), unlessRefused(() => shownAt(signal - sd))];
  const expanded = COVERAGE * Math.max(1e-12, Math.abs((above ?? shown) - (below ?? shown)) / (above !== null && below !== null ? 2 : 1)); // prettier-ignore
  const signalOff = signal - signalOf(model, expected, at, inForceAfter);
  return { standard: standard.name, shown, expected, signalOff, expanded, en: (shown - expected) / expanded };
}

/** A sensor whose zero is off by what the read-back found. */
const movedBy = (fit: Calibration, off: number): Calibration => ({
  ...fit,
  whole: {
    ...fit.whole,
    coefficients: { ...fit.whole.coefficients, zero: fit.whole.coefficients.zero + off },
  },
});

/** As left by the read-back; where it agrees with the calibration or not, what it measured stands. */
function asLeftOf(reckoned: ValueError, readBack: ReadBack | null, measured: () => ValueError): ValueError {
  return readBack ? (unlessRefused(measured) ?? reckoned) : reckoned;
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
  const { points, resolution } = state.plan;
  const all = spanOf(state).rows.map((r, i): ValueError => ({
    error: (r[look] ?? r.found)?.error ?? 0,
    // The box, and the step of the display.
    uncertainty: Math.hypot(points[i]!.standard.uncertainty, resolution / Math.sqrt(12)),
  }));
  return all.reduce((a, e) => (Math.abs(e.error) > Math.abs(a.error) ? e : a), all[0] ?? { error: 0, uncertainty: 0 });
}
