import { binned, type Sample } from './trace.ts';
import { noiseSd } from '../statistics/robust.ts';

/** One way in which the signal may be approaching: its time constants and what the trace says of it. */
interface Model {
  readonly taus: readonly number[];
  /** level, then one amplitude a time constant (value of each tail at the last sample) */
  readonly mean: readonly number[];
  readonly covariance: readonly (readonly number[])[];
  readonly weight: number;
}

/** What a trace says about where its signal is going. */
export interface Approach {
  /** sample noise, mV */
  readonly noiseMv: number;
  /** best estimate of the signal now, noise removed, mV */
  readonly levelMv: number;
  readonly levelSd: number;
  /** what is still to come (final − now), mV */
  readonly toComeMv: number;
  readonly toComeSd: number;
  readonly models: readonly Model[];
  /** time of the last sample, s */
  readonly now: number;
  readonly start: number;
}

const MOST_BINS = 60;
const LEAST_SAMPLES = 6;

/** Time constants considered, s: from a fast glass electrode to a clogged junction. */
const TAUS = [1.5, 2.7, 4.8, 8.5, 15, 27, 48, 85, 150, 270, 480] as const;

/** How large a tail may be before anything is measured, mV: a whole pH span for the fast one, little for a slow one. */
const FAST_SD_MV = 200;
const SLOW_SD_MV = 8;
/** Share of weight given beforehand to "nothing moves". */
const STILL_PRIOR = 0.2;

/**
 * Weighs every one- and two-exponential approach against the trace and keeps them all, each with its weight.
 *
 * The signal is level + Σ aᵢ·exp(−(t − now)/τᵢ). Level and amplitudes follow by linear algebra for given τ; the τ are
 * a grid, so that the answer is an average over what the trace cannot tell apart, not one lucky fit. Amplitudes have a
 * normal prior: large for the fast member, small for a slow tail that follows it.
 *
 * @param samples rising time, one window without disturbance
 * @param resolutionMv step of the signal; the noise is never taken as less than its rounding
 * @returns null for fewer than six samples or no time between them
 */
export function fitApproach(samples: readonly Sample[], resolutionMv: number): Approach | null {
  if (samples.length < LEAST_SAMPLES) return null;
  const start = samples[0]!.t;
  const now = samples.at(-1)!.t;
  if (!(now > start)) return null;
  const noiseMv = Math.hypot(noiseSd(samples.map((s) => s.potentialMv)), resolutionMv / Math.sqrt(12), 0.01);
  const bins = binned(samples, MOST_BINS);
  const sums = gather(bins, now, start, noiseMv);
  const models = candidateTaus().map((taus) => solve(sums, taus));
  return weigh(models, sums, noiseMv, now, start);
}

/** Tails that have died out by the window's start or do not move within it are no use, but cost nothing to keep. */
function candidateTaus(): number[][] {
  const list: number[][] = [[]];
  TAUS.forEach((fast, i) => {
    list.push([fast]);
    for (let j = i + 1; j < TAUS.length; j++) list.push([fast, TAUS[j]!]);
  });
  return list;
}

/** Weighted sums over all basis functions at once: index 0 is the constant, k + 1 is exp(−(t − start)/τk). */
interface Sums {
  readonly gram: number[][];
  readonly moment: number[];
  readonly yy: number;
  readonly centre: number;
  readonly count: number;
  /** value of each tail at `now`, relative to the window's start */
  readonly atNow: number[];
}

function gather(bins: ReturnType<typeof binned>, now: number, start: number, noiseMv: number): Sums {
  const size = TAUS.length + 1;
  const gram = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const moment = new Array<number>(size).fill(0);
  // Centre on the last value, so that squares do not swallow the digits.
  const centre = bins.at(-1)!.value;
  let yy = 0;
  for (const bin of bins) {
    const basis = [1, ...TAUS.map((tau) => Math.exp(-(bin.t - start) / tau))];
    const w = bin.count / noiseMv ** 2;
    const y = bin.value - centre;
    yy += w * y * y;
    for (let i = 0; i < size; i++) {
      moment[i]! += w * basis[i]! * y;
      for (let j = 0; j <= i; j++) gram[i]![j]! += w * basis[i]! * basis[j]!;
    }
  }
  for (let i = 0; i < size; i++) for (let j = i + 1; j < size; j++) gram[i]![j] = gram[j]![i]!;
  const atNow = TAUS.map((tau) => Math.exp(-(now - start) / tau));
  return { gram, moment, yy, centre, count: bins.length, atNow };
}

interface Solved {
  taus: number[];
  mean: number[];
  covariance: number[][];
  logEvidence: number;
  misfit: number;
}

