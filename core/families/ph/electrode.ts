import type { Coefficients } from '../../sensor/coefficients.ts';
import { Refusal } from '../../quantities/refusal.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { ZERO_PH } from './family.ts';

/**
 * Potential of an electrode, E = zero − slope·k(T)·(pH − 7).
 *
 * @param temperatureC of the liquid
 * @returns mV
 * @example millivolts(4, 25, { zero: 0, sensitivity: 1 }) // 177.48
 */
export function millivolts(ph: number, temperatureC: number, { zero, sensitivity }: Coefficients): number {
  return zero - sensitivity * nernstSlope(temperatureC) * (ph - ZERO_PH);
}

/**
 * What a channel shows for a potential: the inverse of `millivolts` with the coefficients in force.
 * Compensates the electrode's slope only, never the chemistry of the liquid.
 *
 * @returns pH
 * @throws Refusal `slope-zero` for coefficients that carry no slope
 * @example shownPh(177.48, 25, { zero: 0, sensitivity: 1 }) // 4
 */
export function shownPh(potentialMv: number, temperatureC: number, { zero, sensitivity }: Coefficients): number {
  if (!(Math.abs(sensitivity) > 1e-6)) {
    throw new Refusal('slope-zero', `A slope of ${sensitivity * 100} % shows no pH. Calibrate with two standards.`, {
      slope: sensitivity,
    });
  }
  return ZERO_PH - (potentialMv - zero) / (sensitivity * nernstSlope(temperatureC));
}

/**
 * Error that a channel shows in a liquid of known pH: shown − true.
 *
 * @param actual what the electrode really is
 * @param inForce what the channel believes
 * @example shownError(4, 25, { zero: -5, sensitivity: 0.95 }, { zero: 0, sensitivity: 1 }) // 0.2345
 */
export function shownError(ph: number, temperatureC: number, actual: Coefficients, inForce: Coefficients): number {
  return shownPh(millivolts(ph, temperatureC, actual), temperatureC, inForce) - ph;
}

/**
 * How the shown error answers to the electrode's zero and slope: it is linear in both.
 *
 * @returns pH per mV of zero, and pH per unit of slope fraction
 * @example errorGradient(4, 25, { zero: 0, sensitivity: 1 }) // { perZero: -0.0169, perSensitivity: -3 }
 */
export function errorGradient(
  ph: number,
  temperatureC: number,
  inForce: Coefficients,
): { perZero: number; perSensitivity: number } {
  return {
    perZero: -1 / (inForce.sensitivity * nernstSlope(temperatureC)),
    perSensitivity: (ph - ZERO_PH) / inForce.sensitivity,
  };
}
