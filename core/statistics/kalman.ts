/** Vectors and matrices, row by row. Plain arrays: for four figures they are made several times faster than typed ones. */
type Figures = readonly number[];

/** A normal belief about n quantities: means, and their covariance row by row. */
export interface Belief {
  readonly mean: Figures;
  /** n × n, row by row, symmetric */
  readonly covariance: Figures;
}

/** How a belief moves over a stretch of time: x' = F·x + shift + noise of covariance Q. */
export interface Motion {
  /** F, n × n, row by row */
  readonly transition: Figures;
  /** Q, n × n, row by row */
  readonly noise: Figures;
  readonly shift?: Figures;
}

/** One figure that is seen: row·x + noise of a variance. */
export interface Measurement {
  readonly row: readonly number[];
  readonly value: number;
  readonly variance: number;
}

/** A belief after one measurement. */
export interface Updated {
  readonly belief: Belief;
  /** seen less expected, and the variance that was expected of it */
  readonly innovation: number;
  readonly variance: number;
  /** natural logarithm of the density of what was seen */
  readonly logLikelihood: number;
}

/** So many zeros; for a few figures, pushing them is faster than filling. */
export function zeros(n: number): number[] {
  const made: number[] = [];
  for (let i = 0; i < n; i++) made.push(0);
  return made;
}

const LOG_2PI = Math.log(2 * Math.PI);

/**
 * A belief carried over a stretch of time.
 *
 * @example predict({ mean: [1], covariance: [4] }, { transition: [2], noise: [3] }).covariance[0] // 19
 * @see Durbin & Koopman, Time Series Analysis by State Space Methods (2nd ed. 2012), 4.3
 */
export function predict({ mean, covariance }: Belief, { transition, noise, shift }: Motion): Belief {
  const n = mean.length;
  const m = zeros(n);
  const half = zeros(n * n);
  const c = noise.slice();
  for (let i = 0; i < n; i++) {
    let sum = shift ? shift[i]! : 0;
    for (let k = 0; k < n; k++) {
      const f = transition[i * n + k]!;
      if (f === 0) continue;
      sum += f * mean[k]!;
      for (let j = 0; j < n; j++) half[i * n + j]! += f * covariance[k * n + j]!;
    }
    m[i] = sum;
  }
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = 0; k < n; k++) sum += half[i * n + k]! * transition[j * n + k]!;
      c[i * n + j]! += sum;
      if (j < i) c[j * n + i] = c[i * n + j]!;
    }
  return { mean: m, covariance: c };
}

/**
 * Takes one figure into a belief, by the Joseph form, which keeps the covariance symmetric and positive. A figure that
 * was certain already and is seen without noise changes nothing.
 *
 * @example update({ mean: [10], covariance: [4] }, { row: [1], value: 4, variance: 4 }).belief.mean[0] // 7
 * @see Anderson & Moore, Optimal Filtering (1979), ch. 3 and 6
 */
export function update({ mean, covariance }: Belief, { row, value, variance }: Measurement): Updated {
  const n = mean.length;
  const ph = zeros(n);
  let expected = 0;
  let s = variance;
  for (let j = 0; j < n; j++) {
    const h = row[j]!;
    if (h === 0) continue;
    expected += h * mean[j]!;
    for (let i = 0; i < n; i++) ph[i]! += covariance[i * n + j]! * h;
  }
  for (let i = 0; i < n; i++) s += row[i]! * ph[i]!;
  const innovation = value - expected;
  if (!(s > 0)) return { belief: { mean, covariance }, innovation, variance: 0, logLikelihood: 0 };
  const m = mean.slice();
  const c = covariance.slice();
  // (I − K h) P (I − K h)ᵀ + K r Kᵀ, multiplied out for one row.
  for (let i = 0; i < n; i++) {
    const gain = ph[i]! / s;
    m[i]! += gain * innovation;
    for (let j = 0; j <= i; j++) {
      const other = ph[j]! / s;
      const joseph = covariance[i * n + j]! - gain * ph[j]! - other * ph[i]! + gain * other * s;
      c[i * n + j] = joseph;
      c[j * n + i] = joseph;
    }
  }
  return {
    belief: { mean: m, covariance: c },
    innovation,
    variance: s,
    logLikelihood: -0.5 * (LOG_2PI + Math.log(s) + innovation ** 2 / s),
  };
}

