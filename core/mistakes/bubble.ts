import type { Facts } from './facts.ts';
import { flatLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { instead, noiseLog } from './sound.ts';
import { countsFigure, levelWords } from './words.ts';

/** A bubble shifts an electrode by a few millivolts, in steps, and takes up to this share of a cell. Common practice, no source. */
const SHIFT_STEPS = 12;
const CELL_SHARE = 0.85;
const RESTLESS = 3.5;
const RESTLESS_CELL = 6;
/** A cell that hardly conducts has no room for one, in steps. */
const LEAST_STEPS = 50;

/** A bubble sits on the tip or in the cell: shifted, and more restless than usual. */
export const BUBBLE: Hypothesis<Facts> = {
  id: 'bubble',
  prior: 0.03,
  alike: 'restless',
  mark: 'It was restless and shifted',
  about: 'level',
  weight(facts) {
    const { off, sd, noise, model, expected, step } = facts;
    if (model.signalUnit === 'mV')
      return instead(facts, {
        off: normalLog(off, 0, Math.hypot(sd, SHIFT_STEPS)),
        noise: noiseLog(noise, RESTLESS, 0.4),
      });
    if (!model.signalUnit.endsWith('S') || Math.abs(expected) < LEAST_STEPS * step) return -Infinity;
    const taken = (CELL_SHARE * Math.abs(expected)) / step;
    return instead(facts, { off: flatLog(off, -taken, 0, sd), noise: noiseLog(noise, RESTLESS_CELL, 0.8) });
  },
  // A beat makes noise too, and shows only after a while.
  sayable: ({ swing }) => swing !== null,
  says: (facts) => ({
    title: 'Is there a bubble on it? It is more restless than usual, and shifted.',
    because: `The samples scatter by ${countsFigure(facts.noise * facts.step, facts.step / 10)} ${facts.model.signalUnit}. ${levelWords(facts)}`,
    tells: 'What would tell: tilt it and tap it. With the bubble gone it jumps to its own value and is quiet.',
    mended: 'Tapped, settle again',
    stands: 'There is none',
    record: 'It was restless and shifted, as with a bubble',
  }),
};
