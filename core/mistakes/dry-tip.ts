import type { Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { flatLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { instead, noiseLog } from './sound.ts';
import { countsFigure } from './words.ts';

/** Noise of a dry membrane over that of a wet one. Common practice, no source. */
const RESTLESS = 25;

/** The tip is dry: hardly an answer, and noise. */
export const DRY_TIP: Hypothesis<Facts> = {
  id: 'dry-tip',
  prior: 0.01,
  alike: 'restless',
  mark: 'It was restless and hardly',
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
  says: ({ noise, step, model, cup }) => ({
    title: `It hardly answers in ${cup.asked.name}, and is restless: the tip may be dry.`,
    because: `The samples scatter by ${countsFigure(noise * step, step / 10)} ${model.signalUnit}, many times what a wet membrane does.`,
    tells: 'What would tell: soak it in storage solution, an hour if it was dry for long, and look again.',
    mended: 'Soaked, settle again',
    stands: 'It is wet',
    record: 'It was restless and hardly answered',
  }),
};
