import { expectedIn } from '../families/sensor.ts';
import { unlessRefused } from '../families/sources.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan, stepIn } from './plan.ts';

/** Which standard a signal looks like, beside the one that was asked for. */
export interface CupGuess {
  readonly standard: Standard;
  /** probability that the cup holds what was asked for, 0 to 1 */
  readonly asAsked: number;
}

/** Chance of a wrong cup before anything is measured. Common practice, no source. */
const WRONG_CUP_PRIOR = 0.03;
/** Spread of a reading that fits no standard at all (air, water, a cap), in steps that count (250 mV of glass). */
const ANYTHING_STEPS = 424;
/** Standards whose signals lie nearer than this cannot be told apart by a tired sensor, in steps (half a pH). */
const APART_STEPS = 50;
/** No history is better than this, in steps (1 mV of glass). */
const LEAST_STEPS = 1.7;
/** How much rarer that is than any one other cup. Common practice, no source. */
const ANYTHING_SHARE = 0.1;

/**
 * Is that the right cup? Weighs the standards on the shelf against each other by what this sensor would read in them.
 *
 * The history says what zero and slope to expect; "something else altogether" competes too, so that a worn probe in the
 * right cup is not taken for the wrong one merely since another standard happens to be nearer.
 *
 * @param plan family, settings and what the history expects of this sensor
 * @param signal where the signal is heading, with its standard deviation, in the unit of the signal
 * @returns the standard that explains the signal far better than the one asked for, or null when nothing is odd
 */
export function otherCup(
  plan: Pick<RunPlan, 'family' | 'settings' | 'expected'>,
  signal: number,
  signalSd: number,
  temperatureC: number,
  asked: Standard,
  shelf: readonly Standard[],
): CupGuess | null {
  const { model } = familyOfPlan(plan);
  const { zero, zeroSd, sensitivity, sensitivitySd } = plan.expected;
  const step = stepIn(plan, asked, temperatureC);
  /** response of the ideal sensor in a standard; null where that has no value at this temperature */
  const idealIn = (standard: Standard) =>
    unlessRefused(() => model.ideal(expectedIn(model, { standard, temperatureC }), temperatureC));
  const likelihood = (standard: Standard): number => {
    const ideal = idealIn(standard);
    if (ideal === null) return 0;
    const mean = model.origin + zero + sensitivity * ideal;
    const sd = Math.hypot(zeroSd, sensitivitySd * ideal, signalSd, LEAST_STEPS * step);
    return Math.exp(-0.5 * ((signal - mean) / sd) ** 2) / sd;
  };
  const askedIdeal = idealIn(asked);
  const others = shelf.filter((s) => {
    const ideal = idealIn(s);
    return ideal !== null && askedIdeal !== null && Math.abs(ideal - askedIdeal) > APART_STEPS * step;
  });
  const right = likelihood(asked) * (1 - WRONG_CUP_PRIOR);
  const share = WRONG_CUP_PRIOR / (others.length + 1);
  const wide = ANYTHING_STEPS * step;
  const anything = (Math.exp(-0.5 * ((signal - model.origin) / wide) ** 2) / wide) * share * ANYTHING_SHARE;
  const wrong = others.map((standard) => ({ standard, weight: likelihood(standard) * share }));
  const total = right + anything + wrong.reduce((s, w) => s + w.weight, 0);
  const best = wrong.reduce<(typeof wrong)[number] | null>((a, b) => (!a || b.weight > a.weight ? b : a), null);
  if (!best || !(total > 0)) return null;
  const asAsked = right / total;
  return best.weight > anything && asAsked < 0.05 && best.weight / total > 0.9
    ? { standard: best.standard, asAsked }
    : null;
}
