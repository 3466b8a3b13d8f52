import type { Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** What channels compensate with, per °C: nothing, common waters, and strong solutions. Common practice, no source. */
const COEFFICIENTS = [0, 0.014, 0.019, 0.02, 0.021, 0.025, 0.03];
/** Nearer to 25 °C a coefficient makes no difference. */
const MIN_C = 1.5;
/** Two coefficients that are nearer than this make none either. */
const MIN_APART = 0.003;

/** The coefficient of the set-up, %/°C; null where the display has none. */
const setIn = ({ cup, family }: Pick<Facts, 'cup' | 'family'>) => family.compensation(cup.plan.settings ?? {});

/** How far off each other coefficient of the channel would put it, in steps. */
function offsOf({ expected, step, temperatureC }: Facts, percent: number): number[] {
  const assumed = percent / 100;
  const d = temperatureC - 25;
  return COEFFICIENTS.filter((c) => Math.abs(c - assumed) > MIN_APART).map(
    (c) => (expected * ((1 + assumed * d) / (1 + c * d) - 1)) / step,
  );
}

/** The channel corrects for temperature by another coefficient than the one in the set-up, or not at all. */
export const WRONG_COEFFICIENT: Hypothesis<Facts> = {
  id: 'wrong-coefficient',
  prior: 0.1,
  stops: true,
  about: 'level',
  weight(facts) {
    const { temperatureC, off, sd, cup } = facts;
    const percent = setIn(facts);
    if (percent === null || cup.asked.nominal === 0 || Math.abs(temperatureC - 25) < MIN_C) return -Infinity;
    const offs = offsOf(facts, percent);
    return instead(facts, { off: logSum(offs.map((o) => normalLog(off, o, sd) - Math.log(offs.length))) });
  },
  facts: ({ cup, family, temperatureC, off, step, model, signal, expected }) => ({
    cupC: temperatureC,
    off: off * step,
    step,
    unit: model.signalUnit,
    percent: (100 * (signal - expected)) / expected,
    setIn: setIn({ cup, family })!,
  }),
};
