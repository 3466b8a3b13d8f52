import { isCell } from '../sensor/family.ts';
import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** Ends of ranges, as a figure of each decade. Common practice, no source. */
const ENDS = [1, 2, 5];
/** How near to the end of its range a reading stops, as a share. */
const AT_END = 0.004;

/** No range is as small as so many of the smallest steps: near nothing every figure is a round one. */
const MIN_STEPS = 20;

/** The next end of a range, by the logarithm. */
function endNear(signal: number): number {
  const decade = 10 ** Math.floor(Math.log10(signal));
  const ends = [...ENDS.map((e) => e * decade), 10 * decade];
  return ends.reduce((a, b) => (Math.abs(Math.log(signal / b)) < Math.abs(Math.log(signal / a)) ? b : a));
}

/** The reading stops at the end of a range that is too small for this standard. */
export const WRONG_RANGE: Hypothesis<Facts> = {
  id: 'wrong-range',
  prior: 0.02,
  stops: true,
  about: 'level',
  weight(facts) {
    const { signal, expected, family, model, step } = facts;
    const told = signal > MIN_STEPS * family.step.absolute && signal <= 0.9 * expected;
    if (!isCell(model) || !told) return -Infinity;
    const away = Math.log(signal / endNear(signal));
    // A density by the logarithm, as one by steps; any of the ends of two decades.
    const log = normalLog(away, 0, AT_END) + Math.log(step / signal) - Math.log(2 * ENDS.length);
    return instead(facts, { off: log });
  },
  // A forecast that is still on its way passes many figures.
  sayable: ({ ready }) => ready,
  facts: ({ signal, expected, step, model, cup }) => ({
    asked: cup.asked.name,
    end: endNear(signal),
    expected,
    step,
    unit: model.signalUnit,
  }),
};
