import type { Facts } from './facts.ts';
import { flatLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { countsFigure } from './words.ts';

/** A beat that is worth a word, in steps and as a share of what moves. */
const LEAST_STEPS = 1;
const LEAST_SHARE = 0.6;

/** Mains hum or a stray voltage: it swings at a steady beat. */
export const HUM: Hypothesis<Facts> = {
  id: 'hum',
  prior: 0.02,
  mark: 'It swung at a steady beat',
  weight(facts) {
    const { swing, noise, model } = facts;
    if (!swing || swing.amplitude < LEAST_STEPS || model.signalUnit !== 'mV') return -Infinity;
    return instead(facts, {
      swing: flatLog(swing.share, LEAST_SHARE, 1, 0.05),
      // What a beat makes of the noise depends on how fast it is sampled: anything up to its own height.
      noise: flatLog(Math.log(noise), Math.log(0.1), Math.log(2 * swing.amplitude), 0.3),
    });
  },
  says: ({ swing, step, model }) => ({
    title: 'It swings to and fro at a steady beat: mains hum or a stray voltage.',
    because: `${countsFigure(swing!.amplitude * step, step)} ${model.signalUnit} up and down every ${swing!.periodSeconds.toFixed(1)} s, ${Math.round(100 * swing!.share)} % of all that moves.`,
    tells:
      'What would tell: unplug pumps, lamps and heaters one after the other, or hold the cup apart from the plant. It is quiet when the culprit is off.',
    mended: 'Gone, settle again',
    stands: 'Leave it',
    record: 'It swung at a steady beat',
  }),
};
