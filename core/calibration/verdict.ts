import type { Coefficients } from '../sensor/coefficients.ts';
import { Refusal } from '../quantities/refusal.ts';
import { expandedOf, workingErrorOf, type ValueError } from '../sensor/working-error.ts';
import type { DecisionAction, RunPlan } from './events.ts';
import type { Calibration } from './fit.ts';
import { familyOfPlan, writtenOfPlan } from './plan.ts';
import {
  alikeDoubts,
  firstLooks,
  inputDoubts,
  lower,
  pairDoubts,
  sensorDoubts,
  signed,
  type Reason,
} from './doubts.ts';
import { spanVerdict } from './electrical.ts';
import { statementOf, type Statement } from './statement.ts';
import { fitOf, lastPass, planInForce, pointsOf, type MeasuredPoint } from './measured.ts';
import { mayAdjust } from '../sensor/procedures.ts';
import type { RunState } from './state.ts';

export type { Reason } from './doubts.ts';

export interface Verdict {
  readonly action: DecisionAction;
  /** starts with the action */
  readonly sentence: string;
  readonly reasons: readonly Reason[];
  readonly working: ValueError;
  readonly calibration: Calibration;
  /** what was proven of the tolerance, whatever is done about it; absent for a transmitter's boxes */
  readonly statement?: Statement;
}

/** Error at the loop's working value, the cups having been as warm as they were. */
export function errorAtWork(
  plan: RunPlan,
  fit: Calibration,
  inForce: Coefficients,
  points: readonly MeasuredPoint[],
): ValueError {
  const calibrationC = points.reduce((s, p) => s + p.temperatureC, 0) / points.length;
  const { model } = familyOfPlan(plan);
  return workingErrorOf(model, fit.whole, inForce, {
    value: plan.workingValue,
    temperatureC: plan.workingC,
    calibrationC,
  });
}

/** Coverage factor of a ± whose degrees of freedom are not limited: of what is known of one coefficient, of one settling. */
export const COVERAGE = 2;

/**
 * What the numbers of a run say to do, and why. Null while a slope cannot be had yet.
 *
 * Order matters: a sensor that is broken is not adjusted, one that is doubtful is cleaned before it is judged again,
 * and one that is right within its uncertainty is left alone.
 *
 * @returns null where nothing can be said; `whyNotJudged` says why
 */
export function judge(state: RunState): Verdict | null {
  const said = tryToJudge(state);
  return typeof said === 'string' ? null : said;
}

/** Why a run has no verdict, in a sentence; null when it has one. */
export function whyNotJudged(state: RunState): string | null {
  const said = tryToJudge(state);
  return typeof said === 'string' ? said : null;
}

/** A verdict, or why there is none: a figure that no sensor gives is a reason too, and no crash. */
function tryToJudge(state: RunState): Verdict | string {
  try {
    return verdictOf(state);
  } catch (error) {
    if (error instanceof Refusal) return error.message;
    throw error;
  }
}

function verdictOf(state: RunState): Verdict | string {
  const pass = lastPass(state);
  const points = pointsOf(state, pass);
  const plan = planInForce(state);
  if (points.length < plan.points.length) return 'A standard is still missing.';
  const fit = fitOf(state, pass);
  if (!fit.ok) return fit.message;
  const working = errorAtWork(plan, fit, plan.inForce, points);
  const kind = plan.procedure?.kind ?? 'calibrate';
  if (kind === 'electrical') return { ...spanVerdict(state), working, calibration: fit };
  const judged = judgeSensor(state, plan, pass, working, fit, points);
  const statement = statementOf(working, plan.tolerance, plan.limits.guardShare);
  const said = { ...judged, statement, reasons: [...judged.reasons, ...firstLooks(plan, points)] };
  const checking = kind === 'check-first' && state.decisions[0]?.action !== 'go-on';
  if (checking) return asCheck(said);
  return said.action === 'adjust' && !mayAdjust(kind) ? asVerification(said) : said;
}

