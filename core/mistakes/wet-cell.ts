import type { Facts } from './facts.ts';
import { anySizeLog, flatLog, type Hypothesis } from './hypothesis.ts';
import { instead, isInAir, standing } from './sound.ts';
import { countsFigure } from './words.ts';

/** A film may be of any size up to this, in steps. */
const FILM_STEPS = 600;
/** The cell is "in air" with a film on it: what it conducts would be taken for its zero. */
export const WET_CELL: Hypothesis<Facts> = {
  id: 'wet-cell',
  prior: 0.15,
  mark: 'The cell conducted in air',
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
  says: ({ signal, toCome, expected, step, model }) => ({
    title: 'The cell is not dry: it conducts in air.',
    because: `${countsFigure(signal - toCome * step, step)} ${model.signalUnit} where this cell shows ${countsFigure(expected, step)} in air, and it falls as the film dries.`,
    tells: 'What would tell: shake it, blow through it, dab the outside. It falls at once if it was a film.',
    mended: 'Dried, settle again',
    stands: 'It is dry',
    record: 'The cell conducted in air',
  }),
};
