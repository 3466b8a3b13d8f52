/** Where practice stops trusting a pH sensor. Editable data; common practice, no source. */
export interface PhLimits {
  readonly zero: number;
  readonly sensitivityLow: number;
  readonly sensitivityHigh: number;
  readonly t90Seconds: number;
  /** below this share of the ideal slope nothing is left to calibrate */
  readonly sensitivityDead: number;
  /** an error below this share of the tolerance is left alone */
  readonly adjustAboveShare: number;
}

export const PH_LIMITS: PhLimits = {
  zero: 30,
  sensitivityLow: 0.85,
  sensitivityHigh: 1.02,
  t90Seconds: 180,
  sensitivityDead: 0.2,
  adjustAboveShare: 0.5,
};