/**
 * Two figures that were measured together, as two that were not: the second without what the first says of its noise.
 * Their densities multiply to the one of the pair.
 *
 * @param covariance of the pair's noise
 */
export function decorrelate(
  first: Pick<Measurement, 'row' | 'value'>,
  second: Pick<Measurement, 'row' | 'value'>,
  [[a, b], [, d]]: readonly [readonly [number, number], readonly [number, number]],
): readonly [Measurement, Measurement] {
  const share = a > 0 ? b / a : 0;
  return [
    { row: first.row, value: first.value, variance: a },
    {
      row: share === 0 ? second.row : second.row.map((r, i) => r - share * first.row[i]!),
      value: second.value - share * first.value,
      variance: Math.max(0, d - share * b),
    },
  ];
}

/**
 * What is known of each moment when all that came later is known too (Rauch, Tung & Striebel).
 *
 * @param filtered what was known at each moment, its own measurements taken in
 * @param motions from each moment to the next, one fewer
 * @returns as many beliefs as `filtered`
 * @see Rauch, Tung & Striebel, AIAA Journal 3 (1965) 1445
 */
export function smoothed(filtered: readonly Belief[], motions: readonly Motion[]): readonly Belief[] {
  const out = [...filtered];
  for (let t = filtered.length - 2; t >= 0; t--) {
    const here = filtered[t]!;
    const motion = motions[t]!;
    const expected = predict(here, motion);
    const later = out[t + 1]!;
    const n = here.mean.length;
    const gain = gainBack(here.covariance, motion.transition, expected.covariance, n);
    const mean = here.mean.slice();
    const covariance = here.covariance.slice();
    for (let i = 0; i < n; i++)
      for (let k = 0; k < n; k++) {
        const g = gain[i * n + k]!;
        mean[i]! += g * (later.mean[k]! - expected.mean[k]!);
        for (let l = 0; l < n; l++) {
          const change = g * (later.covariance[k * n + l]! - expected.covariance[k * n + l]!);
          for (let j = 0; j < n; j++) covariance[i * n + j]! += change * gain[j * n + l]!;
        }
      }
    out[t] = { mean, covariance };
  }
  return out;
}

/** P·Fᵀ·(expected P)⁻¹, by Cholesky; a quantity that is certain has no say. */
function gainBack(p: Figures, f: Figures, expected: Figures, n: number): Figures {
  const l = factorOf(expected, n);
  const gain: number[] = [];
  const row = zeros(n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      let sum = 0;
      for (let k = 0; k < n; k++) sum += p[i * n + k]! * f[j * n + k]!;
      row[j] = sum;
    }
    for (let r = 0; r < n; r++) {
      for (let k = 0; k < r; k++) row[r]! -= l[r * n + k]! * row[k]!;
      row[r] = l[r * n + r]! > 0 ? row[r]! / l[r * n + r]! : 0;
    }
    for (let r = n - 1; r >= 0; r--) {
      for (let k = r + 1; k < n; k++) row[r]! -= l[k * n + r]! * row[k]!;
      row[r] = l[r * n + r]! > 0 ? row[r]! / l[r * n + r]! : 0;
    }
    gain.push(...row);
  }
  return gain;
}

/** Share of a variance below which what is left of it is rounding. */
const NOTHING = 1e-13;

/** Cholesky factor, row by row; zero columns for what is certain. */
function factorOf(c: Figures, n: number): Figures {
  const l = zeros(n * n);
  for (let r = 0; r < n; r++)
    for (let k = 0; k <= r; k++) {
      let sum = c[r * n + k]!;
      for (let i = 0; i < k; i++) sum -= l[r * n + i]! * l[k * n + i]!;
      if (r === k) l[r * n + r] = sum > NOTHING * c[r * n + r]! ? Math.sqrt(sum) : 0;
      else l[r * n + k] = l[k * n + k]! > 0 ? sum / l[k * n + k]! : 0;
    }
  return l;
}
