/**
 * Middle value of a list; the mean of the two middle ones for an even count.
 *
 * @throws RangeError on an empty list
 * @example median([3, 1, 2]) // 2
 */
export function median(values: readonly number[]): number {
  if (values.length === 0) throw new RangeError('median needs at least one value');
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/** Median absolute deviation × this = standard deviation, for a normal distribution. */
const MAD_TO_SD = 1.4826;

/**
 * Standard deviation of white noise on a slowly curving signal.
 *
 * Second differences remove level and slope; their median size ignores the odd bubble.
 *
 * @param values equally spaced samples
 * @returns sample noise in the unit of the values, 0 for fewer than four
 * @example noiseSd([0, 1, 2, 3, 4, 5]) // 0
 */
export function noiseSd(values: readonly number[]): number {
  if (values.length < 4) return 0;
  const second: number[] = [];
  for (let i = 2; i < values.length; i++) {
    second.push(Math.abs(values[i]! - 2 * values[i - 1]! + values[i - 2]!));
  }
  // Variance of x1 - 2 x2 + x3 is 6 times that of x.
  return (MAD_TO_SD * median(second)) / Math.sqrt(6);
}
