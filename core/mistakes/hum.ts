import type { Facts } from './facts.ts';
import { flatLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** A beat that is worth a word, in steps and as a share of what moves. */
const MIN_STEPS = 1;
const MIN_SHARE = 0.6;

/** Mains hum or a stray voltage: it swings at a steady beat. */
export const HUM: Hypothesis<Facts> = {
  id: 'hum',
  prior: 0.02,
  weight(facts) {
    const { swing, noise, model } = facts;
    if (!swing || swing.amplitude < MIN_STEPS || model.signalUnit !== 'mV') return -Infinity;
    return instead(facts, {
      swing: flatLog(swing.share, MIN_SHARE, 1, 0.05),
      // What a beat makes of the noise depends on how fast it is sampled: anything up to its own height.
      noise: flatLog(Math.log(noise), Math.log(0.1), Math.log(2 * swing.amplitude), 0.3),
    });
  },
  facts: ({ swing, step, model }) => ({
    amplitude: swing!.amplitude * step,
    step,
    unit: model.signalUnit,
    seconds: swing!.periodSeconds,
    share: swing!.share,
  }),
};
