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
  readonly noise: number;
  /** what rounding leaves of it however long one waits, mV */
  readonly grain: number;
  /** best estimate of the signal now, noise removed, mV */
  readonly level: number;
  readonly levelSd: number;
  /** what is still to come (final − now), mV */
  readonly stillToCome: number;
  readonly toComeSd: number;
  readonly models: readonly Model[];
  /** time of the last sample, s */
  readonly now: number;
  readonly start: number;
}

const MOST_BINS = 60;
const LEAST_SAMPLES = 6;

/** Time constants considered, s: from a fast glass electrode to a clogged junction. */
const TAUS = [1.5, 2.1, 3, 4.2, 6, 8.5, 12, 17, 24, 34, 48, 68, 96, 136, 192, 272, 384] as const;

/**
 * No electrode is exactly two exponentials: a reading this far from today's counts as that much less certain.
 * The tail, which decides what is still to come, is then told by the recent signal and not by the first plunge.
 */
const DISCREPANCY = 0.06;

/** How large a tail may be before anything is measured: any size for the fast one, mV. */
const FAST_SD_MV = 200;

/** What is known of a kind of sensor's slow tail before anything is measured. */
export interface Tail {
  /** its usual time constant, s, and the standard deviation of the logarithm of it */
  readonly seconds: number;
  readonly spread: number;
  /** share of a step that usually goes the slow way, as a standard deviation */
  readonly share: number;
  /**
   * How long it takes beside what `settle` reckons for any signal (`usual`), and how its times to ready lie about that:
   * end of the lowest twentieth, middle, beginning of the highest twentieth.
   */
  readonly forecast: { readonly usual: number; readonly times: readonly [number, number, number] };
}

/** Any tail: for a trace of which nothing is known. */
export const ANY_TAIL: Tail = {
  seconds: 40,
  spread: 1.2,
  share: 0.25,
  forecast: { usual: 0.3, times: [1.3, 3.3, 6.5] },
};

/** A tail that does not come from the step that was seen, mV: the probe came from somewhere before that. */
const HIDDEN_MV = 0.5;

/** The step that a trace follows: how far it went, and when it began. */
export interface Origin {
  readonly t: number;
  readonly range: number;
}
/**
 * Weight given beforehand to "nothing moves" and to all single exponentials together. Small: a glass electrode always
 * has a slow tail, and a model without one would promise that nothing is to come.
 */
const STILL_PRIOR = 0.02;
const SINGLE_PRIOR = 0.02;

/** Share of the window that is fitted: the swirl and the fast first part would use up the exponentials. */
const RECENT = 0.88;

/** No extrapolation of a tail is trusted better than this share of it. */
const EXTRAPOLATION = 0.25;

/**
 * Weighs every one- and two-exponential approach against the trace and keeps them all, each with its weight.
 *
 * The signal is level + Σ aᵢ·exp(−(t − now)/τᵢ). Level and amplitudes follow by linear algebra for given τ; the τ are
 * a grid, so that the answer is an average over what the trace cannot tell apart, not one lucky fit. Amplitudes have a
 * normal prior: large for the fast member, small for a slow tail that follows it.
 *
 * @param samples rising time, one window without disturbance
 * @param resolution step of the signal; the noise is never taken as less than its rounding
 * @param grid how finely time constants and samples are told apart
 * @returns null for fewer than six samples or no time between them
 */
export function fitApproach(
  samples: readonly Sample[],
  resolution: number,
  { grid = FINE, tail = ANY_TAIL, origin = originOf(samples) }: { grid?: Grid; tail?: Tail; origin?: Origin } = {},
): Approach | null {
  if (samples.length < LEAST_SAMPLES) return null;
  const now = samples.at(-1)!.t;
  if (!(now > samples[0]!.t)) return null;
  const recent = samples.filter((s) => s.t >= now - RECENT * (now - samples[0]!.t));
  const start = recent[0]!.t;
  const heard = noiseSd(recent.map((s) => s.signal));
  const noise = Math.hypot(heard, resolution / Math.sqrt(12), 0.01);
  const grain = grainOf(heard, resolution);
  const bins = binned(recent, grid.bins);
  const sums = gather(bins, now, start, noise);
  const slowSd = TAUS.map((tau) => HIDDEN_MV + tail.share * origin.range * Math.exp((origin.t - start) / tau));
  const solved = grid.candidates.map((candidate) => solve(sums, candidate, slowSd));
  return weigh(solved, sums, grid, tail, { noise, grain, now, start });
}

