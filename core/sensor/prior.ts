/** What is known of one figure of a family's sensors, its zero or its sensitivity, before one of them has said anything. */
export interface FigurePrior {
  readonly value: number;
  readonly sd: number;
  /** random walk of the level: per square root of a day */
  readonly walk: number;
  /** what the rate comes back to: per day */
  readonly rate: number;
  /** stationary spread of the rate: per day */
  readonly rateSd: number;
  /** what a new sensor's rate has on top of that, on average, and how far it spreads: it runs in. Per day */
  readonly firstRate: number;
  readonly firstRateSd: number;
  /** how long an unusual rate is remembered, days */
  readonly memoryDays: number;
  /** how often it jumps (a knock, a cleaning nobody wrote down), and how far it then goes */
  readonly jumpsPerYear: number;
  readonly jumpSd: number;
  /** by how much a cleaning moves it, and how far that spreads */
  readonly cleanedBy: number;
  readonly cleanedSd: number;
}

/** What is known of a family before one sensor has said anything: zeros in the unit of the signal, sensitivities as a fraction. */
export interface FamilyPrior {
  readonly zero: FigurePrior;
  readonly sensitivity: FigurePrior;
  /** how much faster or slower one sensor of a kind lives than another: standard deviation of the logarithm of its pace */
  readonly paceSd: number;
  /** share of sensors whose sensitivity goes on as it does, whatever the others forget; absent = none */
  readonly steadyShare?: number;
}

/** How a figure lives, where nobody has learned it yet. Common practice, no source. */
export const USUAL_LIFE = { rate: 0, firstRate: 0, memoryDays: 90, jumpsPerYear: 0.1 } as const;

/** How far the paces of sensors are apart. Common practice, no source. */
export const USUAL_PACE_SD = 0.3;

/** One in two wears at a rate that it keeps, as glass that is etched does. Common practice, no source. */
export const USUAL_STEADY = 0.5;

/** How many of its steps (see `SettleStep`) the zero of any sensor spreads and walks: as glass does in steps of 0.59 mV. */
const ZERO_IN_STEPS = { sd: 17, walk: 0.36, rate: 0.085, jump: 10, cleaned: 2.5 };
/** Where any zero is a sensor's own, nothing is known of it beforehand. */
const ANY_ZERO_STEPS = 1000;
/** A cell or an optical sensor keeps its gain better than glass its slope, and starts nearer to 1. */
const GAIN = { sd: 0.05, walk: 0.00085, rate: 0.00026, jump: 0.03, cleaned: 0.02 };
/** A sensor with an offset and no slope has a gain of exactly one. */
const NO_GAIN = { sd: 0, walk: 0, rate: 0, jump: 0, cleaned: 0 };

/**
 * What is known of most families before one of their sensors has said anything. Common practice, no source; `pooled` learns it
 * from the operator's own sensors.
 *
 * @param step change of signal that counts at the working value, in the unit of the signal
 * @param of what the family's sensors have: a zero that is usually near nothing, a gain at all
 * @example usualPrior(0.59).zero.sd // 10.03
 */
export function usualPrior(
  step: number,
  of: { readonly anyZero?: boolean; readonly noGain?: boolean } = {},
): FamilyPrior {
  const gain = of.noGain ? NO_GAIN : GAIN;
  const inSteps = ZERO_IN_STEPS;
  return {
    zero: {
      ...USUAL_LIFE,
      value: 0,
      sd: (of.anyZero ? ANY_ZERO_STEPS : inSteps.sd) * step,
      walk: inSteps.walk * step,
      rateSd: inSteps.rate * step,
      firstRateSd: inSteps.rate * step,
      jumpSd: inSteps.jump * step,
      cleanedBy: 0,
      cleanedSd: inSteps.cleaned * step,
    },
    sensitivity: {
      ...USUAL_LIFE,
      value: 1,
      sd: gain.sd,
      walk: gain.walk,
      rateSd: gain.rate,
      firstRateSd: gain.rate,
      jumpSd: gain.jump,
      cleanedBy: 0,
      cleanedSd: gain.cleaned,
    },
    paceSd: USUAL_PACE_SD,
    steadyShare: USUAL_STEADY,
  };
}
