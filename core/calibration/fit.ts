import type { Coefficients } from '../families/ph/electrode.ts';
import { fitSensor, type NoCalibration, type SensorCalibration } from '../families/fit.ts';
import { expectedIn, type StandardPoint } from '../families/sensor.ts';
import type { Covariance2 } from '../families/working-error.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan } from './plan.ts';

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
 * @returns coefficients and covariance, or a typed reason; never NaN
 * @throws Refusal `standard-outside-table`, and what the family refuses
 */
export function calibrationOf(
  plan: Pick<RunPlan, 'family' | 'settings' | 'inForce' | 'expected' | 'points'>,
  points: readonly StandardPoint[],
): CalibrationResult {
  const { family, model } = familyOfPlan(plan);
  const held = plan.inForce;
  // What the whole plan determines decides: the first of two standards alone is no calibration yet.
  const planned = plan.points.map(({ standard }) => expectedIn(model, { standard, temperatureC: standard.nominalAtC }));
  const free = family.frees(planned.sort((a, b) => a - b));
  // One of the two is held where the standards say nothing of it: as uncertain as the history leaves it.
  const { zeroSd, sensitivitySd } = plan.expected;
  const heldUncertainty = { both: 0, zero: sensitivitySd, sensitivity: zeroSd }[free];
  const whole = fitSensor(family, model, points, { held, free, heldUncertainty });
  if (!whole.ok) return whole;
  const { parameters, covariance, residuals, chiSquare, degreesOfFreedom } = whole;
  return {
    ok: true,
    coefficients: { zero: parameters.zero, sensitivity: parameters.sensitivity },
    covariance,
    residuals,
    chiSquare,
    degreesOfFreedom,
    whole,
  };
}