/**
 * What rounding leaves of a level however long it is averaged, mV: noise of half a step or more averages it away, a quiet
 * signal stays where the rounding puts it. First harmonic of the quantiser with normal noise: Widrow and Kollár,
 * "Quantization Noise" (2008), chapter 19, from memory.
 *
 * @param heard noise of the samples, rounding included
 */
function grainOf(heard: number, resolution: number): number {
  if (!(resolution > 0)) return 0;
  const own = Math.max(0, heard ** 2 - resolution ** 2 / 12) / resolution ** 2;
  return (resolution / Math.sqrt(12)) * Math.exp(-2 * Math.PI ** 2 * own);
}

/** Where a trace itself begins, and how far it has gone since. */
export function originOf(samples: readonly Sample[]): Origin {
  const last = samples.at(-1)?.signal ?? 0;
  return { t: samples[0]?.t ?? 0, range: Math.abs((samples[0]?.signal ?? 0) - last) };
}

/** A candidate: indices into TAUS, −1 where the member is missing. */
type Candidate = readonly [fast: number, slow: number];

/** Which approaches are weighed, and into how many bins a trace is gathered first. */
export interface Grid {
  readonly bins: number;
  readonly candidates: readonly Candidate[];
  /** how many of them have no, one and two members */
  readonly counts: readonly [number, number, number];
}

/** Nothing moves, every single exponential, every pair. Tails that have died out cost nothing to keep. */
function gridOf(bins: number, every: number): Grid {
  const kept = TAUS.map((_, i) => i).filter((i) => i % every === 0);
  const pairs = kept.flatMap((i) => kept.filter((k) => k > i).map((k): Candidate => [i, k]));
  const candidates: Candidate[] = [[-1, -1], ...kept.map((i): Candidate => [i, -1]), ...pairs];
  return { bins, candidates, counts: [1, kept.length, pairs.length] };
}

const FINE = gridOf(MOST_BINS, 1);
/** Good enough to say where the next few samples will be: every second time constant, half the bins. */
export const COARSE = gridOf(MOST_BINS / 2, 2);

/** Weighted sums over all basis functions at once: index 0 is the constant, k + 1 is exp(−(t − start)/τk). */
interface Sums {
  /** lower triangle */
  readonly gram: readonly Float64Array[];
  readonly moment: Float64Array;
  readonly yy: number;
  readonly centre: number;
  readonly count: number;
  /** value of each tail at `now`, relative to the window's start */
  readonly atNow: number[];
}

