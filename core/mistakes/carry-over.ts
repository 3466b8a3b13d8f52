import type { Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** Shares of the way back to the last cup that what clung to the probe makes, the small ones likelier. */
const SHARES = Array.from({ length: 24 }, (_, i) => 0.01 * 1.16 ** i);
const USUAL_SHARE = 0.06;
const WEIGHTS = SHARES.map((s) => Math.log(s) - s / USUAL_SHARE);
const WEIGHTS_TOTAL = logSum(WEIGHTS);

/** The last cup came along: the reading lies a little toward it. */
export const CARRY_OVER: Hypothesis<Facts> = {
  id: 'carry-over',
  prior: 0.045,
  about: 'level',
  weight(facts) {
    const { unmoved, off, sd } = facts;
    // Air leaves nothing behind.
    if (!unmoved || unmoved.standard.nominal === 0) return -Infinity;
    const logs = SHARES.map((s, i) => WEIGHTS[i]! - WEIGHTS_TOTAL + normalLog(off, s * unmoved.off, sd));
    return instead(facts, { off: logSum(logs) });
  },
  facts: (facts) => ({ ...levelOf(facts), last: facts.unmoved!.standard.name }),
};
