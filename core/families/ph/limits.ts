/** Where practice stops trusting a pH sensor. Editable data; common practice, no source. */
export interface PhLimits {
  readonly zeroMv: number;
  readonly slopeLow: number;
  readonly slopeHigh: number;
  readonly t90Seconds: number;
  /** below this share of the ideal slope nothing is left to calibrate */
  readonly slopeDead: number;
  /** an error below this share of the tolerance is left alone */
  readonly adjustAboveShare: number;
}

export const PH_LIMITS: PhLimits = {
  zeroMv: 30,
  slopeLow: 0.85,
  slopeHigh: 1.02,
  t90Seconds: 180,
  slopeDead: 0.2,
  adjustAboveShare: 0.5,
};
