import { shownValue } from '../sensor/sensor.ts';
import type { RunPlan } from './events.ts';
import type { Calibration } from './fit.ts';
import { inputOf, type MeasuredPoint } from './measured.ts';
import { digitsFor } from '../sensor/written.ts';
import { familyOfPlan, stepIn, writtenOfPlan } from './plan.ts';
import { AGREEMENT_STEPS } from './extra-settlings.ts';
import type { RunState } from './state.ts';

/** A reason carries its number, its limit and how it reads. */
export interface Reason {
  readonly code:
    | 'error-inside'
    | 'error-inside-noise'
    | 'error-needs-adjusting'
    | 'cups-alike'
    | 'first-look-away'
    | 'slope-dead'
    | 'slope-low'
    | 'cannot-tell'
    | 'slope-high'
    | 'zero-large'
    | 'slow'
    | 'settlings-disagree'
    | 'points-inconsistent'
    | 'cleaned-already'
    | 'input-off'
    | 'pair-apart'
    | 'span-inside'
    | 'span-outside';
  readonly value: number;
  readonly limit: number;
  readonly text: string;
}

/** Upper 1 % points of χ² for 1 to 4 degrees of freedom: Abramowitz & Stegun, table 26.8. */
const CHI_SQUARE_99 = [6.635, 9.21, 11.345, 13.277];

/** With its sign, unless it is printed as nothing. */
export function signed(value: number, digits: number): string {
  const text = Math.abs(value).toFixed(digits);
  if (Number(text) === 0) return text;
  return (value < 0 ? '−' : '+') + text;
}

const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

export function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}

/** An instrument whose shorted input is this far from nothing is no sensor's fault, mV. Common practice, no source. */
const INPUT_MV = 3;

/** Is it the instrument? */
export function inputDoubts(state: RunState): Reason[] {
  const read = inputOf(state);
  if (!read || Math.abs(read.signal) <= INPUT_MV) return [];
  const text = `With its input shorted the instrument shows ${signed(read.signal, 1)} mV; the limit is ±${INPUT_MV}. That is the instrument, not the sensor.`;
  return [{ code: 'input-off', value: read.signal, limit: INPUT_MV, text }];
}

/** Were the standards that make a pair one pair? */
export function pairDoubts(plan: RunPlan, points: readonly MeasuredPoint[]): Reason[] {
  const { pairC } = familyOfPlan(plan).family.standards;
  if (pairC === null) return [];
  return points.flatMap((p, i): Reason[] => {
    const mate = points[i - 1];
    if (i % 2 === 0 || !mate) return [];
    const apart = Math.abs(p.temperatureC - mate.temperatureC);
    if (apart <= pairC) return [];
    const text = `The pair is void: ${mate.standard.name} at ${mate.temperatureC.toFixed(1)} °C and ${p.standard.name} at ${p.temperatureC.toFixed(1)} °C are ${apart.toFixed(1)} °C apart; the limit is ${pairC}. Bring both to one temperature and capture them again.`;
    return [{ code: 'pair-apart', value: apart, limit: pairC, text }];
  });
}

/** A response below this share of the ideal one is none: all cups read alike. Common practice, no source. */
const ALIKE = 0.05;

/** Do all cups read alike, so that nothing can be calibrated? What was read, and the test that would tell why. */
export function alikeDoubts(plan: RunPlan, fit: Calibration, points: readonly MeasuredPoint[]): Reason[] {
  const { sensitivity } = fit.coefficients;
  if (fit.whole.free !== 'both' || points.length < 2 || Math.abs(sensitivity) >= ALIKE) return [];
  const { family, model } = familyOfPlan(plan);
  const digits = model.signalUnit === 'mV' ? 1 : 2;
  const read = points.map((p) => `${p.standard.name} gave ${plain(p.signal, digits)} ${model.signalUnit}`).join(', ');
  const { means, test } = family.suspects.alike;
  const cups = points.length === 2 ? 'Both cups' : 'All cups';
  const reason = (text: string): Reason => ({ code: 'cups-alike', value: sensitivity, limit: ALIKE, text });
  return [
    reason(`${cups} read alike: ${means}.`),
    reason(
      `${read}: ${(100 * sensitivity).toFixed(1)} % of what a sound sensor moves by. Nothing can be adjusted by that.`,
    ),
    reason(`What would tell: ${lower(test)}`),
  ];
}

/** A figure with the real minus sign. */
const plain = (value: number, digits: number) => signed(value, digits).replace('+', '');

/** What speaks against the sensor itself, worst first. */
export function sensorDoubts(plan: RunPlan, fit: Calibration, points: readonly MeasuredPoint[]): Reason[] {
  const { limits } = plan;
  const { family, model } = familyOfPlan(plan);
  const { zero, sensitivity } = fit.coefficients;
  const doubts: Reason[] = [];
  const add = (code: Reason['code'], value: number, limit: number, text: string) =>
    doubts.push({ code, value, limit, text });
  const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
  const gain = upper(family.sensitivity.name);
  // What the standards do not determine is the history's word, and was judged when it was found.
  const { free } = fit.whole;
  if (free === 'zero') {
    // nothing of the gain was measured
  } else if (sensitivity < limits.sensitivityDead) {
    const text = `${gain} ${percent(sensitivity)}: ${family.suspects.dead}.`;
    add('slope-dead', sensitivity, limits.sensitivityDead, text);
  } else if (sensitivity < limits.sensitivityLow) {
    const text = `${gain} ${percent(sensitivity)} is below ${percent(limits.sensitivityLow)}.`;
    add('slope-low', sensitivity, limits.sensitivityLow, text);
  }
  if (free !== 'zero' && sensitivity > limits.sensitivityHigh) {
    const text = `${gain} ${percent(sensitivity)} is above ${percent(limits.sensitivityHigh)}: ${family.suspects.high}.`;
    add('slope-high', sensitivity, limits.sensitivityHigh, text);
  }
  // A limit without end is kept as null where records are JSON.
  if (free !== 'sensitivity' && Math.abs(zero) > ((limits.zero as number | null) ?? Infinity)) {
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

/** Looks that a wiggle has cleared away: no doubt of the sensor, but they stay in the record. */
export function firstLooks(plan: RunPlan, points: readonly MeasuredPoint[]): Reason[] {
  return points.flatMap(({ firstOff, ...point }): Reason[] => {
    if (firstOff === null) return [];
    const { apart, most, unit } = disagreementOf(plan, { ...point, firstOff, disagreement: firstOff });
    if (apart <= most) return [];
    const text = `The first look in ${point.standard.name} was ${apart.toFixed(writtenOfPlan(plan).digits)} ${unit} away; the last two count.`;
    return [{ code: 'first-look-away', value: apart, limit: most, text }];
  });
}

/** How far two settlings lie apart, as the loop is written, and how far they may. */
function disagreementOf(plan: RunPlan, { standard, temperatureC, signal, disagreement }: MeasuredPoint) {
  const { model } = familyOfPlan(plan);
  const { unit, exact } = writtenOfPlan(plan);
  const at = { temperatureC };
  const shown = (s: number) => exact(shownValue(model, s, at, plan.inForce), at) ?? NaN;
  const half = Math.abs(disagreement ?? 0) / 2;
  const most = (AGREEMENT_STEPS * stepIn(plan, standard, temperatureC)) / 2;
  const width = (h: number) => Math.abs(shown(signal + h) - shown(signal - h));
  const limit = width(most);
  return { apart: width(half), most: limit, unit, digits: digitsFor(limit) };
}
