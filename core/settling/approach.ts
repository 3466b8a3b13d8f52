import { binned, type Sample } from './trace.ts';
import { noiseSd } from '../statistics/robust.ts';

/** One way in which the signal may be approaching: its time constants and what the trace says of it. */
interface Model {
  readonly taus: readonly number[];
  /** level, then one amplitude a time constant (value of each tail at the last sample) */
  readonly mean: readonly number[];
  readonly covariance: readonly Float64Array[];
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
const DISCREPANCY = 0.03;

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
   * So many times less certain of where it will stand than the trace says by itself, because its slow way is no exponential;
   * absent = 1
   */
  readonly caution?: number;
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
  forecast: { usual: 0.7, times: [0.7, 1.7, 3.1] },
};

/** A tail that does not come from the step that was seen, mV: the probe came from somewhere before that. */
const HIDDEN_MV = 0.5;

/** The step that a trace follows: how far it went, and when it began. */
export interface Origin {
  readonly t: number;
  readonly range: number;
}
/**
 * Weight given beforehand to "nothing moves" and to all fast ways alone together. Small: a glass electrode always
 * has a slow tail, and a model without one would promise that nothing is to come.
 */
const STILL_PRIOR = 0.02;
const SINGLE_PRIOR = 0.02;

/** Share of the window that is fitted: the swirl and the fast first part would use up the exponentials. */
const RECENT = 0.92;

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
  return weigh(sums, grid, tail, slowSd, { noise, grain, now, start });
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

/**
 * A candidate: indices into TAUS of its fast way, which lies between two neighbours of the grid, and of its slow one; −1
 * where there is none. One member alone for the fast way would leave the tail to mend what the grid misses of it.
 */
type Candidate = readonly [fast: number, next: number, slow: number];

/** Which approaches are weighed, and into how many bins a trace is gathered first. */
export interface Grid {
  readonly bins: number;
  readonly candidates: readonly Candidate[];
}

/** Nothing moves, a fast way alone, a fast way and every slower one. Tails that have died out cost nothing to keep. */
function gridOf(bins: number, every: number): Grid {
  const kept = TAUS.map((_, i) => i).filter((i) => i % every === 0);
  const fast = kept.slice(0, -1).map((i, k): Candidate => [i, kept[k + 1]!, -1]);
  const both = fast.flatMap(([i, next]) => kept.filter((k) => k > next).map((k): Candidate => [i, next, k]));
  return { bins, candidates: [[-1, -1, -1], ...fast, ...both] };
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
const basisOf = ([fast, next, slow]: Candidate): readonly number[] =>
  fast < 0 ? [0] : slow < 0 ? [0, fast + 1, next + 1] : [0, fast + 1, next + 1, slow + 1];

/** Cholesky factor of the posterior precision, row by row, `MOST` apart, and what forward substitution made of the moments. */
interface Scratch {
  readonly factor: Float64Array;
  readonly z: Float64Array;
}

/** Filled anew by every candidate: this runs for 137 of them after every sample. */
const SCRATCH: Scratch = { factor: new Float64Array(MOST * MOST), z: new Float64Array(MOST) };

/**
 * Bayesian linear regression of one candidate: its evidence up to a constant, and its factor in `into`.
 *
 * @param slowSd how large a slow member may be beforehand, by index into `TAUS`
 */
function factorised(sums: Sums, basis: readonly number[], slowSd: readonly number[], { factor, z }: Scratch): Tried {
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
function meanOf({ factor, z }: Scratch, size: number): number[] {
  const mean = new Array<number>(size).fill(0);
  for (let r = size - 1; r >= 0; r--) {
    let rest = z[r]!;
    for (let k = r + 1; k < size; k++) rest -= factor[k * MOST + r]! * mean[k]!;
    mean[r] = rest / factor[r * MOST + r]!;
  }
  return mean;
}

/** Covariance from the Cholesky factor of the precision: (L Lᵀ)⁻¹, each member scaled, all inflated. */
function covarianceOf({ factor }: Scratch, scale: readonly number[], inflation: number): Float64Array[] {
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

function weigh(
  sums: Sums,
  grid: Grid,
  tail: Tail,
  slowSd: readonly number[],
  { noise, grain, now, start }: { noise: number; grain: number; now: number; start: number },
): Approach {
  // Noise that is not white (hum, stirring) shows as misfit of even the best model: widen everything by it.
  const tried = grid.candidates.map((candidate) => factorised(sums, basisOf(candidate), slowSd, SCRATCH));
  const best = Math.min(...tried.map((m) => m.misfit));
  const inflation = Math.max(1, best / Math.max(1, sums.count - 4));
  const usual = priorsOf(grid, tail);
  const logs = tried.map((m, i) => m.logEvidence / inflation + Math.log(usual[i]!));
  const top = Math.max(...logs);
  const raw = logs.map((l) => Math.exp(l - top));
  const total = raw.reduce((s, w) => s + w, 0);
  const models: Model[] = [];
  grid.candidates.forEach((candidate, i) => {
    const weight = raw[i]! / total;
    if (weight < 1e-4) return;
    const basis = basisOf(candidate);
    factorised(sums, basis, slowSd, SCRATCH);
    const mean = meanOf(SCRATCH, basis.length);
    // From "amplitude at the window's start" to "amplitude now".
    const scale = basis.map((k) => (k === 0 ? 1 : sums.atNow[k - 1]!));
    models.push({
      taus: basis.slice(1).map((k) => TAUS[k - 1]!),
      weight,
      mean: scale.map((v, k) => mean[k]! * v + (k === 0 ? sums.centre : 0)),
      covariance: covarianceOf(SCRATCH, scale, inflation),
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
  const w = [withLevel as number, 0, 0, 0];
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

/** How likely each candidate is beforehand: the kinds as above, among the slow ways as the family's tail says. */
function priorsOf({ candidates }: Grid, tail: Tail): readonly number[] {
  const known = PRIORS.get(candidates)?.get(tail);
  if (known) return known;
  const usual = ([, , slow]: Candidate) =>
    slow < 0 ? 1 : Math.exp(-0.5 * (Math.log(TAUS[slow]! / tail.seconds) / tail.spread) ** 2) + 1e-9;
  const kinds = [STILL_PRIOR, SINGLE_PRIOR, 1 - STILL_PRIOR - SINGLE_PRIOR];
  const kindOf = ([fast, , slow]: Candidate) => (fast < 0 ? 0 : slow < 0 ? 1 : 2);
  const totals = [0, 0, 0];
  for (const c of candidates) totals[kindOf(c)]! += usual(c);
  const priors = candidates.map((c) => (kinds[kindOf(c)]! * usual(c)) / totals[kindOf(c)]!);
  const of = PRIORS.get(candidates) ?? new WeakMap<Tail, readonly number[]>();
  PRIORS.set(candidates, of.set(tail, priors));
  return priors;
}

/** They are the same after every sample. */
const PRIORS = new WeakMap<readonly Candidate[], WeakMap<Tail, readonly number[]>>();
