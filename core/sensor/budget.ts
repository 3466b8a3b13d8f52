import { coverageFactor, effectiveFreedom } from '../statistics/coverage-factor.ts';
import type { Model, WorkingPoint } from './family.ts';
import type { SensorCalibration } from './fit.ts';
import { moveOf, unlessRefused } from './sources.ts';
import { shownValue, signalOf } from './sensor.ts';
import type { Coefficients } from './coefficients.ts';

/** Standard uncertainty of the thermometer that compensates the loop, °C. Common practice, no source. */
export const LOOP_THERMOMETER_C = 0.2;

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
 * @returns rows, combined and expanded uncertainty in the unit of the value
 * @throws Refusal when the working point lies outside the family's range
 * @see JCGM 100:2008, 5.1, F.1.2.3 (shared sources), G.4
 * @example budgetOf(modelOf(familyOf('ph')), phFit, { value: 8.2, temperatureC: 25, calibrationC: 25 }).coverageFactor // 2
 */
export function budgetOf(model: Model, calibration: SensorCalibration, at: WorkingPoint): Budget {
  const { coefficients, sources, inputs, refit } = calibration;
  const reported = reporter(model, coefficients, at);
  const rows: BudgetRow[] = sources.map((source) => {
    const d = moveOf(source, inputs, refit);
    const plus = reported({ zero: coefficients.zero + d.zero, sensitivity: coefficients.sensitivity + d.sensitivity });
    const minus = reported({ zero: coefficients.zero - d.zero, sensitivity: coefficients.sensitivity - d.sensitivity });
    const change = (plus - minus) / 2;
    return {
      name: source.name,
      uncertainty: source.uncertainty,
      unit: source.unit,
      distribution: source.distribution,
      degreesOfFreedom: source.degreesOfFreedom,
      sensitivity: change / source.uncertainty,
      contribution: Math.abs(change),
    };
  });
  const here = reported(coefficients);
  const warm = unlessRefused(() => reported(coefficients, LOOP_THERMOMETER_C));
  const cold = unlessRefused(() => reported(coefficients, -LOOP_THERMOMETER_C));
  const thermometer = ((warm ?? here) - (cold ?? here)) / (warm !== null && cold !== null ? 2 : 1);
  if (thermometer !== 0) {
    rows.push({
      name: 'thermometer of the loop',
      uncertainty: LOOP_THERMOMETER_C,
      unit: '°C',
      distribution: 'normal',
      degreesOfFreedom: Infinity,
      sensitivity: thermometer / LOOP_THERMOMETER_C,
      contribution: Math.abs(thermometer),
    });
  }
  for (const row of model.workingRows(at)) {
    if (!(row.uncertainty > 0)) continue;
    rows.push({
      name: row.name,
      uncertainty: row.uncertainty,
      unit: model.valueUnit,
      distribution: 'normal',
      degreesOfFreedom: Infinity,
      sensitivity: 1,
      contribution: row.uncertainty,
    });
  }
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

/** What a channel with these coefficients reports at the working point, its thermometer off by so much. */
export function reporter(
  model: Model,
  truth: Coefficients,
  at: WorkingPoint,
): (coefficients: Coefficients, thermometerOff?: number) => number {
  const signal = signalOf(model, at.value, at, truth);
  return (coefficients, thermometerOff = 0) =>
    shownValue(model, signal, { ...at, temperatureC: at.temperatureC + thermometerOff }, coefficients);
}
