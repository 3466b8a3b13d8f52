/** What a search has come to so far. */
export interface Minimum {
  readonly at: readonly number[];
  readonly value: number;
  readonly evaluations: number;
}

/** Step of the derivatives, and how much of what a slope promises must be kept (Armijo). */
const H = 1e-6;
const KEPT = 1e-4;
const HALVINGS = 12;
/** No step is longer than this in one direction: far away the curvature has changed. */
const LONGEST = 1.5;

/**
 * Lowest value of a smooth function, by quasi-Newton steps (BFGS) with slopes from forward differences. Its arguments
 * should be of size one. It stops once a step down the slope itself gains less than `tolerance` (what was learned of the
 * curvature may have been wrong, and is then thrown away), or after `most` evaluations; it yields after each, so that the
 * caller may show progress, let others have the thread, or stop.
 *
 * @example minimise(([x]) => (x - 3) ** 2, [0], 1e-9).at[0] // 3
 * @see Nocedal & Wright, Numerical Optimization (2nd ed. 2006), 6.1
 */
export function* minimiseInSteps(
  f: (x: readonly number[]) => number,
  start: readonly number[],
  tolerance: number,
  most = 1000,
): Generator<Minimum, Minimum> {
  const n = start.length;
  let evaluations = 1;
  let x = [...start];
  let value = f(x);
  let inverse = identity(n);
  let plain = true;
  const now = (): Minimum => ({ at: x, value, evaluations });
  let slope = yield* slopes();
  while (evaluations < most) {
    let step = inverse.map((row) => -dot(row, slope));
    if (dot(step, slope) >= 0) {
      inverse = identity(n);
      plain = true;
      step = slope.map((g) => -g);
    }
    step = noLonger(step);
    const promised = dot(step, slope);
    let [gained, part] = [0, 1];
    for (let i = 0; i < HALVINGS; i++, part /= 2) {
      const tried = x.map((v, k) => v + part * step[k]!);
      const there = f(tried);
      evaluations++;
      yield now();
      if (!(there <= value + KEPT * part * promised)) continue;
      gained = value - there;
      x = tried;
      value = there;
      break;
    }
    if (gained < tolerance && plain) break;
    const before = slope;
    slope = yield* slopes();
    plain = gained < tolerance;
    if (plain) {
      inverse = identity(n);
      continue;
    }
    inverse = learned(
      inverse,
      step.map((s) => s * part),
      slope.map((g, i) => g - before[i]!),
    );
  }
  return now();

  function* slopes(): Generator<Minimum, number[]> {
    const made: number[] = [];
    for (let i = 0; i < n; i++) {
      made.push((f(x.map((v, k) => (k === i ? v + H : v))) - value) / H);
      evaluations++;
      yield now();
    }
    return made;
  }
}

/** A step of the same direction, within the longest. */
function noLonger(step: readonly number[]): number[] {
  const size = Math.max(...step.map(Math.abs));
  return size > LONGEST ? step.map((s) => (s * LONGEST) / size) : [...step];
}

const identity = (n: number) => Array.from({ length: n }, (_, i) => Array.from({ length: n }, (__, k) => +(i === k)));
const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/** The inverse curvature after a step and the change of slope along it; as it was where the two do not fit. */
function learned(inverse: number[][], step: readonly number[], change: readonly number[]): number[][] {
  const along = dot(step, change);
  if (!(along > 1e-12)) return inverse;
  const bent = inverse.map((row) => dot(row, change));
  const scale = (1 + dot(change, bent) / along) / along;
  return inverse.map((row, i) =>
    row.map((v, k) => v + scale * step[i]! * step[k]! - (bent[i]! * step[k]! + step[i]! * bent[k]!) / along),
  );
}

/** `minimiseInSteps` to its end at once. */
export function minimise(...how: Parameters<typeof minimiseInSteps>): Minimum {
  const search = minimiseInSteps(...how);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}
