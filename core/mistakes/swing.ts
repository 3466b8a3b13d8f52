import type { Sample } from '../settling/trace.ts';
import { noiseSd } from '../statistics/robust.ts';
import { binned } from '../settling/trace.ts';

/** A steady beat in a trace. */
export interface Swing {
  /** half of its height, in steps */
  readonly amplitude: number;
  readonly periodSeconds: number;
  /** share of what moves that it explains, 0 to 1 */
  readonly share: number;
}

/** The swirl at the beginning is no beat, s. */
const SKIPPED_S = 15;
const WINDOW_S = 120;
const MAX_BINS = 120;
const MIN_BINS = 24;
/** What is left beside a beat is noise: it explains at least this share of what it would then explain. */
const ALL_BUT_NOISE = 0.85;
/** Fewer than this many times to and fro is a tail that bends. */
const MIN_CYCLES = 2.5;
const CUBIC = 3;

/**
 * The strongest steady beat of a trace, after a cubic is taken out: mains that the sampling folds down swings slowly.
 *
 * @param step what counts, in the unit of the signal
 * @returns null for too short a trace
 */
export function swingOf(samples: readonly Sample[], step: number): Swing | null {
  const end = samples.at(-1)?.t ?? 0;
  const from = Math.max((samples[0]?.t ?? 0) + SKIPPED_S, end - WINDOW_S);
  const bins = binned(
    samples.filter((s) => s.t >= from),
    MAX_BINS,
  );
  if (bins.length < MIN_BINS) return null;
  const span = bins.at(-1)!.t - bins[0]!.t;
  const x = bins.map((b) => (2 * (b.t - bins[0]!.t)) / span - 1);
  const rest = withoutCubic(
    x,
    bins.map((b) => b.value / step),
  );
  const power = rest.reduce((sum, r) => sum + r * r, 0);
  let best = { share: 0, cycles: 0, amplitude: 0 };
  for (let cycles = MIN_CYCLES; cycles <= bins.length / 2; cycles += 0.25) {
    let c = 0;
    let s = 0;
    for (let i = 0; i < x.length; i++) {
      const phase = Math.PI * cycles * x[i]!;
      c += rest[i]! * Math.cos(phase);
      s += rest[i]! * Math.sin(phase);
    }
    const explained = (2 * (c * c + s * s)) / bins.length;
    if (explained > best.share * power)
      best = { share: explained / power, cycles, amplitude: (2 * Math.hypot(c, s)) / bins.length };
  }
  // The probe went from its cup to the rinse and back: that leaves far more beside its beat than the noise between neighbours.
  const noise = noiseSd(rest);
  const would = best.amplitude ** 2 / (best.amplitude ** 2 + 2 * noise ** 2);
  if (best.share < ALL_BUT_NOISE * would) return null;
  return { amplitude: best.amplitude, periodSeconds: span / best.cycles, share: Math.min(1, best.share) };
}

/** What is left after the best cubic, by Legendre polynomials made orthogonal on these points. */
function withoutCubic(x: readonly number[], y: readonly number[]): number[] {
  const made: number[][] = [];
  let rest = [...y];
  for (let power = 0; power <= CUBIC; power++) {
    let basis = x.map((v) => v ** power);
    for (const other of made) {
      const share = dot(basis, other);
      basis = basis.map((b, i) => b - share * other[i]!);
    }
    const size = Math.sqrt(dot(basis, basis)) || 1;
    basis = basis.map((b) => b / size);
    made.push(basis);
    const share = dot(rest, basis);
    rest = rest.map((r, i) => r - share * basis[i]!);
  }
  return rest;
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i]!, 0);
