import { requireWithin } from '../quantities/refusal.ts';
import { kelvin } from '../quantities/temperature.ts';

/** Said wherever these fractions are shown. */
export const FRESH_WATER_NOTE = 'Holds for fresh water; in brackish and sea water the constant shifts.';

const liquid = (temperatureC: number) =>
  requireWithin(temperatureC, 0, 50, 'temperature', '°C', 'The constants were measured between 0 and 50 °C.');

/**
 * pKa of ammonium in fresh water.
 *
 * @param temperatureC 0 to 50 °C
 * @see Emerson et al., J. Fish. Res. Board Can. 32 (1975) 2379
 * @example ammoniaPka(25) // 9.2464
 */
export function ammoniaPka(temperatureC: number): number {
  return 0.09018 + 2729.92 / kelvin(liquid(temperatureC));
}

/** Where Morris measured, °C: beyond it his equation is stretched. */
export const HYPOCHLOROUS_C = { low: 5, high: 35 } as const;

/**
 * pKa of hypochlorous acid in fresh water.
 *
 * @param temperatureC 0 to 50 °C; measured from 5 to 35 °C, beyond it an extrapolation
 * @see Morris, J. Phys. Chem. 70 (1966) 3798
 * @example hypochlorousPka(25) // 7.537
 */
export function hypochlorousPka(temperatureC: number): number {
  const t = kelvin(liquid(temperatureC));
  return 3000 / t - 10.0686 + 0.0253 * t;
}

const ph = (value: number) => requireWithin(value, 0, 14, 'pH', '', 'Check the figure.');

/**
 * Share of total ammonia that is un-ionised NH3, in % by amount of nitrogen.
 *
 * @example ammoniaShare(8, 25) // 5.37
 */
export function ammoniaShare(pH: number, temperatureC: number): number {
  return 100 / (1 + 10 ** (ammoniaPka(temperatureC) - ph(pH)));
}

/**
 * Share of free chlorine that is hypochlorous acid, %; the rest is hypochlorite.
 *
 * @example hypochlorousShare(7.5, 25) // 52.1
 */
export function hypochlorousShare(pH: number, temperatureC: number): number {
  return 100 / (1 + 10 ** (ph(pH) - hypochlorousPka(temperatureC)));
}
