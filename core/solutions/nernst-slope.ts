import { FARADAY, GAS_CONSTANT } from '../quantities/constants.ts';
import { kelvin } from '../quantities/temperature.ts';

/**
 * Ideal slope of a pH electrode, k = ln10·R·T/F.
 *
 * @param temperatureC liquid temperature, °C
 * @returns mV per pH unit
 * @throws Refusal `out-of-range` below absolute zero
 * @see Buck et al., Pure Appl. Chem. 74 (2002) 2169
 * @example nernstSlope(25) // 59.159
 */
export function nernstSlope(temperatureC: number): number {
  return (1000 * Math.LN10 * GAS_CONSTANT * kelvin(temperatureC)) / FARADAY;
}
