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
  /**
   * what one standard uncertainty of the loop's own thermometer does to what was found, where it stood in the cups: not in
   * the covariance, since it is off at work by as much; absent = another thermometer stood there
   */
  readonly byThermometer?: Coefficients;
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
