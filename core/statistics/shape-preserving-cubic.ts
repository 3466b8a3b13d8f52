/** A row of a table: x strictly rising. */
export type TableRow = readonly [x: number, y: number];

/**
 * Smooth value between the rows of a table, by the monotone piecewise cubic of Fritsch and Carlson
 * (SIAM J. Numer. Anal. 17 (1980) 238) with the slopes of Fritsch and Butland (1984): no overshoot between rows.
 *
 * @returns y at x; exactly the table's y at a row; null outside the table (callers refuse in their own words)
 * @example interpolate([[0, 0], [1, 1], [2, 4]], 1) // 1
 */
export function interpolate(table: readonly TableRow[], x: number): number | null {
  const n = table.length;
  if (n < 2 || !(x >= table[0]![0] && x <= table[n - 1]![0])) return null;
  let i = 0;
  while (i < n - 2 && x > table[i + 1]![0]) i++;
  const [x0, y0] = table[i]!;
  const [x1, y1] = table[i + 1]!;
  const h = x1 - x0;
  const u = (x - x0) / h;
  const m0 = slopeAt(table, i) * h;
  const m1 = slopeAt(table, i + 1) * h;
  const u2 = u * u;
  const u3 = u2 * u;
  return (2 * u3 - 3 * u2 + 1) * y0 + (u3 - 2 * u2 + u) * m0 + (3 * u2 - 2 * u3) * y1 + (u3 - u2) * m1;
}

/** Harmonic mean of the neighbouring secants, 0 at a turning point, the secant itself at the ends. */
function slopeAt(table: readonly TableRow[], i: number): number {
  const secant = (k: number) => (table[k + 1]![1] - table[k]![1]) / (table[k + 1]![0] - table[k]![0]);
  if (i === 0) return secant(0);
  if (i === table.length - 1) return secant(table.length - 2);
  const before = secant(i - 1);
  const after = secant(i);
  if (before * after <= 0) return 0;
  const hBefore = table[i]![0] - table[i - 1]![0];
  const hAfter = table[i + 1]![0] - table[i]![0];
  const w1 = 2 * hAfter + hBefore;
  const w2 = hAfter + 2 * hBefore;
  return (w1 + w2) / (w1 / before + w2 / after);
}
