import type { Coefficients } from '../sensor/coefficients.ts';
import type { Family } from '../sensor/family.ts';
import type { Covariance2 } from '../sensor/working-error.ts';

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

/** What was done to a sensor outside of a run. */
export interface ServiceEvent {
  /** epoch milliseconds, UTC */
  readonly atMs: number;
  readonly kind: 'cleaned' | 'refilled' | 'plug dried' | 'tip replaced' | 'stored dry' | 'other';
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
  /** what the rates come back to: per day */
  readonly zeroRate: number;
  readonly sensitivityRate: number;
  /** what a new sensor's rates have on top of that, on average, and how far they spread: it runs in. Per day */
  readonly zeroFirstRate: number;
  readonly sensitivityFirstRate: number;
  readonly zeroFirstRateSd: number;
  readonly sensitivityFirstRateSd: number;
  /** how long an unusual rate is remembered, days */
  readonly zeroMemoryDays: number;
  readonly sensitivityMemoryDays: number;
  /** how often each of the two jumps (a knock, a cleaning nobody wrote down), and how far it then goes */
  readonly zeroJumpsPerYear: number;
  readonly sensitivityJumpsPerYear: number;
  readonly zeroJumpSd: number;
  readonly sensitivityJumpSd: number;
  /** how much faster or slower one sensor of a kind lives than another: standard deviation of the logarithm of its pace */
  readonly paceSd: number;
  /** extra spread that a cleaning brings, mV and fraction */
  readonly cleanedZeroSd: number;
  readonly cleanedSensitivitySd: number;
}

/** pH electrodes in continuous service. Common practice, no source; `pooled` learns it from the operator's own sensors. */
export const PH_PRIOR: FamilyPrior = {
  zero: 0,
  zeroSd: 10,
  sensitivity: 0.97,
  sensitivitySd: 0.03,
  zeroWalk: 0.25,
  sensitivityWalk: 0.0012,
  zeroRateSd: 0.06,
  sensitivityRateSd: 0.00035,
  zeroRate: 0,
  sensitivityRate: 0,
  zeroFirstRate: 0,
  sensitivityFirstRate: 0,
  zeroFirstRateSd: 0.06,
  sensitivityFirstRateSd: 0.00035,
  zeroMemoryDays: 90,
  sensitivityMemoryDays: 90,
  zeroJumpsPerYear: 0.1,
  sensitivityJumpsPerYear: 0.1,
  zeroJumpSd: 6,
  sensitivityJumpSd: 0.03,
  paceSd: 0.3,
  cleanedZeroSd: 1.5,
  cleanedSensitivitySd: 0.01,
};

/** How many of its steps (see `SettleStep`) the zero of any sensor spreads and walks: as glass does in steps of 0.59 mV. */
const ZERO_IN_STEPS = { sd: 17, walk: 0.42, rate: 0.1, jump: 10, cleaned: 2.5 };
/** A cell or an optical sensor keeps its gain better than glass its slope, and starts nearer to 1. */
const GAIN = { sd: 0.05, walk: 0.001, rate: 0.0003, jump: 0.03, cleaned: 0.02 };

/**
 * What is known of a family before one of its sensors has said anything. Common practice, no source; `pooled`
 * learns it from the operator's own sensors.
 *
 * @param step change of signal that counts at the working value, in the unit of the signal
 * @example priorOf(familyOf('ph'), 0.59).zeroSd // 10
 */
export function priorOf(family: Family, step: number): FamilyPrior {
  if (family.id === 'ph') return PH_PRIOR;
  // A sensor with an offset and no slope has a gain of exactly one.
  const fixed = family.frees([0, 1, 100]) === 'zero';
  const gain = fixed ? { sd: 0, walk: 0, rate: 0, jump: 0, cleaned: 0 } : GAIN;
  // Where any zero is a sensor's own, nothing is known of it beforehand.
  const zeroSd = Number.isFinite(family.limits.zero) ? ZERO_IN_STEPS.sd * step : 1000 * step;
  return {
    zero: 0,
    zeroSd,
    sensitivity: 1,
    sensitivitySd: gain.sd,
    zeroWalk: ZERO_IN_STEPS.walk * step,
    sensitivityWalk: gain.walk,
    zeroRateSd: ZERO_IN_STEPS.rate * step,
    sensitivityRateSd: gain.rate,
    zeroRate: 0,
    sensitivityRate: 0,
    zeroFirstRate: 0,
    sensitivityFirstRate: 0,
    zeroFirstRateSd: ZERO_IN_STEPS.rate * step,
    sensitivityFirstRateSd: gain.rate,
    zeroMemoryDays: PH_PRIOR.zeroMemoryDays,
    sensitivityMemoryDays: PH_PRIOR.sensitivityMemoryDays,
    zeroJumpsPerYear: PH_PRIOR.zeroJumpsPerYear,
    sensitivityJumpsPerYear: PH_PRIOR.sensitivityJumpsPerYear,
    zeroJumpSd: ZERO_IN_STEPS.jump * step,
    sensitivityJumpSd: gain.jump,
    paceSd: PH_PRIOR.paceSd,
    cleanedZeroSd: ZERO_IN_STEPS.cleaned * step,
    cleanedSensitivitySd: gain.cleaned,
  };
}
