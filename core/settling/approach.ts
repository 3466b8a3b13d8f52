import { binned, type Sample } from './trace.ts';
import { chancesOf } from '../statistics/chances.ts';
import { noiseSd } from '../statistics/robust.ts';
import { basisOf, covarianceOf, factorised, gather, meanOf, SCRATCH, type Sums } from './regression.ts';
import { ANY_TAIL, FINE, priorsOf, TAUS, type Grid, type Tail } from './ways.ts';

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

const MIN_SAMPLES = 6;

/** A tail that does not come from the step that was seen, mV: the probe came from somewhere before that. */
const HIDDEN_MV = 0.5;

/** The step that a trace follows: how far it went, and when it began. */
interface Origin {
  readonly t: number;
  readonly range: number;
}
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
  if (samples.length < MIN_SAMPLES) return null;
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
  const { chances } = chancesOf(logs);
  const models: Model[] = [];
  grid.candidates.forEach((candidate, i) => {
    const weight = chances[i]!;
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
function toComeAt(approach: Approach, ahead: number): { mean: number; sd: number } {
  const { mean, sd } = mixture(approach.models, 0, (tau) => -Math.exp(-ahead / tau));
  return { mean, sd: Math.hypot(sd, EXTRAPOLATION * mean) };
}

/** Final value of the approach, mV: where the signal will stand, and how well that is known. */
export function finalValue(approach: Approach): { mean: number; sd: number } {
  const { mean, sd } = mixture(approach.models, 1, () => 0);
  return { mean, sd: Math.hypot(sd, EXTRAPOLATION * approach.stillToCome, approach.grain) };
}
