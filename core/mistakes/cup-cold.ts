import type { Facts } from './facts.ts';
import { flatLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** How the sentence begins, so that a record can be asked whether it was said. */
export const CUP_AT = 'The cup of';
/** Cups out of a cold store, or in the sun, °C from the water. */
const FAR_C = 25;

/** The cup is not as warm as the water: another measurement. */
export const CUP_COLD: Hypothesis<Facts> = {
  id: 'cup-cold',
  prior: 0.02,
  mark: CUP_AT,
  stops: true,
  weight(facts) {
    const { temperatureC, cup, ready } = facts;
    if (!ready) return -Infinity;
    return instead(facts, { apart: flatLog(temperatureC - cup.plan.workingC, -FAR_C, FAR_C, 1) });
  },
  says({ temperatureC, cup }) {
    const { workingC } = cup.plan;
    const apart = Math.abs(temperatureC - workingC).toFixed(1);
    const title = `${CUP_AT} ${cup.asked.name} has ${temperatureC.toFixed(1)} °C, the water ${workingC.toFixed(1)} °C: ${apart} apart.`;
    return {
      title,
      because: 'Beyond about 5 °C the slope, the table and the ± are those of another temperature.',
      tells: 'Let it float in the water, or say that it stays.',
      mended: 'It is warmer now, settle again',
      stands: 'Capture it as warm as it is',
      record: title.slice(0, -1),
    };
  },
};
