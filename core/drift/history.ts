import type { Coefficients } from '../families/ph/electrode.ts';
import type { Covariance2 } from '../families/ph/fit.ts';

/** What one finished run says of its sensor. */
export interface Observation {
  /** epoch milliseconds, UTC */
  readonly atMs: number;
  readonly kind: 'calibration' | 'verification' | 'grab-sample';
  readonly found: Coefficients;
  readonly covariance: Covariance2;
  /** what the channel believes from this moment on */
  readonly inForceAfter: Coefficients;
  readonly cleaned: boolean;
}

/** What is known of a family before one sensor has said anything. */
export interface FamilyPrior {
  readonly zero: number;
  readonly zeroSd: number;
  readonly sensitivity: number;
  readonly sensitivitySd: number;
  /** random walk of the level: per square root of a day */
  readonly zeroWalk: number;
  readonly sensitivityWalk: number;
  /** stationary spread of the rate: per day */
  readonly zeroRateSd: number;
  readonly sensitivityRateSd: number;
  /** memory of the rate, days */
  readonly rateMemoryDays: number;
  /** extra spread that a cleaning brings, mV and fraction */
  readonly cleanedZeroSd: number;
  readonly cleanedSensitivitySd: number;
}

/** pH electrodes in continuous service. Common practice, no source; the full engine will learn it from the fleet. */
export const PH_PRIOR: FamilyPrior = {
  zero: 0,
  zeroSd: 10,
  sensitivity: 0.97,
  sensitivitySd: 0.03,
  zeroWalk: 0.25,
  sensitivityWalk: 0.0012,
  zeroRateSd: 0.06,
  sensitivityRateSd: 0.00035,
  rateMemoryDays: 90,
  cleanedZeroSd: 1.5,
  cleanedSensitivitySd: 0.01,
};
