import { millivolts } from '../families/ph/electrode.ts';
import { nernstSlope } from '../solutions/nernst-slope.ts';
import type { Standard } from '../solutions/standard.ts';
import { interpolate } from '../statistics/shape-preserving-cubic.ts';
import type { RunPlan } from './events.ts';

/** Which standard a signal looks like, beside the one that was asked for. */
export interface CupGuess {
  readonly standard: Standard;
  /** probability that the cup holds what was asked for, 0 to 1 */
  readonly asAsked: number;
}

/** Chance of a wrong cup before anything is measured. Common practice, no source. */
const WRONG_CUP_PRIOR = 0.03;
/** Spread of a reading that fits no standard at all (air, water, a cap), mV. */
const ANYTHING_SD_MV = 250;
/** How much rarer that is than any one other cup. Common practice, no source. */
const ANYTHING_SHARE = 0.1;

/**
 * Is that the right cup? Weighs the standards on the shelf against each other by what this sensor would read in them.
 *
 * The history says what zero and slope to expect; "something else altogether" competes too, so that a worn probe in the
 * right cup is not taken for the wrong one merely since another standard happens to be nearer.
 *
 * @param signalMv where the signal is heading, with its standard deviation
 * @returns the standard that explains the signal far better than the one asked for, or null when nothing is odd
 */
export function otherCup(
  signalMv: number,
  signalSdMv: number,
  temperatureC: number,
  asked: Standard,
  shelf: readonly Standard[],
  expected: RunPlan['expected'],
): CupGuess | null {
  const likelihood = (standard: Standard): number => {
    const ph = interpolate(standard.table, temperatureC);
    if (ph === null) return 0;
    const mean = millivolts(ph, temperatureC, expected);
    const sd = Math.hypot(
      expected.zeroSd,
      expected.sensitivitySd * nernstSlope(temperatureC) * (ph - 7),
      signalSdMv,
      1,
    );
    return Math.exp(-0.5 * ((signalMv - mean) / sd) ** 2) / sd;
  };
  const others = shelf.filter((s) => Math.abs(s.nominal - asked.nominal) > 0.5);
  const right = likelihood(asked) * (1 - WRONG_CUP_PRIOR);
  const share = WRONG_CUP_PRIOR / (others.length + 1);
  const anything = (Math.exp(-0.5 * (signalMv / ANYTHING_SD_MV) ** 2) / ANYTHING_SD_MV) * share * ANYTHING_SHARE;
  const wrong = others.map((standard) => ({ standard, weight: likelihood(standard) * share }));
  const total = right + anything + wrong.reduce((s, w) => s + w.weight, 0);
  const best = wrong.reduce<(typeof wrong)[number] | null>((a, b) => (!a || b.weight > a.weight ? b : a), null);
  if (!best || !(total > 0)) return null;
  const asAsked = right / total;
  return best.weight > anything && asAsked < 0.05 && best.weight / total > 0.9
    ? { standard: best.standard, asAsked }
    : null;
}