/**
 * Why this run cannot be adjusted by, in a sentence with the way out; null when it can.
 *
 * @returns null also while nothing can be judged: then the step itself refuses
 */
export function adjustTrouble(state: RunState): string | null {
  const said = judge(state);
  if (!said?.reasons.some((r) => r.code === 'cups-alike')) return null;
  return 'All cups read alike: there is no slope to adjust by. Investigate it, or go back and capture a cup again.';
}

/** A health check in the first standard: sound, or on to the others. */
function asCheck(said: Verdict): Verdict {
  const rest = said.sentence.replace(/^[^:]*: /, '');
  if (said.action === 'leave') return { ...said, sentence: `Sound: ${rest}` };
  return { ...said, action: 'go-on', sentence: `Calibrate it: ${rest}` };
}

/** What may not be adjusted is left, and the sentence says what comes next. */
function asVerification(said: Verdict): Verdict {
  const rest = said.sentence.replace(/^[^:]*: /, '');
  return { ...said, action: 'leave', sentence: `Out of tolerance, left as it is: ${rest} Calibrate it next.` };
}

function judgeSensor(
  state: RunState,
  plan: RunPlan,
  pass: number,
  working: ValueError,
  fit: Calibration,
  points: readonly MeasuredPoint[],
): Verdict {
  const alike = alikeDoubts(plan, fit, points);
  if (alike.length)
    return verdict('investigate', `Investigate it: ${lower(alike[0]!.text)}`, alike.slice(1), working, fit);
  const doubts = sensorDoubts(plan, fit, points);
  const outside = [...inputDoubts(state), ...pairDoubts(plan, points)];
  if (outside.length)
    return verdict('investigate', `Investigate it: ${lower(outside[0]!.text)}`, [...outside, ...doubts], working, fit);
  // Where the bottle is the likelier culprit, no cleaning of the sensor helps.
  if (doubts.length && doubts.every((r) => r.code === 'points-inconsistent' || r.code === 'slope-high'))
    return verdict('investigate', `Investigate it: ${lower(doubts[0]!.text)}`, doubts, working, fit);
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
  const expanded = expandedOf(working);
  const limit = plan.limits.adjustAboveShare * plan.tolerance;
  const written = writtenOfPlan(plan);
  const { unit, digits } = written;
  const size = (own: number, more = 0) => written.size(own).toFixed(digits + more);
  const at = written.worksAt;
  const error = written.off(working.error);
  const found = `${Math.abs(error).toFixed(digits)} ${unit} off at ${at}, tolerance ${size(plan.tolerance)}`;
  const detail = `${signed(error, digits + 1)} ±${size(expanded, 1)} ${unit} at ${at}`;
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
    const text = `${detail} is inside ${size(limit, 1)}, the share of the tolerance that is left alone.`;
    return verdict('leave', `Leave it: ${found}.`, [{ code: 'error-inside', value: off, limit, text }], working, fit);
  }
  if (off <= expanded && off > plan.tolerance) {
    const { chanceOutside } = statementOf(working, plan.tolerance, plan.limits.guardShare);
    const text = `${detail}: probably outside (${(100 * chanceOutside).toFixed(0)} %), and inside its own uncertainty. Repeat it in a second fresh lot, or with standards and a thermometer of a smaller ±; adjusting inside the noise makes it worse.`;
    return verdict(
      'investigate',
      `Investigate it: cannot tell, ${found}, and no more than its ±.`,
      [{ code: 'cannot-tell', value: off, limit: expanded, text }],
      working,
      fit,
    );
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
  const text = `${detail} is beyond ${size(limit, 1)} and larger than its ±.`;
  return verdict(
    'adjust',
    `Adjust it: ${found}.`,
    [{ code: 'error-needs-adjusting', value: off, limit, text }],
    working,
    fit,
  );
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
