/** Chances from weights that are given by their logarithms, and the logarithm of all weights together. */
export interface Weighed {
  /** add up to 1 */
  readonly chances: readonly number[];
  readonly log: number;
}

/**
 * Normalises weights that would be far below the smallest number.
 *
 * @param logs natural logarithms, one at least
 * @example chancesOf([-1000, -1000 + Math.log(3)]).chances // [0.25, 0.75]
 */
export function chancesOf(logs: readonly number[]): Weighed {
  const top = Math.max(...logs);
  const raw = logs.map((l) => Math.exp(l - top));
  const total = raw.reduce((sum, w) => sum + w, 0);
  return { chances: raw.map((w) => w / total), log: top + Math.log(total) };
}

/** Logarithm of a sum of exponentials; −∞ of nothing but impossible ones. */
export function logSum(logs: readonly number[]): number {
  const top = Math.max(...logs);
  return Number.isFinite(top) ? chancesOf(logs).log : top;
}
