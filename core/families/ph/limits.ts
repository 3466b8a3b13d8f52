import type { SensorLimits } from '../family.ts';

/** Where practice stops trusting a pH sensor. Common practice, no source. */
export const PH_LIMITS: SensorLimits = {
  zero: 30,
  sensitivityLow: 0.85,
  sensitivityHigh: 1.02,
  t90Seconds: 180,
  sensitivityDead: 0.2,
  adjustAboveShare: 0.5,
};
