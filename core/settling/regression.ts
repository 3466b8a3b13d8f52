import { TAUS, type Candidate } from './ways.ts';
import type { binned } from './trace.ts';

/**
 * No electrode is exactly two exponentials: a reading this far from today's counts as that much less certain.
 * The tail, which decides what is still to come, is then told by the recent signal and not by the first plunge.
 */
const DISCREPANCY = 0.03;

/** How large a tail may be before anything is measured: any size for the fast one, mV. */
const FAST_SD_MV = 200;

/** Weighted sums over all basis functions at once: index 0 is the constant, k + 1 is exp(−(t − start)/τk). */
export interface Sums {
  /** lower triangle */
  readonly gram: readonly Float64Array[];
  readonly moment: Float64Array;
  readonly yy: number;
  readonly centre: number;
  readonly count: number;
  /** value of each tail at `now`, relative to the window's start */
  readonly atNow: number[];
}

export function gather(bins: ReturnType<typeof binned>, now: number, start: number, noise: number): Sums {
  const size = TAUS.length + 1;
  const gram = Array.from({ length: size }, () => new Float64Array(size));
  const moment = new Float64Array(size);
  const basis = new Float64Array(size).fill(1);
  // Centre on the last value, so that squares do not swallow the digits.
  const centre = bins.at(-1)!.value;
  let yy = 0;
  for (const bin of bins) {
    for (let i = 1; i < size; i++) basis[i] = Math.exp(-(bin.t - start) / TAUS[i - 1]!);
    const y = bin.value - centre;
    const w = 1 / (noise ** 2 / bin.count + (DISCREPANCY * y) ** 2);
    yy += w * y * y;
    for (let i = 0; i < size; i++) {
      const wb = w * basis[i]!;
      moment[i]! += wb * y;
      const row = gram[i]!;
      for (let j = 0; j <= i; j++) row[j]! += wb * basis[j]!;
    }
  }
  const atNow = TAUS.map((tau) => Math.exp(-(now - start) / tau));
  return { gram, moment, yy, centre, count: bins.length, atNow };
}

/** How well a candidate explains a trace. */
interface Tried {
  readonly logEvidence: number;
  readonly misfit: number;
}

/** Unknowns of the largest candidate. */
const MOST = 4;
/** Precision of the level before anything is measured: none. */
const LEVEL_PRECISION = 1e-8;

/** Indices into the basis functions: 0, then those of the members. */
export const basisOf = ([fast, next, slow]: Candidate): readonly number[] =>
  fast < 0 ? [0] : slow < 0 ? [0, fast + 1, next + 1] : [0, fast + 1, next + 1, slow + 1];

/** Cholesky factor of the posterior precision, row by row, `MOST` apart, and what forward substitution made of the moments. */
interface Scratch {
  readonly factor: Float64Array;
  readonly z: Float64Array;
}

/** Filled anew by every candidate: this runs for 137 of them after every sample. */
export const SCRATCH: Scratch = { factor: new Float64Array(MOST * MOST), z: new Float64Array(MOST) };

/**
 * Bayesian linear regression of one candidate: its evidence up to a constant, and its factor in `into`.
 *
 * @param slowSd how large a slow member may be beforehand, by index into `TAUS`
 */
export function factorised(
  sums: Sums,
  basis: readonly number[],
  slowSd: readonly number[],
  { factor, z }: Scratch,
): Tried {
  const { gram, moment } = sums;
  const size = basis.length;
  let logPrior = 0;
  let logDeterminant = 0;
  let explained = 0;
  for (let r = 0; r < size; r++) {
    const br = basis[r]!;
    const precision = r === 0 ? LEVEL_PRECISION : r < 3 ? FAST_SD_MV ** -2 : slowSd[br - 1]! ** -2;
    logPrior += Math.log(precision);
    for (let c = 0; c <= r; c++) {
      // The members of a candidate rise, and so does what was gathered: a lower triangle.
      let sum = gram[br]![basis[c]!]! + (r === c ? precision : 0);
      for (let k = 0; k < c; k++) sum -= factor[r * MOST + k]! * factor[c * MOST + k]!;
      factor[r * MOST + c] = r === c ? Math.sqrt(Math.max(sum, 1e-12)) : sum / factor[c * MOST + c]!;
    }
    let rest = moment[br]!;
    for (let k = 0; k < r; k++) rest -= factor[r * MOST + k]! * z[k]!;
    z[r] = rest / factor[r * MOST + r]!;
    explained += z[r]! ** 2;
    logDeterminant += 2 * Math.log(factor[r * MOST + r]!);
  }
  const misfit = Math.max(0, sums.yy - explained);
  return { misfit, logEvidence: -0.5 * (misfit + logDeterminant - logPrior) };
}

/** Posterior mean by back substitution. */
export function meanOf({ factor, z }: Scratch, size: number): number[] {
  const mean = new Array<number>(size).fill(0);
  for (let r = size - 1; r >= 0; r--) {
    let rest = z[r]!;
    for (let k = r + 1; k < size; k++) rest -= factor[k * MOST + r]! * mean[k]!;
    mean[r] = rest / factor[r * MOST + r]!;
  }
  return mean;
}

/** Covariance from the Cholesky factor of the precision: (L Lᵀ)⁻¹, each member scaled, all inflated. */
export function covarianceOf({ factor }: Scratch, scale: readonly number[], inflation: number): Float64Array[] {
  const size = scale.length;
  // Columns of L⁻¹ by forward substitution, then (L⁻¹)ᵀ L⁻¹.
  const inverse = Array.from({ length: size }, () => new Float64Array(size));
  for (let c = 0; c < size; c++)
    for (let r = c; r < size; r++) {
      let sum = r === c ? 1 : 0;
      for (let k = c; k < r; k++) sum -= factor[r * MOST + k]! * inverse[k]![c]!;
      inverse[r]![c] = sum / factor[r * MOST + r]!;
    }
  const covariance = Array.from({ length: size }, () => new Float64Array(size));
  for (let i = 0; i < size; i++)
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = i; k < size; k++) sum += inverse[k]![i]! * inverse[k]![j]!;
      covariance[i]![j] = covariance[j]![i] = sum * scale[i]! * scale[j]! * inflation;
    }
  return covariance;
}
