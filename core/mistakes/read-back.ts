import type { Facts } from './facts.ts';
import { anySizeLog, normalLog, type Hypothesis } from './hypothesis.ts';

/** What a figure that did not arrive may make, of any size up to this, in steps. */
const AMISS_STEPS = 60;

/** After an adjustment the standard is not read as it should be. */
export const READ_BACK: Hypothesis<Facts> = {
  id: 'read-back',
  prior: 0.15,
  stops: true,
  about: 'level',
  // Minutes later, in the same cup: no sensor is restive there.
  weight: ({ off, sd }) => anySizeLog(Math.abs(off), sd, AMISS_STEPS, sd) - Math.LN2 - normalLog(off, 0, sd),
  facts: ({ off, step, model, cup }) => ({
    asked: cup.asked.name,
    off: off * step,
    step,
    unit: model.signalUnit,
    times: Math.abs(off),
  }),
};
