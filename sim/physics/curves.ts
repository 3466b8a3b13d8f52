/** Coefficients of the least-squares polynomial of a degree through rows, about a middle and over a width. */
export interface Curve {
  readonly middle: number;
  readonly width: number;
  readonly coefficients: readonly number[];
}

/**
 * A polynomial through measured rows, by normal equations: the stand-in's own way from a printed table to a value, where
 * the core interpolates.
 *
 * @param rows x and y; more rows than `degree`
 */
export function curveThrough(rows: readonly (readonly [number, number])[], degree: number): Curve {
  const xs = rows.map(([x]) => x);
  const middle = (Math.min(...xs) + Math.max(...xs)) / 2;
  const width = (Math.max(...xs) - Math.min(...xs)) / 2 || 1;
  const size = degree + 1;
  const a = Array.from({ length: size }, () => new Array<number>(size + 1).fill(0));
  for (const [raw, y] of rows) {
    const x = (raw - middle) / width;
    for (let i = 0; i < size; i++) {
      for (let j = 0; j < size; j++) a[i]![j]! += x ** (i + j);
      a[i]![size]! += y * x ** i;
    }
  }
  for (let k = 0; k < size; k++) {
    for (let i = 0; i < size; i++) {
      if (i === k) continue;
      const f = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= size; j++) a[i]![j]! -= f * a[k]![j]!;
    }
  }
  return { middle, width, coefficients: a.map((row, i) => row[size]! / row[i]!) };
}

export function on({ middle, width, coefficients }: Curve, at: number): number {
  const x = (at - middle) / width;
  return coefficients.reduceRight((sum, c) => sum * x + c, 0);
}
