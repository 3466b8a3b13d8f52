import type { Facts } from './facts.ts';
import { flatLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { instead, noiseLog } from './sound.ts';
import { countsFigure } from './words.ts';

/** Noise of a dry membrane over that of a wet one. Common practice, no source. */
const RESTLESS = 25;

/** The tip is dry: hardly an answer, and noise. */
export const DRY_TIP: Hypothesis<Facts> = {
  id: 'dry-tip',
  prior: 0.01,
  mark: 'It was restless and hardly',
  stops: true,
  weight(facts) {
    const { off, sd, unmoved, noise, model } = facts;
    if (model.signalUnit !== 'mV') return -Infinity;
    const far = unmoved ? unmoved.off : 0;
    const anywhere = unmoved
      ? flatLog(off, Math.min(0, far), Math.max(0, far), sd)
      : normalLog(off, 0, Math.hypot(sd, 150));
    return instead(facts, { off: anywhere, noise: noiseLog(noise, RESTLESS, 0.9) });
  },
  says: ({ noise, step, model, cup }) => ({
    title: `It hardly answers in ${cup.asked.name}, and is restless: the tip may be dry.`,
    because: `The samples scatter by ${countsFigure(noise * step, step / 10)} ${model.signalUnit}, many times what a wet membrane does.`,
    tells: 'What would tell: soak it in storage solution, an hour if it was dry for long, and look again.',
    mended: 'Soaked, settle again',
    stands: 'It is wet',
    record: 'It was restless and hardly answered',
  }),
};
