import type { Fitted } from './fitted.ts';
import { stepAt } from './history.ts';

/** Of a figure from paper, in changes that count: common practice, no source. */
const PAPER_STEPS = 2;

/**
 * Standard uncertainty of a reading that stands in a paper logbook, in the unit of the signal. Nobody knows any more when it stood
 * still, how old the bottle was and how the display rounded: it counts as two of the changes that count at this loop.
 */
export const paperUncertainty = (loop: Pick<Fitted, 'loop'>): number => PAPER_STEPS * stepAt(loop);