function gather(bins: ReturnType<typeof binned>, now: number, start: number, noise: number): Sums {
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

interface Solved {
  readonly candidate: Candidate;
  /** level, fast, slow; 0 for a missing member */
  readonly mean: readonly [number, number, number];
  /** Cholesky factor of the posterior precision: l11, l21, l22, l31, l32, l33 */
  readonly factor: readonly [number, number, number, number, number, number];
  readonly logEvidence: number;
  readonly misfit: number;
}

/**
 * Bayesian linear regression of one candidate: posterior of level and amplitudes, evidence up to a constant.
 *
 * Three unknowns at most, so the Cholesky factor is written out: this runs for 154 candidates after every sample.
 * A missing member is a unit row: it changes neither the determinant nor the others.
 */
function solve(sums: Sums, candidate: Candidate, slowSd: readonly number[]): Solved {
  const [fast, slow] = candidate;
  const { gram, moment } = sums;
  const f = fast + 1;
  const g = slow + 1;
  const p1 = 1e-8;
  const p2 = fast < 0 ? 1 : FAST_SD_MV ** -2;
  const p3 = slow < 0 ? 1 : slowSd[slow]! ** -2;
  const hasFast = fast >= 0 ? 1 : 0;
  const hasSlow = slow >= 0 ? 1 : 0;
  const b1 = moment[0]!;
  const b2 = hasFast * moment[f]!;
  const b3 = hasSlow * moment[g]!;
  const l11 = Math.sqrt(gram[0]![0]! + p1);
  const l21 = (hasFast * gram[f]![0]!) / l11;
  const l31 = (hasSlow * gram[g]![0]!) / l11;
  const l22 = Math.sqrt(Math.max(hasFast * gram[f]![f]! + p2 - l21 * l21, 1e-12));
  const l32 = (hasFast * hasSlow * gram[g]![f]! - l31 * l21) / l22;
  const l33 = Math.sqrt(Math.max(hasSlow * gram[g]![g]! + p3 - l31 * l31 - l32 * l32, 1e-12));
  const z1 = b1 / l11;
  const z2 = (b2 - l21 * z1) / l22;
  const z3 = (b3 - l31 * z1 - l32 * z2) / l33;
  const m3 = z3 / l33;
  const m2 = (z2 - l32 * m3) / l22;
  const m1 = (z1 - l21 * m2 - l31 * m3) / l11;
  const misfit = Math.max(0, sums.yy - z1 * z1 - z2 * z2 - z3 * z3);
  const logDeterminant = 2 * Math.log(l11 * l22 * l33);
  return {
    candidate,
    mean: [m1, m2, m3],
    factor: [l11, l21, l22, l31, l32, l33],
    misfit,
    logEvidence: -0.5 * (misfit + logDeterminant - Math.log(p1 * p2 * p3)),
  };
}

/** Covariance from the Cholesky factor of the precision: (L Lᵀ)⁻¹. */
function covarianceOf([l11, l21, l22, l31, l32, l33]: Solved['factor']): number[][] {
  const i11 = 1 / l11;
  const i22 = 1 / l22;
  const i33 = 1 / l33;
  const i21 = -l21 * i11 * i22;
  const i32 = -l32 * i22 * i33;
  const i31 = -(l31 * i11 + l32 * i21) * i33;
  const c12 = i21 * i22 + i31 * i32;
  const c13 = i31 * i33;
  const c23 = i32 * i33;
  return [
    [i11 ** 2 + i21 ** 2 + i31 ** 2, c12, c13],
    [c12, i22 ** 2 + i32 ** 2, c23],
    [c13, c23, i33 ** 2],
  ];
}

function weigh(
  solved: readonly Solved[],
  sums: Sums,
  grid: Grid,
  tail: Tail,
  { noise, grain, now, start }: { noise: number; grain: number; now: number; start: number },
): Approach {
  // Noise that is not white (hum, stirring) shows as misfit of even the best model: widen everything by it.
  const best = Math.min(...solved.map((m) => m.misfit));
  const inflation = Math.max(1, best / Math.max(1, sums.count - 4));
  const [, singles, pairs] = grid.counts;
  const priors = [STILL_PRIOR, SINGLE_PRIOR / singles, (1 - STILL_PRIOR - SINGLE_PRIOR) / pairs];
  const usual = usualness(grid, tail);
  const logs = solved.map((m, i) => m.logEvidence / inflation + Math.log(priors[members(m.candidate)]!) + usual[i]!);
  const top = Math.max(...logs);
  const raw = logs.map((l) => Math.exp(l - top));
  const total = raw.reduce((s, w) => s + w, 0);
  const models: Model[] = [];
  solved.forEach((m, i) => {
    const weight = raw[i]! / total;
    if (weight < 1e-4) return;
    const taus = m.candidate.filter((k) => k >= 0).map((k) => TAUS[k]!);
    // From "amplitude at the window's start" to "amplitude now".
    const scale = [1, ...m.candidate.filter((k) => k >= 0).map((k) => sums.atNow[k]!)];
    const covariance = covarianceOf(m.factor);
    models.push({
      taus,
      weight,
      mean: scale.map((v, k) => m.mean[k]! * v + (k === 0 ? sums.centre : 0)),
      covariance: scale.map((v, r) => scale.map((w, c) => covariance[r]![c]! * v * w * inflation)),
    });
  });
  const level = mixture(models, 1, () => 1);
  const bare = {
    noise,
    grain,
    level: level.mean,
    levelSd: Math.hypot(level.sd, grain),
    stillToCome: 0,
    toComeSd: 0,
    models,
    now,
    start,
  };
  const toCome = toComeAt(bare, 0);
  return { ...bare, stillToCome: toCome.mean, toComeSd: toCome.sd };
}

/** Weights of level and amplitudes in the quantity that is asked for: their tails `ahead` seconds from now, times `sign`. */
type Ask = (tau: number) => number;

/** Mean and standard deviation of level·withLevel + Σ ask(τ)·amplitude, over all models. */
function mixture(models: readonly Model[], withLevel: 0 | 1, ask: Ask): { mean: number; sd: number } {
  let total = 0;
  let first = 0;
  let second = 0;
  const w = [withLevel as number, 0, 0];
  for (const model of models) {
    const size = model.taus.length + 1;
    for (let i = 1; i < size; i++) w[i] = ask(model.taus[i - 1]!);
    let mean = 0;
    let variance = 0;
    for (let i = 0; i < size; i++) {
      mean += w[i]! * model.mean[i]!;
      const row = model.covariance[i]!;
      for (let j = 0; j < size; j++) variance += w[i]! * w[j]! * row[j]!;
    }
    // About the first model's mean, so that squares do not swallow the digits.
    const shifted = mean - models[0]!.mean[0]! * withLevel;
    total += model.weight;
    first += model.weight * shifted;
    second += model.weight * (Math.max(0, variance) + shifted * shifted);
  }
  const centred = first / total;
  return {
    mean: centred + models[0]!.mean[0]! * withLevel,
    sd: Math.sqrt(Math.max(0, second / total - centred * centred)),
  };
}

/**
 * Signal expected `ahead` seconds after the last sample, mV; measurement noise not included.
 */
export function expectedAt(approach: Approach, ahead: number): { mean: number; sd: number } {
  return mixture(approach.models, 1, (tau) => Math.exp(-ahead / tau));
}

/** What is still to come `ahead` seconds after the last sample, mV, as far as is known today. */
export function toComeAt(approach: Approach, ahead: number): { mean: number; sd: number } {
  const { mean, sd } = mixture(approach.models, 0, (tau) => -Math.exp(-ahead / tau));
  return { mean, sd: Math.hypot(sd, EXTRAPOLATION * mean) };
}

/** Final value of the approach, mV: where the signal will stand, and how well that is known. */
export function finalValue(approach: Approach): { mean: number; sd: number } {
  const { mean, sd } = mixture(approach.models, 1, () => 0);
  return { mean, sd: Math.hypot(sd, EXTRAPOLATION * approach.stillToCome, approach.grain) };
}

/** Logarithm of how usual each candidate's slow tail is, over the average of its kind. */
function usualness(grid: Grid, tail: Tail): number[] {
  const raw = grid.candidates.map(([, slow]) =>
    slow < 0 ? 1 : Math.exp(-0.5 * (Math.log(TAUS[slow]! / tail.seconds) / tail.spread) ** 2),
  );
  const pairs = raw.filter((_, i) => grid.candidates[i]![1] >= 0);
  const mean = pairs.reduce((sum, w) => sum + w, 0) / Math.max(1, pairs.length);
  return raw.map((w, i) => (grid.candidates[i]![1] < 0 ? 0 : Math.log(Math.max(w / mean, 1e-12))));
}

const members = (candidate: Candidate) => (candidate[0] < 0 ? 0 : candidate[1] < 0 ? 1 : 2);
