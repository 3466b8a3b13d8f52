import { seededChance } from '../statistics/chance.ts';
import { Refusal } from '../quantities/refusal.ts';
import { reporter } from './budget.ts';
import type { Coefficients } from './coefficients.ts';
import type { Model, WorkingPoint } from './family.ts';
import type { SensorCalibration } from './calibration.ts';
import type { FitInputs } from './calibration.ts';
import { LOOP_THERMOMETER_C, unlessRefused } from './sources.ts';

/** What many draws of the inputs make of the reported value. */
export interface MonteCarlo {
  readonly draws: number;
  /** draws that gave no value at all, as when a sensitivity was drawn to nothing */
  readonly failed: number;
  readonly mean: number;
  /** standard deviation of the reported value: the twin of the budget's combined uncertainty */
  readonly standardUncertainty: number;
  /** the 2.5 % and 97.5 % points of the draws */
  readonly low: number;
  readonly high: number;
  /** counts over equal bins from `low` bin edge to high one, for a picture */
  readonly histogram: { readonly from: number; readonly width: number; readonly counts: readonly number[] };
}

const MAX_DRAWS = 1_000_000;
const BINS = 41;

/**
 * The Monte Carlo twin of `budgetOf`: draws every source, fits again without linearising, reports again.
 *
 * @param draws 1000 to 1 000 000
 * @param seed the same seed gives the same result
 * @param inForce where the error as found is asked for: the channel reckons with these, and what is drawn is the sensor
 * @param progress told the share that is done, 0 to 1, about fifty times
 * @throws Refusal `too-many-draws`, `too-few-draws`
 * @see JCGM 101:2008, propagation of distributions
 * @example simulateBudget(modelOf(familyOf('ph')), phFit, { value: 8.2, temperatureC: 25, calibrationC: 25 }, 2000, 1).draws // 2000
 */
export function simulateBudget(
  model: Model,
  calibration: SensorCalibration,
  at: WorkingPoint,
  draws: number,
  seed: number,
  progress?: (share: number) => void,
  inForce?: Coefficients,
): MonteCarlo {
  if (!(draws >= 1000 && draws <= MAX_DRAWS && Number.isInteger(draws))) {
    throw new Refusal(
      draws > MAX_DRAWS ? 'too-many-draws' : 'too-few-draws',
      `${draws} draws are outside 1000 to ${MAX_DRAWS}. A hundred thousand show the second digit of the ±.`,
      { value: Number.isFinite(draws) ? draws : null, low: 1000, high: MAX_DRAWS },
    );
  }
  const chance = seededChance(seed);
  const { coefficients, sources, inputs, refit } = calibration;
  const reported = reporter(model, coefficients, at);
  const working = model.workingRows(at).filter((r) => r.uncertainty > 0 && !r.ofSignal);
  const ofSignal = model.workingRows(at).filter((r) => r.uncertainty > 0 && r.ofSignal);
  const values = new Float64Array(draws);
  let kept = 0;
  const report = Math.ceil(draws / 50);
  for (let n = 0; n < draws; n++) {
    let drawn: FitInputs = inputs;
    let thermometer: number | null = null;
    // What is put in too high is, seen from the sensor, too low.
    const way = inForce ? -1 : 1;
    for (const s of sources) {
      const off = (s.distribution === 'normal' ? chance.normal() : chance.rectangular()) * s.uncertainty;
      drawn = s.move(drawn, way * off);
      // The thermometer that stood in the cups is off by as much at work.
      if (s.ofLoop) thermometer = off;
    }
    thermometer ??= LOOP_THERMOMETER_C * chance.normal();
    let rest = 0;
    for (const row of working) rest += row.uncertainty * chance.normal();
    let more = 0;
    for (const row of ofSignal) more += row.uncertainty * chance.normal();
    // A draw at the far end may leave a table or a scale: it is counted, not hidden.
    const warm = thermometer;
    const value = unlessRefused(() =>
      inForce ? reporter(model, refit(drawn), at)(inForce, warm, more) : reported(refit(drawn), warm, more),
    );
    if (value !== null && Number.isFinite(value)) values[kept++] = value + rest;
    if (progress && n % report === 0) progress(n / draws);
  }
  progress?.(1);
  return summary(values.subarray(0, kept), draws);
}

function summary(values: Float64Array, draws: number): MonteCarlo {
  if (values.length < 2) {
    throw new Refusal(
      'no-draw-succeeded',
      'No draw gave a value: the sources are too wide for this sensor. Check them.',
    );
  }
  values.sort();
  // Centred on the median, so that large values with a small spread lose no digits.
  const centre = values[values.length >> 1]!;
  let sum = 0;
  let squares = 0;
  for (const v of values) {
    sum += v - centre;
    squares += (v - centre) ** 2;
  }
  const n = values.length;
  const variance = Math.max(0, (squares - (sum * sum) / n) / (n - 1));
  const point = (share: number) => values[Math.min(n - 1, Math.floor(share * n))]!;
  const from = point(0.001);
  const width = Math.max((point(0.999) - from) / BINS, Number.MIN_VALUE);
  const counts = new Array<number>(BINS).fill(0);
  for (const v of values) {
    const bin = Math.floor((v - from) / width);
    if (bin >= 0 && bin < BINS) counts[bin]!++;
  }
  return {
    draws,
    failed: draws - n,
    mean: centre + sum / n,
    standardUncertainty: Math.sqrt(variance),
    low: point(0.025),
    high: point(0.975),
    histogram: { from, width, counts },
  };
}
