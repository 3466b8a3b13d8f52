import type { Standard } from '../../solutions/standard.ts';
import { fitSensor, type NoCalibration, type SensorCalibration } from '../fit.ts';
import { modelOf, type StandardPoint } from '../sensor.ts';
import type { Coefficients } from './electrode.ts';
import { PH } from './family.ts';

/** One capture as the fit sees it: a potential in a known standard. */
export interface CalibrationPoint {
  readonly standard: Standard;
  /** id of the lot; two points from one lot share its error. '' = not noted */
  readonly lotId: string;
  readonly temperatureC: number;
  readonly signal: number;
  /** standard uncertainty of the potential: settling, repeatability, resolution, mV */
  readonly signalUncertainty: number;
}

/** 2×2 covariance in the order zero (mV), slope (fraction). */
export type Covariance2 = readonly [readonly [number, number], readonly [number, number]];

export interface Calibration {
  readonly ok: true;
  readonly coefficients: Coefficients;
  readonly covariance: Covariance2;
  /** measured − fitted at each point, mV; zeros for two points */
  readonly residuals: readonly number[];
  readonly chiSquare: number;
  readonly degreesOfFreedom: number;
}

export type CalibrationResult = Calibration | NoCalibration;

/** A pH capture as every family's arithmetic takes it. */
export function asStandardPoint(point: CalibrationPoint): StandardPoint {
  return {
    standard: point.standard,
    lotId: point.lotId,
    temperatureC: point.temperatureC,
    signal: point.signal,
    signalUncertainty: point.signalUncertainty,
  };
}

/** The whole calibration of a pH sensor, sources of uncertainty included: what its budget is made from. */
export function fitPh(points: readonly CalibrationPoint[]): SensorCalibration | NoCalibration {
  return fitSensor(PH, modelOf(PH), points.map(asStandardPoint), { free: 'both' });
}

/**
 * Zero and slope of an electrode from two to five standards, with the covariance that the *inputs* give (see
 * `fitSensor`).
 *
 * @returns coefficients and covariance, or a typed reason; never NaN
 * @throws Refusal `standard-outside-table` when a cup is outside its standard's table
 * @example fitCalibration([at7, at4]) // zero and slope through both
 */
export function fitCalibration(points: readonly CalibrationPoint[]): CalibrationResult {
  const fit = fitPh(points);
  if (!fit.ok) return fit;
  return {
    ok: true,
    coefficients: { zero: fit.parameters.zero, sensitivity: fit.parameters.sensitivity },
    covariance: fit.covariance,
    residuals: fit.residuals,
    chiSquare: fit.chiSquare,
    degreesOfFreedom: fit.degreesOfFreedom,
  };
}
