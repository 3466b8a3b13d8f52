import type { ServiceKind } from '../sensor/befalls.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
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
  readonly kind: ServiceKind;
}
