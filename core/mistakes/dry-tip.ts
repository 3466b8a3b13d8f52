import type { Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { flatLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { instead, noiseLog } from './sound.ts';

/** Noise of a dry membrane over that of a wet one. Common practice, no source. */
const RESTLESS = 25;

/** The tip is dry: hardly an answer, and noise. */
export const DRY_TIP: Hypothesis<Facts> = {
  id: 'dry-tip',
  prior: 0.01,
  alike: 'restless',
  about: 'level',
  stops: true,
  weight(facts) {
    const { off, sd, unmoved, noise, model } = facts;
    if (model.signalUnit !== 'mV') return -Infinity;
    const far = unmoved ? unmoved.off : 0;
    const anywhere = unmoved
      ? flatLog(off, Math.min(0, far), Math.max(0, far), sd)
      : normalLog(off, 0, Math.hypot(sd, 150));
    // Some of the way may have been gone, or all of it.
    const near = normalLog(off, 0, sd);
    return instead(facts, { off: logSum([near, anywhere]) - Math.LN2, noise: noiseLog(noise, RESTLESS, 0.7) });
  },
  // A beat makes noise too, and shows only after a while.
  sayable: ({ swing }) => swing !== null,
  facts: ({ noise, step, model, cup }) => ({
    asked: cup.asked.name,
    scatter: noise * step,
    step,
    unit: model.signalUnit,
  }),
};
