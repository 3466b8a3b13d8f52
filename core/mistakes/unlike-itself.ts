import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** So many times further than the history allows, as a spread. */
const WIDER = 8;
/** Changes below this are any sensor's, in steps. Common practice, no source. */
const MIN_STEPS = 10;

/** A change that is too large for this sensor's history, and no other mistake explains it. */
export const UNLIKE_ITSELF: Hypothesis<Facts> = {
  id: 'unlike-itself',
  prior: 0.02,
  about: 'level',
  weight: (facts) => instead(facts, { off: normalLog(facts.off, 0, WIDER * Math.hypot(facts.sd, MIN_STEPS)) }),
  // Forecasts of the first seconds are no reading.
  sayable: ({ ready }) => ready,
  facts: (facts) => ({ ...levelOf(facts), times: Math.abs(facts.off / Math.hypot(facts.sd, MIN_STEPS)) }),
};
