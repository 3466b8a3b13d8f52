import { coverageFactor, effectiveFreedom } from '../statistics/coverage-factor.ts';
import type { Model, WorkingPoint } from './family.ts';
import type { SensorCalibration } from './calibration.ts';
import { combinedOf, errorRowsOf } from './rows.ts';
import { shownErrorOf } from './shown-error.ts';
import { unlessRefused } from './sources.ts';
import type { Coefficients } from './coefficients.ts';

/** An error with its standard uncertainty, in the unit of the value. */
export interface ValueError {
  readonly error: number;
  readonly uncertainty: number;
  /** what makes about 95 % of it; absent in records of before: 2 */
  readonly coverageFactor?: number;
}

/** 2×2 covariance in the order zero, sensitivity. */
export type Covariance2 = readonly [readonly [number, number], readonly [number, number]];

/** Steps of the derivatives: far below anything that is measured, far above rounding. */
const ZERO_STEP = 1e-4;
const SENSITIVITY_STEP = 1e-6;

/**
 * How the shown error answers to the sensor's zero and sensitivity, about what the sensor was found to be.
 *
 * @returns value a unit of zero, and value a unit of sensitivity
 */
export function errorGradientOf(
  model: Model,
  at: Pick<WorkingPoint, 'value' | 'temperatureC'>,
  actual: Coefficients,
  inForce: Coefficients,
): { readonly perZero: number; readonly perSensitivity: number } {
  const off = (zero: number, sensitivity: number) =>
    shownErrorOf(
      model,
      at,
      { ...actual, zero: actual.zero + zero, sensitivity: actual.sensitivity + sensitivity },
      inForce,
    );
  // A step of the signal's own size: a thousandth of a millivolt, or of what a cell gives here.
  const size = Math.max(1, Math.abs(model.ideal(at.value, at))) * ZERO_STEP;
  return {
    perZero: (off(size, 0) - off(-size, 0)) / (2 * size),
    perSensitivity: (off(0, SENSITIVITY_STEP) - off(0, -SENSITIVITY_STEP)) / (2 * SENSITIVITY_STEP),
  };
}

/** How the shown error follows from zero and sensitivity about what a sensor is. */
export interface ErrorHere {
  readonly error: number;
  readonly perZero: number;
  readonly perSensitivity: number;
}

/**
 * The shown error and its slopes, for a sensor however wrong it is: exact, or on the straight line about what the channel
 * believes where what it would show has left the family's scale (a salinity of 43, say) and there is no exact answer.
 *
 * @example errorHere(modelOf(familyOf('ph')), { value: 4, temperatureC: 25 }, { zero: -5, sensitivity: 0.95 }, IDEAL_SENSOR).error // 0.2345
 */
export function errorHere(
  model: Model,
  at: Pick<WorkingPoint, 'value' | 'temperatureC'>,
  actual: Coefficients,
  inForce: Coefficients,
): ErrorHere {
  const exact = unlessRefused(() => ({
    error: shownErrorOf(model, at, actual, inForce),
    ...errorGradientOf(model, at, actual, inForce),
  }));
  if (exact) return exact;
  const line = errorGradientOf(model, at, inForce, inForce);
  const error =
    line.perZero * (actual.zero - inForce.zero) + line.perSensitivity * (actual.sensitivity - inForce.sensitivity);
  return { error, ...line };
}

/**
 * Error that the channel shows at the loop's working value, with every row of what is not known of it.
 *
 * @param found what the sensor was found to be, with its sources of uncertainty
 * @param inForce what the channel believed while it was measured
 * @see JCGM 100:2008, 5.1 and G.4
 */
export function workingErrorOf(
  model: Model,
  found: SensorCalibration,
  inForce: Coefficients,
  at: WorkingPoint,
): ValueError {
  const rows = errorRowsOf(model, found, inForce, at);
  const degreesOfFreedom = effectiveFreedom(
    rows.map((r) => ({ uncertainty: Math.abs(r.change), degreesOfFreedom: r.degreesOfFreedom })),
  );
  return {
    error: shownErrorOf(model, at, found.coefficients, inForce),
    uncertainty: combinedOf(rows),
    coverageFactor: coverageFactor(degreesOfFreedom),
  };
}

/**
 * Half width of the interval that covers an error in about 95 % of all cases, in its unit.
 *
 * @example expandedOf({ error: 0, uncertainty: 0.1 }) // 0.2
 * @example expandedOf({ error: 0, uncertainty: 0.1, coverageFactor: 2.28 }) // 0.228
 */
export const expandedOf = ({ uncertainty, coverageFactor: k = 2 }: ValueError): number => k * uncertainty;
