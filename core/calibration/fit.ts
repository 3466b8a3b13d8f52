import type { Coefficients } from '../sensor/coefficients.ts';
import type { NoCalibration, SensorCalibration } from '../sensor/calibration.ts';
import { fitSensor } from '../sensor/fit.ts';
import { expectedIn } from '../sensor/sensor.ts';
import type { Covariance2 } from '../sensor/working-error.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan } from './plan.ts';
import type { StandardPoint } from '../sensor/standard-point.ts';

/** What a run found its sensor to be. */
export interface Calibration {
  readonly ok: true;
  readonly coefficients: Coefficients;
  readonly covariance: Covariance2;
  /** measured − fitted at each point, in the unit of the signal; zeros for as many points as unknowns */
  readonly residuals: readonly number[];
  readonly chiSquare: number;
  readonly degreesOfFreedom: number;
  /** the whole of it, sources of uncertainty included: what the budget is made from */
  readonly whole: SensorCalibration;
}

export type CalibrationResult = Calibration | NoCalibration;

/**
 * Zero and sensitivity from the measured standards of a run, whatever its family. What the standards do not determine
 * keeps the value in force, with what the history leaves unknown of it.
 *
 * @param heldSd how uncertain what is held is taken to be, in its own unit; the history's word by default
 * @returns coefficients and covariance, or a typed reason; never NaN
 * @throws Refusal `standard-outside-table`, and what the family refuses
 */
export function calibrationOf(
  plan: Pick<RunPlan, 'family' | 'settings' | 'inForce' | 'expected' | 'points' | 'workingC'>,
  points: readonly StandardPoint[],
  heldSd?: number,
): CalibrationResult {
  const { family, model } = familyOfPlan(plan);
  const held = plan.inForce;
  // What the whole plan determines decides: the first of two standards alone is no calibration yet.
  const planned = plan.points.map(({ standard }) => expectedIn(model, { standard, temperatureC: standard.nominalAtC }));
  const free = family.frees(planned.sort((a, b) => a - b));
  // One of the two is held where the standards say nothing of it: as uncertain as the history leaves it.
  const { zeroSd, sensitivitySd } = plan.expected;
  const heldUncertainty = free === 'both' ? 0 : (heldSd ?? { zero: sensitivitySd, sensitivity: zeroSd }[free]);
  // Where further points stand near the water, what holds there has sources of its own: those of all points.
  const whole =
    family.atWork(model, points, plan.workingC) ?? fitSensor(family, model, points, { held, free, heldUncertainty });
  if (!whole.ok) return whole;
  const { coefficients, covariance, residuals, chiSquare, degreesOfFreedom } = whole;
  const { zero, sensitivity } = coefficients;
  return { ok: true, coefficients: { zero, sensitivity }, covariance, residuals, chiSquare, degreesOfFreedom, whole };
}
