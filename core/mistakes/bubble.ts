import { isCell } from '../sensor/family.ts';
import type { Facts } from './facts.ts';
import { anySizeLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { instead, noiseLog } from './sound.ts';
import { levelOf } from './words.ts';

/** A bubble shifts an electrode by a few millivolts, in steps, and takes up to this share of a cell. Common practice, no source. */
const SHIFT_STEPS = 12;
const CELL_SHARE = 0.85;
const RESTLESS = 3.5;
/** The larger a bubble between the plates, the more it rocks: scatter over the usual one, a step that it takes away. */
const RESTLESS_SHARE = 0.08;
/** Scatter that nothing else makes in a cell, in steps. */
const ROCKS = 1.2;
/** A cell that hardly conducts has no room for one, in steps. */
const MIN_STEPS = 50;

/** A bubble sits on the tip or in the cell: shifted, and more restless than usual. On a tip a dry one looks alike. */
export const BUBBLE: Hypothesis<Facts> = {
  id: 'bubble',
  prior: 0.07,
  alike: 'restless',
  about: 'level',
  weight(facts) {
    const { off, sd, noise, model, expected, step } = facts;
    if (model.signalUnit === 'mV')
      return instead(facts, {
        off: normalLog(off, 0, Math.hypot(sd, SHIFT_STEPS)),
        noise: noiseLog(noise, RESTLESS, 0.4),
      });
    if (!isCell(model) || Math.abs(expected) < MIN_STEPS * step) return -Infinity;
    const taken = (CELL_SHARE * Math.abs(expected)) / step;
    return instead(facts, {
      off: anySizeLog(-off, sd, taken, sd),
      noise: noiseLog(noise, Math.hypot(1, RESTLESS_SHARE * off), 0.8),
    });
  },
  // A beat makes noise too, and shows only after a while. A small one in a cell looks like another coefficient: both are named.
  sayable: ({ swing, model, noise, ready }) => (model.signalUnit === 'mV' ? swing !== null : ready || noise > ROCKS),
  facts: (facts) => ({
    ...levelOf(facts),
    scatter: facts.noise * facts.step,
    onTip: facts.model.signalUnit === 'mV',
  }),
};
