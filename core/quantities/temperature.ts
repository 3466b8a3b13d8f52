import { ZERO_CELSIUS_K } from './constants.ts';
import { requireWithin } from './refusal.ts';

/**
 * Absolute temperature.
 *
 * @param temperatureC °C
 * @returns K
 * @throws Refusal `out-of-range` below absolute zero
 * @example kelvin(25) // 298.15
 */
export function kelvin(temperatureC: number): number {
  requireWithin(temperatureC, -ZERO_CELSIUS_K, 1e4, 'temperature', '°C', 'Check the thermometer and its unit.');
  return temperatureC + ZERO_CELSIUS_K;
}

/**
 * @param temperatureC °C
 * @returns °F
 * @example fahrenheit(26.1) // 78.98
 */
export function fahrenheit(temperatureC: number): number {
  return temperatureC * 1.8 + 32;
}

/**
 * @param temperatureF °F
 * @returns °C
 * @example celsius(78.98) // 26.1
 */
export function celsius(temperatureF: number): number {
  return (temperatureF - 32) / 1.8;
}
