import type { Facts } from './facts.ts';
import { flatLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** Cups out of a cold store, or in the sun, °C from the water. */
const FAR_C = 25;

/** The cup is not as warm as the water: another measurement. */
export const CUP_COLD: Hypothesis<Facts> = {
  id: 'cup-cold',
  prior: 0.02,
  stops: true,
  weight(facts) {
    const { temperatureC, cup, ready } = facts;
    if (!ready) return -Infinity;
    return instead(facts, { apart: flatLog(temperatureC - cup.plan.workingC, -FAR_C, FAR_C, 1) });
  },
  facts: ({ temperatureC, cup }) => ({ asked: cup.asked.name, cupC: temperatureC, waterC: cup.plan.workingC }),
};
