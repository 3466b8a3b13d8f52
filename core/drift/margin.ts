import { chanceBeyond } from '../statistics/mixture.ts';
import type { ErrorAt } from './working.ts';

/** The four words, everywhere the same. */
export type MarginState = 'inside' | 'near the edge' | 'outside' | 'not known';

export interface Margin {
  readonly state: MarginState;
  /** chance that the shown error is outside the tolerance now, 0 to 1; null when nothing is known */
  readonly chanceOutside: number | null;
  readonly error: number | null;
  /** half width of the 95 % band, in the unit of the error */
  readonly expanded: number | null;
}

/** A sensor is near the edge from this chance of being outside on; the reliability target of the default policy. */
const EDGE = 0.05;
/** From here on it is more likely outside than inside. */
const OUT = 0.5;
/** A band this many times the tolerance wide says nothing any more. */
const BEYOND = 1.5;

/**
 * How much of the tolerance is left.
 *
 * @param now forecast of the error, null before the first run
 * @param tolerance half width, same unit
 * @example marginOf({ atMs: 0, mean: 0, sd: 0.01, half50: 0.007, half95: 0.02, pieces: [{ chance: 1, mean: 0, sd: 0.01 }] }, 0.1).state // 'inside'
 */
export function marginOf(now: ErrorAt | null, tolerance: number): Margin {
  if (!now) return { state: 'not known', chanceOutside: null, error: null, expanded: null };
  const expanded = now.half95;
  const chance = chanceBeyond(now, tolerance);
  const state =
    chance >= OUT && Math.abs(now.mean) > tolerance
      ? 'outside'
      : expanded > BEYOND * tolerance
        ? 'not known'
        : chance >= EDGE
          ? 'near the edge'
          : 'inside';
  return { state, chanceOutside: chance, error: now.mean, expanded };
}
