import { foundAt, workingError, type PhError } from '../families/ph/as-found.ts';
import type { Coefficients } from '../families/ph/electrode.ts';
import type { Calibration } from '../families/ph/fit.ts';
import type { DecisionAction, RunPlan } from './events.ts';
import { AGREEMENT_PH, fitOf, lastPass, pointsOf, type MeasuredPoint, type RunState } from './replay.ts';

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
  readonly working: PhError;
  readonly calibration: Calibration;
}

const signed = (value: number, digits: number) => (value < 0 ? '−' : '+') + Math.abs(value).toFixed(digits);

/** Coverage factor of the ± that people see. */
export const COVERAGE = 2;

const MV_PER_PH = 59.16;

/** Upper 1 % points of χ² for 1 to 3 degrees of freedom: Abramowitz & Stegun, table 26.8. */
const CHI_SQUARE_99 = [6.635, 9.21, 11.345];

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
  const meanC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  const working = workingError(fit, plan.inForce, plan.workingPh, plan.workingC, meanC);
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

function judgeError(plan: RunPlan, working: PhError, fit: Calibration): Verdict {
  const off = Math.abs(working.error);
  const expanded = COVERAGE * working.uncertainty;
  const limit = plan.limits.adjustAboveShare * plan.tolerancePh;
  const found = `${off.toFixed(2)} pH off at ${plan.workingPh}, tolerance ${plan.tolerancePh.toFixed(2)}`;
  const detail = `${signed(working.error, 3)} ±${expanded.toFixed(3)} pH at ${plan.workingPh}`;
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
    const text = `${detail} is inside ${limit.toFixed(3)}, the share of the tolerance that is left alone.`;
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
  const text = `${detail} is beyond ${limit.toFixed(3)} and larger than its ±.`;
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
  const { zero, sensitivity } = fit.coefficients;
  const doubts: Reason[] = [];
  const add = (code: Reason['code'], value: number, limit: number, text: string) =>
    doubts.push({ code, value, limit, text });
  const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
  if (sensitivity < limits.sensitivityDead) {
    add(
      'slope-dead',
      sensitivity,
      limits.sensitivityDead,
      `Slope ${percent(sensitivity)}: all standards read alike, as with broken glass, a short or a cap still on.`,
    );
  } else if (sensitivity < limits.sensitivityLow) {
    add(
      'slope-low',
      sensitivity,
      limits.sensitivityLow,
      `Slope ${percent(sensitivity)} is below ${percent(limits.sensitivityLow)}.`,
    );
  }
  if (sensitivity > limits.sensitivityHigh) {
    add(
      'slope-high',
      sensitivity,
      limits.sensitivityHigh,
      `Slope ${percent(sensitivity)} is above ${percent(limits.sensitivityHigh)}: more than glass can give, so suspect a standard.`,
    );
  }
  if (Math.abs(zero) > limits.zero) {
    add(
      'zero-large',
      zero,
      limits.zero,
      `Zero ${signed(zero, 1)} mV is beyond ±${limits.zero} mV: mostly the reference.`,
    );
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
    const gap = Math.abs(p.disagreementMv ?? 0) / MV_PER_PH;
    if (gap > AGREEMENT_PH) {
      add(
        'settlings-disagree',
        gap,
        AGREEMENT_PH,
        `Two settlings in ${p.standard.name} differ by ${gap.toFixed(3)} pH; the limit is ${AGREEMENT_PH}.`,
      );
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

function verdict(
  action: DecisionAction,
  sentence: string,
  reasons: readonly Reason[],
  working: PhError,
  calibration: Calibration,
): Verdict {
  return { action, sentence, reasons, working, calibration };
}

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
  readonly asFound: PhError;
  /** the same after everything */
  readonly asLeft: PhError;
  readonly inForceBefore: Coefficients;
  readonly inForceAfter: Coefficients;
  readonly cleaned: boolean;
  readonly t90: number | null;
  readonly readBackPh: number | null;
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
  const meanC = (pass: number) => {
    const points = pointsOf(state, pass);
    return points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  };
  const inForceAfter = state.adjusted?.coefficients ?? plan.inForce;
  const at = (fit: Calibration, inForce: Coefficients, pass: number) =>
    workingError(fit, inForce, plan.workingPh, plan.workingC, meanC(pass));
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
    readBackPh: readBack
      ? foundAt(
          {
            standard: plan.points[readBack.pointIndex]!.standard,
            temperatureC: readBack.temperatureC,
            signal: readBack.signal,
          },
          inForceAfter,
        ).shown
      : null,
  };
}
