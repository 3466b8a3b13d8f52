import type { Facts } from './facts.ts';
import { anySizeLog, flatLog, type Hypothesis } from './hypothesis.ts';
import { instead, isInAir, standing } from './sound.ts';

/** A film changes the signal by up to this, in steps that count. */
const FILM_STEPS = 600;
/** The cell is "in air" with a film on it: what it conducts would be taken for its zero. */
export const WET_CELL: Hypothesis<Facts> = {
  id: 'wet-cell',
  prior: 0.15,
  stops: true,
  about: 'level',
  weight(facts) {
    if (!isInAir(facts)) return -Infinity;
    const now = standing(facts);
    return instead(facts, {
      inAir: anySizeLog(now.off, now.sd, FILM_STEPS, now.sd),
      // A film dries: it may head for anything down to nothing, and is one all the same.
      off: flatLog(facts.off, 0, Math.max(0, now.off), facts.sd),
    });
  },
  facts: ({ signal, toCome, expected, step, model }) => ({
    now: signal - toCome * step,
    expected,
    step,
    unit: model.signalUnit,
  }),
};
