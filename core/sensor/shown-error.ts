import type { Coefficients } from './coefficients.ts';
import type { Model, WorkingPoint } from './family.ts';
import { shownValue, signalOf } from './sensor.ts';

/**
 * What a channel shows at a working point when the sensor is `actual` and the channel believes `inForce`, less what is.
 *
 * @throws Refusal as `signalOf` and `shownValue`
 * @example shownErrorOf(modelOf(familyOf('ph')), { value: 4, temperatureC: 25 }, { zero: -5, sensitivity: 0.95 }, IDEAL_SENSOR) // 0.2345
 */
export function shownErrorOf(
  model: Model,
  at: Pick<WorkingPoint, 'value' | 'temperatureC'>,
  actual: Coefficients,
  inForce: Coefficients,
): number {
  const signal = signalOf(model, at.value, at, actual);
  return shownValue(model, signal, at, inForce) - at.value;
}
