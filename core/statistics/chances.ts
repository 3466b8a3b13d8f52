/** Normalised weights, and the logarithm of their sum. */
interface NormalisedChances {
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
export function chancesOf(logs: readonly number[]): NormalisedChances {
  // Of a single one nothing is rounded away.
  if (logs.length === 1) return { chances: [1], log: logs[0]! };
  const top = Math.max(...logs);
  const raw: number[] = [];
  let total = 0;
  for (const log of logs) {
    const weight = Math.exp(log - top);
    raw.push(weight);
    total += weight;
  }
  return { chances: raw.map((w) => w / total), log: top + Math.log(total) };
}

/** Logarithm of a sum of exponentials; −∞ when every term is −∞. */
export function logSum(logs: readonly number[]): number {
  const top = Math.max(...logs);
  return Number.isFinite(top) ? chancesOf(logs).log : top;
}
