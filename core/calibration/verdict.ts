import type { Coefficients } from '../families/ph/electrode.ts';
import { shownValue } from '../families/sensor.ts';
import { workingErrorOf, type ValueError } from '../families/working-error.ts';
import type { DecisionAction, RunPlan } from './events.ts';
import type { Calibration } from './fit.ts';
import { digitsFor, familyOfPlan, stepIn } from './plan.ts';
import { AGREEMENT_STEPS, fitOf, lastPass, pointsOf, type MeasuredPoint, type RunState } from './replay.ts';

/** A reason carries its number, its limit and how it reads. */
export interface Reason {
  readonly code:
    | 'error-inside'
    | 'error-inside-noise'
    | 'error-needs-adjusting'
    | 'slope-dead'
    | 'slope-low'
    | 'slope-high'
    | 'zero-large'
    | 'slow'
    | 'settlings-disagree'
    | 'points-inconsistent'
    | 'cleaned-already';
  readonly value: number;
  readonly limit: number;
  readonly text: string;
}

export interface Verdict {
  readonly action: DecisionAction;
  /** starts with the action */
  readonly sentence: string;
  readonly reasons: readonly Reason[];
  readonly working: ValueError;
  readonly calibration: Calibration;
}

/** Error at the loop's working value, the cups having been as warm as they were. */
function errorAtWork(
  plan: RunPlan,
  fit: Calibration,
  inForce: Coefficients,
  points: readonly MeasuredPoint[],
): ValueError {
  const calibrationC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  const { model } = familyOfPlan(plan);
  return workingErrorOf(model, fit, inForce, { value: plan.workingValue, temperatureC: plan.workingC, calibrationC });
}

const signed = (value: number, digits: number) => (value < 0 ? '−' : '+') + Math.abs(value).toFixed(digits);

/** Coverage factor of the ± that people see. */
export const COVERAGE = 2;

/** Upper 1 % points of χ² for 1 to 4 degrees of freedom: Abramowitz & Stegun, table 26.8. */
const CHI_SQUARE_99 = [6.635, 9.21, 11.345, 13.277];

/**
 * What the numbers of a run say to do, and why. Null while a slope cannot be had yet.
 *
 * Order matters: a sensor that is broken is not adjusted, one that is doubtful is cleaned before it is judged again,
 * and one that is right within its uncertainty is left alone.
 */
export function judge(state: RunState): Verdict | null {
  const pass = lastPass(state);
  const points = pointsOf(state, pass);
  if (points.length < state.plan.points.length) return null;
  const fit = fitOf(state, pass);
  if (!fit.ok) return null;
  const { plan } = state;
  const working = errorAtWork(plan, fit, plan.inForce, points);
  const doubts = sensorDoubts(plan, fit, points);
  const cleaned = pass > 1;
  const dead = doubts.some((r) => r.code === 'slope-dead');
  if (dead || (doubts.length && cleaned)) {
    const after: Reason[] = cleaned
      ? [
          {
            code: 'cleaned-already',
            value: pass - 1,
            limit: 1,
            text: 'It was cleaned and measured again; the doubt remains.',
          },
        ]
      : [];
    return verdict('replace', `Replace it: ${lower(doubts[0]!.text)}`, [...doubts, ...after], working, fit);
  }
  if (doubts.length) {
    return verdict('clean-and-retest', `Clean and retest: ${lower(doubts[0]!.text)}`, doubts, working, fit);
  }
  return judgeError(plan, working, fit);
}

function judgeError(plan: RunPlan, working: ValueError, fit: Calibration): Verdict {
  const off = Math.abs(working.error);
  const expanded = COVERAGE * working.uncertainty;
  const limit = plan.limits.adjustAboveShare * plan.tolerance;
  const unit = familyOfPlan(plan).model.valueUnit;
  const digits = digitsFor(plan.tolerance);
  const found = `${off.toFixed(digits)} ${unit} off at ${plan.workingValue}, tolerance ${plan.tolerance.toFixed(digits)}`;
  const detail = `${signed(working.error, digits + 1)} ±${expanded.toFixed(digits + 1)} ${unit} at ${plan.workingValue}`;
  if (!plan.inForceKnown) {
    const text = `First calibration here: what the channel believes is not known, so it takes the figures found now.`;
    return verdict(
      'adjust',
      `Adjust it: first calibration, ${found}.`,
      [{ code: 'error-needs-adjusting', value: off, limit, text }],
      working,
      fit,
    );
  }
  if (off <= limit) {
    const text = `${detail} is inside ${limit.toFixed(digits + 1)}, the share of the tolerance that is left alone.`;
    return verdict('leave', `Leave it: ${found}.`, [{ code: 'error-inside', value: off, limit, text }], working, fit);
  }
  if (off <= expanded) {
    const text = `${detail}: inside its own uncertainty. Adjusting inside the noise makes it worse.`;
    return verdict(
      'leave',
      `Leave it: ${found}, but no more than its ±.`,
      [{ code: 'error-inside-noise', value: off, limit: expanded, text }],
      working,
      fit,
    );
  }
  const text = `${detail} is beyond ${limit.toFixed(digits + 1)} and larger than its ±.`;
  return verdict(
    'adjust',
    `Adjust it: ${found}.`,
    [{ code: 'error-needs-adjusting', value: off, limit, text }],
    working,
    fit,
  );
}

