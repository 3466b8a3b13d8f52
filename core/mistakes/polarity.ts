import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelWords } from './words.ts';

/** Plus and minus of the input exchanged: no bottle of the shelf reads like this, the mirror image does. */
export const POLARITY: Hypothesis<Facts> = {
  id: 'polarity',
  prior: 0.004,
  mark: 'It looked turned over',
  stops: true,
  about: 'level',
  alike: 'which-cup',
  weight: (facts) =>
    facts.mirrored === null ? -Infinity : instead(facts, { off: normalLog(facts.off, facts.mirrored, facts.sd) }),
  says: (facts) => ({
    title: `This reads like ${facts.cup.asked.name} turned over: plus and minus of the input may be exchanged.`,
    because: `${levelWords(facts)} A cup on the other side of zero would read alike.`,
    tells: 'What would tell: look at the bottle, then at the plug. Every cup is turned over if it is the input.',
    mended: 'Put right, settle again',
    stands: 'It is right as it is',
    record: `It looked turned over in ${facts.cup.asked.name}`,
  }),
};
