import { inverseOfCovariance } from '../statistics/inverse.ts';
import type { Free, NoFit, SensorCalibration } from './calibration.ts';
import type { Family, Model } from './family.ts';
import { type Coefficients, IDEAL_SENSOR } from './coefficients.ts';
import { temperatureSlope, valueAt, type Standard } from '../solutions/standard.ts';
import { expectedIn } from './sensor.ts';
import type { FitInputs, Source } from './calibration.ts';
import { moveOf, sourcesOf, unlessRefused } from './sources.ts';
import type { StandardPoint } from './standard-point.ts';

/** Inverse covariance of the residuals. */
type Weight = readonly (readonly number[])[];

export interface FitOptions {
  /** which coefficients to find; what the family makes of its standards when absent */
  readonly free?: Free;
  /** the parameter that is not found keeps this value */
  readonly held?: Coefficients;
  /** standard uncertainty of the held parameter, in its unit */
  readonly heldUncertainty?: number;
}

/**
 * Zero and sensitivity of a sensor from its standards, by generalised least squares on the input uncertainties.
 *
 * With two standards there is no residual, with three one degree of freedom: nothing is estimated from residuals. Lots
 * are independent of each other, points of one lot share its error, and the thermometer in the cup is common to all.
 *
 * @returns the calibration with its sources of uncertainty, or a typed reason; never NaN
 * @throws Refusal `standard-outside-table`, and what the family refuses
 * @see JCGM 100:2008, 5.1 and F.1.2; Gauss-Markov for the weights
 * @example fitSensor(familyOf('ph'), modelOf(familyOf('ph')), [atSeven, atTen]).coefficients // { sensitivity: 0.9468 }
 */
export function fitSensor(
  family: Family,
  model: Model,
  points: readonly StandardPoint[],
  options: FitOptions = {},
): SensorCalibration | NoFit {
  const values = points.map((p) => expectedIn(model, p));
  const rising = [...values].sort((a, b) => a - b);
  const free = options.free ?? family.frees(rising);
  const no = countTrouble(family, points.length, free) ?? closeTrouble(family, rising, free);
  if (no) return no;
  const inputs = inputsOf(points, options.held);
  const sources = sourcesOf(model, points, free, options.heldUncertainty ?? 0);
  const residualsOf = (i: FitInputs, at: Coefficients) => {
    const ideal = idealsOf(model, points, i);
    return i.signals.map((s, k) => s - model.origin - at.zero - at.sensitivity * ideal[k]!);
  };
  const refitBy =
    (w: Weight) =>
    (i: FitInputs): Coefficients =>
      solve(idealsOf(model, points, i), i, model.origin, free, w);
  const weightAt = (at: Coefficients) => weightsOf(points, sources, inputs, (i) => residualsOf(i, at));
  // What an error in a standard's value does to the signal depends on the sensitivity: found first, then weighed with.
  const first = refitBy(weightAt(inputs.held))(inputs);
  if (!Number.isFinite(first.zero) || !Number.isFinite(first.sensitivity)) {
    const what = free === 'sensitivity' ? 'standards that should read 0' : 'standards that read alike';
    const message = `A sensitivity cannot be had from ${what}. Use one near the working value.`;
    return { ok: false, reason: 'standards-not-distinct', message };
  }
  const weight = weightAt(first);
  const refit = refitBy(weight);
  const coefficients = refit(inputs);
  const residuals = residualsOf(inputs, coefficients);
  let chiSquare = 0;
  residuals.forEach((r, a) => residuals.forEach((q, b) => (chiSquare += r * q * weight[a]![b]!)));
  return {
    ok: true,
    free,
    coefficients,
    covariance: covarianceOf(sources, inputs, refit),
    residuals,
    chiSquare: Math.max(0, chiSquare),
    degreesOfFreedom: points.length - (free === 'both' ? 2 : 1),
    sources,
    refit,
    inputs,
  };
}

/** What a fit of these points starts from. */
export const inputsOf = (points: readonly StandardPoint[], held: Coefficients = IDEAL_SENSOR): FitInputs => ({
  signals: points.map((p) => p.signal),
  temperaturesC: points.map((p) => p.temperatureC),
  shifts: points.map(() => 0),
  held,
});

/** A calibration that has as many unknowns as points, in whatever way they follow: nothing is left over at any point. */
export function determined(
  sources: readonly Source[],
  inputs: FitInputs,
  refit: (i: FitInputs) => Coefficients,
): SensorCalibration {
  return {
    ok: true,
    free: 'both',
    coefficients: refit(inputs),
    covariance: covarianceOf(sources, inputs, refit),
    residuals: inputs.signals.map(() => 0),
    chiSquare: 0,
    degreesOfFreedom: 0,
    sources,
    refit,
    inputs,
  };
}

