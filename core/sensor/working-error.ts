import type { Model, WorkingPoint } from './family.ts';
import { LOOP_THERMOMETER_C } from './budget.ts';
import { shownValue, signalOf } from './sensor.ts';
import { unlessRefused } from './sources.ts';
import type { Coefficients } from './coefficients.ts';

/** An error with its standard uncertainty, in the unit of the value. */
export interface ValueError {
  readonly error: number;
  readonly uncertainty: number;
}

/** 2×2 covariance in the order zero, sensitivity. */
export type Covariance2 = readonly [readonly [number, number], readonly [number, number]];

/** Steps of the derivatives: far below anything that is measured, far above rounding. */
const ZERO_STEP = 1e-4;
const SENSITIVITY_STEP = 1e-6;

/**
 * What a channel shows at a working point when the sensor is `actual` and the channel believes `inForce`, less what is.
 *
 * @throws Refusal as `signalOf` and `shownValue`
 * @example shownErrorOf(modelOf(familyOf('ph')), { value: 4, temperatureC: 25 }, { zero: -5, sensitivity: 0.95 }, IDEAL_SENSOR) // 0.2345
 */
export function shownErrorOf(
  model: Model,
  at: Pick<WorkingPoint, 'value' | 'temperatureC'>,
  actual: Coefficients,
  inForce: Coefficients,
): number {
  const signal = signalOf(model, at.value, at, actual);
  return shownValue(model, signal, at, inForce) - at.value;
}

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
 * Error that the channel shows at the loop's working value, with what the calibration leaves unknown.
 *
 * @param found what the sensor was found to be, with its covariance
 * @param inForce what the channel believed while it was measured
 * @see JCGM 100:2008, 5.1
 */
export function workingErrorOf(
  model: Model,
  found: { readonly coefficients: Coefficients; readonly covariance: Covariance2 },
  inForce: Coefficients,
  at: WorkingPoint,
): ValueError {
  const { coefficients, covariance } = found;
  const g = errorGradientOf(model, at, coefficients, inForce);
  const own =
    g.perZero ** 2 * covariance[0][0] +
    2 * g.perZero * g.perSensitivity * covariance[0][1] +
    g.perSensitivity ** 2 * covariance[1][1];
  const signal = signalOf(model, at.value, at, coefficients);
  const shown = (off: number) =>
    unlessRefused(() => shownValue(model, signal, { ...at, temperatureC: at.temperatureC + off }, inForce));
  const [warm, cold] = [shown(LOOP_THERMOMETER_C), shown(-LOOP_THERMOMETER_C)];
  const thermometer = warm !== null && cold !== null ? (warm - cold) / 2 : 0;
  const rest = model.workingRows(at).map((r) => r.uncertainty);
  return {
    error: shownErrorOf(model, at, coefficients, inForce),
    uncertainty: Math.hypot(Math.sqrt(Math.max(0, own)), thermometer, ...rest),
  };
}
