import type { Facts } from './facts.ts';
import { anySizeLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { countsFigure } from './words.ts';

/** A film may be of any size up to this, in steps. */
const FILM_STEPS = 600;
/** A shake needs a moment to show, s. */
const LEAST_S = 20;

/** The cell is "in air" with a film on it: what it conducts would be taken for its zero. */
export const WET_CELL: Hypothesis<Facts> = {
  id: 'wet-cell',
  prior: 0.15,
  mark: 'The cell conducted in air',
  stops: true,
  about: 'level',
  weight(facts) {
    const { cup, model, off, sd, seconds } = facts;
    if (seconds < LEAST_S || cup.asked.nominal !== 0 || !model.signalUnit.endsWith('S')) return -Infinity;
    return instead(facts, { off: anySizeLog(off, sd, FILM_STEPS, sd) });
  },
  says: ({ signal, expected, step, model }) => ({
    title: 'The cell is not dry: it conducts in air.',
    because: `${countsFigure(signal, step)} ${model.signalUnit} where this cell shows ${countsFigure(expected, step)} in air, and it falls as the film dries.`,
    tells: 'What would tell: shake it, blow through it, dab the outside. It falls at once if it was a film.',
    mended: 'Dried, settle again',
    stands: 'It is dry',
    record: 'The cell conducted in air',
  }),
};
