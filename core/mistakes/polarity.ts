import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** Plus and minus of the input exchanged: no bottle of the shelf reads like this, the mirror image does. */
export const POLARITY: Hypothesis<Facts> = {
  id: 'polarity',
  prior: 0.004,
  stops: true,
  about: 'level',
  alike: 'which-cup',
  weight: (facts) =>
    facts.mirrored === null ? -Infinity : instead(facts, { off: normalLog(facts.off, facts.mirrored, facts.sd) }),
  facts: (facts) => ({ ...levelOf(facts), asked: facts.cup.asked.name }),
};
