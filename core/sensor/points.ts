import type { Free } from './calibration.ts';

/**
 * What one or two standards determine of a sensor that has a zero and a gain: a blank gives the zero, one standard the
 * gain, two give both.
 *
 * @param values rising
 * @example zeroOrGain([0]) // 'zero'
 * @example zeroOrGain([0, 1413]) // 'both'
 */
export function zeroOrGain(values: readonly number[]): Free {
  if (values.length >= 2) return 'both';
  return values[0] === 0 ? 'zero' : 'sensitivity';
}

/**
 * Why two values cannot carry a zero and a gain, or null when they can: the lower one may be at most this share of the
 * higher one.
 *
 * @param values rising
 * @param share 0 to 1
 * @param wayOut what to do instead
 * @example apartBy([1413, 1420], 0.8, 'Take air for the zero.') // 'The standards have 1413 and 1420; a zero and a gain need two further apart. Take air for the zero.'
 */
export function apartBy(values: readonly number[], share: number, wayOut: string): string | null {
  const low = values[0] ?? 0;
  const high = values.at(-1) ?? 0;
  if (high > 0 && low <= share * high) return null;
  return `The standards have ${low} and ${high}; a zero and a gain need two further apart. ${wayOut}`;
}