function countTrouble(family: Family, count: number, free: Free): NoFit | null {
  const { least, most } = family.points;
  if (count > most) {
    return {
      ok: false,
      reason: 'too-many-standards',
      message: `${count} standards were captured; ${family.name} takes at most ${most}. Leave out the ones you trust least.`,
    };
  }
  const needed = Math.max(least, free === 'both' ? 2 : 1);
  if (count >= needed) return null;
  const lines = free === 'both' ? 'a slope needs two' : `${family.name} needs ${needed}`;
  return {
    ok: false,
    reason: 'too-few-standards',
    message: `${count} standard captured; ${lines}. Capture another standard.`,
  };
}

function closeTrouble(family: Family, rising: readonly number[], free: Free): NoFit | null {
  const message = free === 'both' ? family.tooClose(rising) : null;
  return message === null ? null : { ok: false, reason: 'standards-not-distinct', message };
}

/** Response of the ideal sensor in each point, from inputs that may be moved. */
export function idealsOf(model: Model, points: readonly StandardPoint[], inputs: FitInputs): number[] {
  return points.map((p, k) => {
    const temperatureC = inputs.temperaturesC[k]!;
    const value = valueNear(p.standard, p.temperatureC, temperatureC) + inputs.shifts[k]!;
    const at = { ...p, temperatureC };
    return model.ideal(model.shows(p.standard, value, at), at);
  });
}

/**
 * Value of a standard when the cup's thermometer is off. What is measured must lie inside the table, and `expectedIn`
 * refuses otherwise; its ± may reach a little beyond, and follows the table's last slope there.
 */
function valueNear(standard: Standard, measuredC: number, temperatureC: number): number {
  const inside = temperatureC >= standard.table[0]![0] && temperatureC <= standard.table.at(-1)![0];
  if (inside) return valueAt(standard, temperatureC);
  return valueAt(standard, measuredC) + temperatureSlope(standard, measuredC) * (temperatureC - measuredC);
}

/** Inverse of the covariance that the sources give the residuals. */
function weightsOf(
  points: readonly StandardPoint[],
  sources: readonly Source[],
  inputs: FitInputs,
  residuals: (i: FitInputs) => readonly number[],
): Weight {
  const base = residuals(inputs);
  const shifts = sources.map((s) => {
    const moved =
      unlessRefused(() => residuals(s.move(inputs, s.uncertainty))) ??
      unlessRefused(() => residuals(s.move(inputs, -s.uncertainty))) ??
      base;
    return moved.map((r, k) => r - base[k]!);
  });
  // Inputs without any uncertainty would make the matrix singular: a trace of noise keeps it regular.
  const floor = points.map((p) => (1e-7 * Math.max(1, Math.abs(p.signal))) ** 2);
  const v = base.map((_, a) =>
    base.map((_, b) => shifts.reduce((sum, s) => sum + s[a]! * s[b]!, a === b ? floor[a]! : 0)),
  );
  return inverseOfCovariance(v);
}

/** Weighted least squares for one or two unknowns. */
function solve(
  ideal: readonly number[],
  { signals, held }: FitInputs,
  origin: number,
  free: Free,
  w: Weight,
): Coefficients {
  let s00 = 0;
  let s01 = 0;
  let s11 = 0;
  let r0 = 0;
  let r1 = 0;
  for (let a = 0; a < ideal.length; a++) {
    for (let b = 0; b < ideal.length; b++) {
      const weight = w[a]![b]!;
      // With one of them held, its share is taken off the signal first.
      const rest =
        signals[b]! -
        origin -
        (free === 'sensitivity' ? held.zero : 0) -
        (free === 'zero' ? held.sensitivity * ideal[b]! : 0);
      s00 += weight;
      s01 += weight * ideal[b]!;
      s11 += ideal[a]! * weight * ideal[b]!;
      r0 += weight * rest;
      r1 += ideal[a]! * weight * rest;
    }
  }
  if (free === 'zero') return { zero: r0 / s00, sensitivity: held.sensitivity };
  if (free === 'sensitivity') return { zero: held.zero, sensitivity: r1 / s11 };
  const determinant = s00 * s11 - s01 * s01;
  return { zero: (s11 * r0 - s01 * r1) / determinant, sensitivity: (s00 * r1 - s01 * r0) / determinant };
}

function covarianceOf(
  sources: readonly Source[],
  inputs: FitInputs,
  refit: (i: FitInputs) => Coefficients,
): SensorCalibration['covariance'] {
  let zz = 0;
  let zs = 0;
  let ss = 0;
  for (const source of sources) {
    const d = moveOf(source, inputs, refit);
    zz += d.zero * d.zero;
    zs += d.zero * d.sensitivity;
    ss += d.sensitivity * d.sensitivity;
  }
  return [
    [zz, zs],
    [zs, ss],
  ];
}
