import { coverageFactor, effectiveFreedom } from '../statistics/coverage-factor.ts';
import type { Model, WorkingPoint } from './family.ts';
import type { SensorCalibration } from './calibration.ts';
import { errorRowsOf } from './rows.ts';
import { shownValue, signalOf } from './sensor.ts';
import type { Coefficients } from './coefficients.ts';

/** One line of the budget. */
export interface BudgetRow {
  readonly name: string;
  /** one standard uncertainty of the source, in its own unit */
  readonly uncertainty: number;
  readonly unit: string;
  readonly distribution: 'normal' | 'rectangular';
  readonly degreesOfFreedom: number;
  /** what one unit of the source does to the reported value */
  readonly sensitivity: number;
  /** size of the product, in the unit of the value */
  readonly contribution: number;
}

/** The uncertainty of the value that the sensor will report at its working point after this calibration. */
export interface Budget {
  readonly unit: string;
  /** largest contribution first; independent of each other, so that they add in squares */
  readonly rows: readonly BudgetRow[];
  /** combined standard uncertainty */
  readonly combined: number;
  readonly effectiveFreedom: number;
  readonly coverageFactor: number;
  /** combined × coverage factor: covers about 95 % */
  readonly expanded: number;
}

/**
 * GUM budget of a calibration at the loop's working point.
 *
 * Every row is a source of its own. What two standards share (a lot, the thermometer in the cup) is one source that
 * moves both, so the correlation needs no term of its own.
 *
 * @param inForce what the channel reckons with: the calibration's own coefficients, or those before it, for the error as found
 * @returns rows, combined and expanded uncertainty in the unit of the value
 * @throws Refusal when the working point lies outside the family's range
 * @see JCGM 100:2008, 5.1, F.1.2.3 (shared sources), G.4
 * @example budgetOf(modelOf(familyOf('ph')), phFit, { value: 8.2, temperatureC: 25, calibrationC: 25 }).coverageFactor // 2
 */
export function budgetOf(
  model: Model,
  calibration: SensorCalibration,
  at: WorkingPoint,
  inForce: Coefficients = calibration.coefficients,
): Budget {
  // What does nothing here, as a thermometer beside a platinum, is no row.
  const made = errorRowsOf(model, calibration, inForce, at).filter((r) => r.change !== 0);
  const rows = made.map(({ change, ...row }): BudgetRow => ({
    ...row,
    sensitivity: change / row.uncertainty,
    contribution: Math.abs(change),
  }));
  rows.sort((a, b) => b.contribution - a.contribution);
  const combined = Math.hypot(...rows.map((r) => r.contribution));
  const freedom = effectiveFreedom(
    rows.map((r) => ({ uncertainty: r.contribution, degreesOfFreedom: r.degreesOfFreedom })),
  );
  const k = coverageFactor(freedom);
  return {
    unit: model.valueUnit,
    rows,
    combined,
    effectiveFreedom: freedom,
    coverageFactor: k,
    expanded: k * combined,
  };
}

/** What a channel with these coefficients reports at the working point, its thermometer and its signal off by so much. */
export function reporter(
  model: Model,
  truth: Coefficients,
  at: WorkingPoint,
): (coefficients: Coefficients, thermometerOff?: number, signalOff?: number) => number {
  const signal = signalOf(model, at.value, at, truth);
  return (coefficients, thermometerOff = 0, signalOff = 0) =>
    shownValue(model, signal + signalOff, { ...at, temperatureC: at.temperatureC + thermometerOff }, coefficients);
}
