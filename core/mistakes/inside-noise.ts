import { weigh, type WeighedHypotheses } from './engine.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';

/** An error that is to be adjusted away. */
export interface ToAdjust {
  readonly error: number;
  /** standard uncertainty of it, same unit */
  readonly uncertainty: number;
  /** of the loop, same unit: real errors are about that large */
  readonly tolerance: number;
  readonly unit: string;
  readonly digits: number;
}

/** Nothing is off: the error is what measuring makes. */
const INSIDE_NOISE: Hypothesis<ToAdjust> = {
  id: 'inside-noise',
  prior: 0.6,
  weight: ({ error, uncertainty, tolerance }) =>
    normalLog(error, 0, uncertainty) - normalLog(error, 0, Math.hypot(uncertainty, tolerance)),
  facts: ({ error, uncertainty, unit, digits }) => ({ error, uncertainty, unit, decimals: digits }),
};

/**
 * Would an adjustment only chase noise? Here "nothing odd" means that there is a real error.
 *
 * @example chasesNoise({ error: 0.01, uncertainty: 0.02, tolerance: 0.1, unit: 'pH', digits: 2 }).warning?.id // 'inside-noise'
 * @example chasesNoise({ error: 0.09, uncertainty: 0.02, tolerance: 0.1, unit: 'pH', digits: 2 }).warning // null
 */
export const chasesNoise = (facts: ToAdjust): WeighedHypotheses => weigh([INSIDE_NOISE], facts);