/** Bayesian linear regression of one candidate: posterior of level and amplitudes, evidence up to a constant. */
function solve(sums: Sums, taus: number[]): Solved {
  const index = [0, ...taus.map((tau) => 1 + (TAUS as readonly number[]).indexOf(tau))];
  const priorPrecision = index.map((_, k) => (k === 0 ? 1e-8 : 1 / (k === 1 ? FAST_SD_MV : SLOW_SD_MV) ** 2));
  const a = index.map((i, r) => index.map((j, c) => sums.gram[i]![j]! + (r === c ? priorPrecision[r]! : 0)));
  const b = index.map((i) => sums.moment[i]!);
  const { inverse, logDeterminant } = invertSmall(a);
  const mean = inverse.map((row) => row.reduce((s, v, j) => s + v * b[j]!, 0));
  const explained = mean.reduce((s, m, i) => s + m * b[i]!, 0);
  const misfit = Math.max(0, sums.yy - explained);
  const logPrior = priorPrecision.reduce((s, p) => s + Math.log(p), 0);
  return { taus, mean, covariance: inverse, misfit, logEvidence: -0.5 * (misfit + logDeterminant - logPrior) };
}

function weigh(solved: readonly Solved[], sums: Sums, noiseMv: number, now: number, start: number): Approach {
  // Noise that is not white (hum, stirring) shows as misfit of even the best model: widen everything by it.
  const best = Math.min(...solved.map((m) => m.misfit));
  const inflation = Math.max(1, best / Math.max(1, sums.count - 4));
  const moving = (1 - STILL_PRIOR) / (solved.length - 1);
  const logs = solved.map((m) => m.logEvidence / inflation + Math.log(m.taus.length ? moving : STILL_PRIOR));
  const top = Math.max(...logs);
  const raw = logs.map((l) => Math.exp(l - top));
  const total = raw.reduce((s, w) => s + w, 0);
  const models: Model[] = [];
  solved.forEach((m, i) => {
    const weight = raw[i]! / total;
    if (weight < 1e-4) return;
    // From "amplitude at the window's start" to "amplitude now".
    const scale = [1, ...m.taus.map((tau) => sums.atNow[(TAUS as readonly number[]).indexOf(tau)]!)];
    models.push({
      taus: m.taus,
      weight,
      mean: m.mean.map((v, k) => v * scale[k]! + (k === 0 ? sums.centre : 0)),
      covariance: m.covariance.map((row, r) => row.map((v, c) => v * scale[r]! * scale[c]! * inflation)),
    });
  });
  const level = mixture(models, (m) => combine(m, [1, ...m.taus.map(() => 1)]));
  const toCome = mixture(models, (m) => combine(m, [0, ...m.taus.map(() => -1)]));
  return {
    noiseMv,
    levelMv: level.mean,
    levelSd: level.sd,
    toComeMv: toCome.mean,
    toComeSd: toCome.sd,
    models,
    now,
    start,
  };
}

/** Mean and variance of a weighted sum of one model's parameters. */
function combine(model: Model, weights: readonly number[]): { mean: number; variance: number } {
  let mean = 0;
  let variance = 0;
  weights.forEach((w, i) => {
    mean += w * model.mean[i]!;
    weights.forEach((v, j) => {
      variance += w * v * model.covariance[i]![j]!;
    });
  });
  return { mean, variance: Math.max(0, variance) };
}

function mixture(models: readonly Model[], of: (m: Model) => { mean: number; variance: number }) {
  const parts = models.map((m) => ({ w: m.weight, ...of(m) }));
  const total = parts.reduce((s, p) => s + p.w, 0);
  const mean = parts.reduce((s, p) => s + p.w * p.mean, 0) / total;
  const variance = parts.reduce((s, p) => s + p.w * (p.variance + (p.mean - mean) ** 2), 0) / total;
  return { mean, sd: Math.sqrt(variance) };
}

/**
 * Signal expected `ahead` seconds after the last sample, and what is still to come from there.
 *
 * @returns mean and standard deviation of both, mV; measurement noise not included
 */
export function expectedAt(approach: Approach, ahead: number) {
  const decay = (m: Model) => m.taus.map((tau) => Math.exp(-ahead / tau));
  return {
    signal: mixture(approach.models, (m) => combine(m, [1, ...decay(m)])),
    toCome: mixture(approach.models, (m) => combine(m, [0, ...decay(m).map((d) => -d)])),
  };
}

/** Final value of the approach, mV: where the signal will stand. */
export function finalValue(approach: Approach): { mean: number; sd: number } {
  return mixture(approach.models, (m) => combine(m, [1, ...m.taus.map(() => 0)]));
}

/** Inverse and log determinant of a symmetric positive matrix up to 3×3, by Gauss-Jordan with the pivots on the diagonal. */
function invertSmall(a: readonly (readonly number[])[]): { inverse: number[][]; logDeterminant: number } {
  const n = a.length;
  const m = a.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  let logDeterminant = 0;
  for (let k = 0; k < n; k++) {
    const pivot = Math.max(m[k]![k]!, 1e-12);
    logDeterminant += Math.log(pivot);
    for (let j = 0; j < 2 * n; j++) m[k]![j]! /= pivot;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const factor = m[i]![k]!;
      for (let j = 0; j < 2 * n; j++) m[i]![j]! -= factor * m[k]![j]!;
    }
  }
  return { inverse: m.map((row) => row.slice(n)), logDeterminant };
}
