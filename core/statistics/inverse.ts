/** A pivot below this share of its variance is lost in rounding, and taken as that large. */
const MIN_PIVOT = 1e-15;

/**
 * Inverse of a covariance matrix (symmetric, positive definite), by its Cholesky factor.
 *
 * @param v row by row, with a variance above 0 on the whole diagonal
 * @returns row by row, in the inverse unit
 * @example inverseOfCovariance([[4, 2], [2, 3]]) // [[0.375, -0.25], [-0.25, 0.5]]
 * @see Golub & Van Loan, Matrix Computations (4th ed. 2013), 4.2
 */
export function inverseOfCovariance(v: readonly (readonly number[])[]): readonly (readonly number[])[] {
  const lower: number[][] = [];
  for (const [i, row] of v.entries()) {
    lower.push([]);
    for (let j = 0; j <= i; j++) {
      let rest = row[j]!;
      for (let k = 0; k < j; k++) rest -= lower[i]![k]! * lower[j]![k]!;
      lower[i]!.push(i === j ? Math.sqrt(Math.max(rest, MIN_PIVOT * row[i]!)) : rest / lower[j]![j]!);
    }
  }
  // L⁻¹ by columns; then V⁻¹ = L⁻ᵀ·L⁻¹.
  const columns = v.map((_, c) => {
    const x: number[] = [];
    for (const [i, row] of lower.entries()) {
      let rest = i === c ? 1 : 0;
      for (let k = 0; k < i; k++) rest -= row[k]! * x[k]!;
      x.push(rest / row[i]!);
    }
    return x;
  });
  return columns.map((a) => columns.map((b) => a.reduce((sum, value, i) => sum + value * b[i]!, 0)));
}