function sensorDoubts(plan: RunPlan, fit: Calibration, points: readonly MeasuredPoint[]): Reason[] {
  const { limits } = plan;
  const { family, model } = familyOfPlan(plan);
  const { zero, sensitivity } = fit.coefficients;
  const doubts: Reason[] = [];
  const add = (code: Reason['code'], value: number, limit: number, text: string) =>
    doubts.push({ code, value, limit, text });
  const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
  const gain = upper(family.sensitivity.name);
  if (sensitivity < limits.sensitivityDead) {
    const text = `${gain} ${percent(sensitivity)}: ${family.suspects.dead}.`;
    add('slope-dead', sensitivity, limits.sensitivityDead, text);
  } else if (sensitivity < limits.sensitivityLow) {
    const text = `${gain} ${percent(sensitivity)} is below ${percent(limits.sensitivityLow)}.`;
    add('slope-low', sensitivity, limits.sensitivityLow, text);
  }
  if (sensitivity > limits.sensitivityHigh) {
    const text = `${gain} ${percent(sensitivity)} is above ${percent(limits.sensitivityHigh)}: ${family.suspects.high}.`;
    add('slope-high', sensitivity, limits.sensitivityHigh, text);
  }
  // A limit without end is kept as null where records are JSON.
  if (Math.abs(zero) > ((limits.zero as number | null) ?? Infinity)) {
    const figure = signed(zero, limits.zero < 5 ? 2 : 1);
    const text = `${upper(family.zero.name)} ${figure} ${model.signalUnit} is beyond ±${limits.zero} ${model.signalUnit}: ${family.suspects.zero}.`;
    add('zero-large', zero, limits.zero, text);
  }
  for (const p of points) {
    if (p.t90 !== null && p.t90 > limits.t90Seconds) {
      add(
        'slow',
        p.t90,
        limits.t90Seconds,
        `${p.standard.name} took ${Math.round(p.t90)} s for nine tenths of the way; the limit is ${limits.t90Seconds} s.`,
      );
    }
    const steps = Math.abs(p.disagreement ?? 0) / stepIn(plan, p.standard, p.temperatureC);
    if (steps > AGREEMENT_STEPS) {
      const { apart, most, unit, digits } = disagreementOf(plan, p);
      const text = `Two settlings in ${p.standard.name} differ by ${apart.toFixed(digits)} ${unit}; the limit is ${most.toFixed(digits - 1)}.`;
      add('settlings-disagree', apart, most, text);
    }
  }
  const bound = CHI_SQUARE_99[fit.degreesOfFreedom - 1];
  if (bound !== undefined && fit.chiSquare > bound) {
    add(
      'points-inconsistent',
      fit.chiSquare,
      bound,
      `The standards do not lie on one line (χ² ${fit.chiSquare.toFixed(1)}, limit ${bound}): suspect a bottle.`,
    );
  }
  return doubts;
}

/** How far two settlings lie apart, in the unit of the value, and how far they may. */
function disagreementOf(plan: RunPlan, { standard, temperatureC, signal, disagreement }: MeasuredPoint) {
  const { model } = familyOfPlan(plan);
  const shown = (s: number) => shownValue(model, s, temperatureC, plan.inForce);
  const half = Math.abs(disagreement ?? 0) / 2;
  const most = (AGREEMENT_STEPS * stepIn(plan, standard, temperatureC)) / 2;
  const width = (h: number) => Math.abs(shown(signal + h) - shown(signal - h));
  const limit = width(most);
  return { apart: width(half), most: limit, unit: model.valueUnit, digits: digitsFor(limit) };
}

function verdict(
  action: DecisionAction,
  sentence: string,
  reasons: readonly Reason[],
  working: ValueError,
  calibration: Calibration,
): Verdict {
  return { action, sentence, reasons, working, calibration };
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}

/** What a finished run leaves for the sensor's history. Derived from its events, kept beside them for quick reading. */
export interface RunOutcome {
  readonly kind: 'calibration' | 'verification';
  readonly action: DecisionAction;
  readonly sentence: string;
  readonly coefficients: Coefficients;
  readonly covariance: Calibration['covariance'];
  /** as found at the working value, against the coefficients then in force */
  readonly asFound: ValueError;
  /** the same after everything */
  readonly asLeft: ValueError;
  readonly inForceBefore: Coefficients;
  readonly inForceAfter: Coefficients;
  readonly cleaned: boolean;
  readonly t90: number | null;
  readonly readBackShown: number | null;
}

/**
 * Outcome of a closed run; null when it was closed or abandoned without a verdict.
 */
export function outcomeOf(state: RunState): RunOutcome | null {
  const firstFit = fitOf(state, 1);
  const lastFit = fitOf(state);
  const decided = state.decisions.at(-1);
  if (!firstFit.ok || !lastFit.ok || !decided) return null;
  const { plan } = state;
  const inForceAfter = state.adjusted?.coefficients ?? plan.inForce;
  const at = (fit: Calibration, inForce: Coefficients, pass: number) =>
    errorAtWork(plan, fit, inForce, pointsOf(state, pass));
  const readBack = state.captures.find((c) => c.purpose === 'read-back');
  return {
    kind: state.adjusted ? 'calibration' : 'verification',
    action: decided.action,
    sentence: judge(state)?.sentence ?? '',
    coefficients: lastFit.coefficients,
    covariance: lastFit.covariance,
    asFound: at(firstFit, plan.inForce, 1),
    asLeft: at(lastFit, inForceAfter, lastPass(state)),
    inForceBefore: plan.inForce,
    inForceAfter,
    cleaned: lastPass(state) > 1,
    t90: Math.max(0, ...pointsOf(state).map((p) => p.t90 ?? 0)) || null,
    readBackShown: readBack
      ? shownValue(familyOfPlan(plan).model, readBack.signal, readBack.temperatureC, inForceAfter)
      : null,
  };
}
