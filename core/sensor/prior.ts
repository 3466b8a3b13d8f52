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

/** How a sensor lives, where nobody has learned it yet. Common practice, no source. */
export const USUAL_LIFE = {
  zeroRate: 0,
  sensitivityRate: 0,
  zeroFirstRate: 0,
  sensitivityFirstRate: 0,
  zeroMemoryDays: 90,
  sensitivityMemoryDays: 90,
  zeroJumpsPerYear: 0.1,
  sensitivityJumpsPerYear: 0.1,
  paceSd: 0.3,
} as const;

/** How many of its steps (see `SettleStep`) the zero of any sensor spreads and walks: as glass does in steps of 0.59 mV. */
const ZERO_IN_STEPS = { sd: 17, walk: 0.42, rate: 0.1, jump: 10, cleaned: 2.5 };
/** Where any zero is a sensor's own, nothing is known of it beforehand. */
const ANY_ZERO_STEPS = 1000;
/** A cell or an optical sensor keeps its gain better than glass its slope, and starts nearer to 1. */
const GAIN = { sd: 0.05, walk: 0.001, rate: 0.0003, jump: 0.03, cleaned: 0.02 };
/** A sensor with an offset and no slope has a gain of exactly one. */
const NO_GAIN = { sd: 0, walk: 0, rate: 0, jump: 0, cleaned: 0 };

/**
 * What is known of most families before one of their sensors has said anything. Common practice, no source; `pooled` learns it
 * from the operator's own sensors.
 *
 * @param step change of signal that counts at the working value, in the unit of the signal
 * @param of what the family's sensors have: a zero that is usually near nothing, a gain at all
 * @example usualPrior(0.59).zeroSd // 10.03
 */
export function usualPrior(
  step: number,
  of: { readonly anyZero?: boolean; readonly noGain?: boolean } = {},
): FamilyPrior {
  const gain = of.noGain ? NO_GAIN : GAIN;
  return {
    ...USUAL_LIFE,
    zero: 0,
    zeroSd: (of.anyZero ? ANY_ZERO_STEPS : ZERO_IN_STEPS.sd) * step,
    sensitivity: 1,
    sensitivitySd: gain.sd,
    zeroWalk: ZERO_IN_STEPS.walk * step,
    sensitivityWalk: gain.walk,
    zeroRateSd: ZERO_IN_STEPS.rate * step,
    sensitivityRateSd: gain.rate,
    zeroFirstRateSd: ZERO_IN_STEPS.rate * step,
    sensitivityFirstRateSd: gain.rate,
    zeroJumpSd: ZERO_IN_STEPS.jump * step,
    sensitivityJumpSd: gain.jump,
    cleanedZeroSd: ZERO_IN_STEPS.cleaned * step,
    cleanedSensitivitySd: gain.cleaned,
  };
}
