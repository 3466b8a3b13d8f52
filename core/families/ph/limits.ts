import type { Tail } from '../../settling/ways.ts';
import type { SensorLimits } from '../../sensor/family.ts';

/** Where practice stops trusting a pH sensor. Common practice, no source. */
export const PH_LIMITS: SensorLimits = {
  zero: 30,
  sensitivityLow: 0.85,
  sensitivityHigh: 1.02,
  t90Seconds: 180,
  sensitivityDead: 0.2,
  adjustAboveShare: 0.5,
};

/** The slow answer of glass and its gel layer. Common practice, no source. */
export const GLASS_TAIL: Tail = {
  seconds: 30,
  spread: 0.7,
  share: 0.15,
  caution: 1.12,
  forecast: { usual: 0.65, times: [0.74, 1.83, 4.35] },
};
