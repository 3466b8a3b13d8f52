import { kelvin } from '../../quantities/temperature.ts';
import { valueAt, type Standard } from '../../solutions/standard.ts';
import { errorGradient, shownError, shownPh, type Coefficients } from './electrode.ts';
import { LOOP_THERMOMETER_C } from '../budget.ts';
import { modelOf } from '../sensor.ts';
import { PH } from './family.ts';
import type { Calibration, Covariance2 } from './fit.ts';

/** An error with its standard uncertainty, pH. */
export interface PhError {
  readonly error: number;
  readonly uncertainty: number;
}

/**
 * What the channel showed in a standard, against what it should have shown.
 *
 * @returns pH shown, pH of the standard at the cup's temperature, shown − standard
 * @example foundAt(at4, { zero: 0, sensitivity: 1 }).error
 */
export function foundAt(
  point: { readonly standard: Standard; readonly temperatureC: number; readonly signal: number },
  inForce: Coefficients,
): { readonly shown: number; readonly expected: number; readonly error: number } {
  const shown = shownPh(point.signal, point.temperatureC, inForce);
  const expected = valueAt(point.standard, point.temperatureC);
  return { shown, expected, error: shown - expected };
}

/**
 * Error that the channel shows at the loop's working value, with what the calibration leaves unknown.
 *
 * @param calibration what the electrode was found to be
 * @param inForce what the channel believed while it was measured
 * @param workingValue value at which the process runs
 * @param workingC temperature of the process, °C
 * @param calibrationC mean temperature of the cups, °C; the difference brings in the isopotential row
 * @returns shown − true, and its standard uncertainty, junction potential included
 */
export function workingError(
  calibration: Pick<Calibration, 'coefficients' | 'covariance'>,
  inForce: Coefficients,
  workingValue: number,
  workingC: number,
  calibrationC: number,
): PhError {
  const error = shownError(workingValue, workingC, calibration.coefficients, inForce);
  const rows = workingUncertaintyRows(calibration.covariance, inForce, workingValue, workingC, calibrationC);
  return { error, uncertainty: Math.sqrt(rows.reduce((s, r) => s + r.uncertainty ** 2, 0)) };
}

export interface UncertaintyRow {
  readonly name: string;
  /** standard uncertainty in pH at the working value */
  readonly uncertainty: number;
}

/**
 * The rows of that uncertainty, in pH at the working value; they add in squares.
 *
 * @see JCGM 100:2008, 5.1
 */
export function workingUncertaintyRows(
  covariance: Covariance2,
  inForce: Coefficients,
  workingValue: number,
  workingC: number,
  calibrationC: number,
): readonly UncertaintyRow[] {
  const g = errorGradient(workingValue, workingC, inForce);
  const variance =
    g.perZero ** 2 * covariance[0][0] +
    2 * g.perZero * g.perSensitivity * covariance[0][1] +
    g.perSensitivity ** 2 * covariance[1][1];
  const rest = modelOf(PH).workingRows({ value: workingValue, temperatureC: workingC, calibrationC });
  return [
    { name: 'standards, thermometer, settling', uncertainty: Math.sqrt(Math.max(0, variance)) },
    // A loop thermometer that is off changes k(T): by 1/T of what lies between the value and pH 7.
    {
      name: 'thermometer of the loop',
      uncertainty: (Math.abs(workingValue - 7) / kelvin(workingC)) * LOOP_THERMOMETER_C,
    },
    ...rest,
  ];
}
