/** What a search has come to so far. */
export interface Searched {
  readonly at: readonly number[];
  readonly value: number;
  readonly evaluations: number;
}

/**
 * Lowest value of a function without derivatives, by a simplex that crawls downhill. It stops once its corners agree
 * within `tolerance`, or after `most` evaluations. It yields after each, so that whoever runs it may show how far it is,
 * let others have the thread, or stop.
 *
 * @param step size of the first simplex in each direction
 * @example lowest(([x]) => (x - 3) ** 2, [0], 1, 1e-9).at[0] // 3
 * @see Nelder & Mead, The Computer Journal 7 (1965) 308
 */
export function* searched(
  f: (x: readonly number[]) => number,
  start: readonly number[],
  step: number,
  tolerance: number,
  most = 1000,
): Generator<Searched, Searched> {
  const n = start.length;
  let evaluations = 0;
  const at = (x: readonly number[]) => {
    evaluations++;
    return { x, y: f(x) };
  };
  const corners = [at(start)];
  for (let i = 0; i < n; i++) {
    corners.push(at(start.map((v, k) => (k === i ? v + step : v))));
    yield { at: corners[0]!.x, value: corners[0]!.y, evaluations };
  }
  while (evaluations < most) {
    corners.sort((a, b) => a.y - b.y);
    const [best] = corners;
    const worst = corners[n]!;
    yield { at: best!.x, value: best!.y, evaluations };
    if (worst.y - best!.y < tolerance) break;
    const middle = start.map((_, k) => corners.slice(0, n).reduce((s, c) => s + c.x[k]!, 0) / n);
    const along = (by: number) => at(middle.map((m, k) => m + by * (worst.x[k]! - m)));
    const mirrored = along(-1);
    if (mirrored.y < best!.y) {
      const further = along(-2);
      corners[n] = further.y < mirrored.y ? further : mirrored;
    } else if (mirrored.y < corners[n - 1]!.y) corners[n] = mirrored;
    else {
      const nearer = along(mirrored.y < worst.y ? -0.5 : 0.5);
      if (nearer.y < Math.min(mirrored.y, worst.y)) corners[n] = nearer;
      else for (let i = 1; i <= n; i++) corners[i] = at(best!.x.map((b, k) => b + 0.5 * (corners[i]!.x[k]! - b)));
    }
  }
  corners.sort((a, b) => a.y - b.y);
  return { at: corners[0]!.x, value: corners[0]!.y, evaluations };
}

/** `searched` to its end at once. */
export function lowest(...how: Parameters<typeof searched>): Searched {
  const search = searched(...how);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}
