import { requireWithin } from '../quantities/refusal.ts';
import { kelvin } from '../quantities/temperature.ts';

/** Air at sea level, kPa. */
const STANDARD_PRESSURE_KPA = 101.325;
/** Share of oxygen in dry air: from memory. */
const OXYGEN_IN_AIR = 0.20946;
/** Of the equation, as it is stated with it, share of the value (k = 1): from memory. */
export const OXYGEN_RELATIVE = 0.001;

/** Water under air, as far as oxygen goes into it. */
export interface UnderAir {
  readonly temperatureC: number;
  /** practical salinity; absent = fresh */
  readonly salinity?: number;
  /** of the air, kPa; absent = 101.325 */
  readonly pressureKPa?: number;
}

/** The equation's own range. @throws Refusal `out-of-range` */
function required({ temperatureC, salinity = 0, pressureKPa = STANDARD_PRESSURE_KPA }: UnderAir) {
  requireWithin(temperatureC, 0, 40, 'temperature', '°C', 'The equation holds from 0 to 40 °C.');
  requireWithin(salinity, 0, 40, 'salinity', '', 'The equation holds from 0 to 40.');
  requireWithin(
    pressureKPa,
    50,
    112,
    'pressure',
    'kPa',
    'Enter the pressure where you stand, not brought to sea level.',
  );
  return { t: temperatureC, s: salinity, atm: pressureKPa / STANDARD_PRESSURE_KPA };
}

/** Vapour pressure of fresh water, atm. @see Benson and Krause, Limnol. Oceanogr. 29 (1984) 620, as in APHA 4500-O; from memory */
function vapour(temperatureC: number): number {
  const T = kelvin(temperatureC);
  return Math.exp(11.8571 - 3840.7 / T - 216_961 / T ** 2);
}

/**
 * Oxygen in water that stands in equilibrium with moist air: what 100 % means.
 *
 * @returns mg/L
 * @throws Refusal `out-of-range`
 * @see Benson and Krause, Limnol. Oceanogr. 29 (1984) 620, as in APHA 4500-O; coefficients from memory
 * @example oxygenSaturation({ temperatureC: 20 }) // 9.092
 * @example oxygenSaturation({ temperatureC: 25, salinity: 35 }) // 6.772
 */
export function oxygenSaturation(water: UnderAir): number {
  const { t, s, atm } = required(water);
  const T = kelvin(t);
  const fresh = -139.34411 + 1.575701e5 / T - 6.642308e7 / T ** 2 + 1.2438e10 / T ** 3 - 8.621949e11 / T ** 4;
  const atSea = Math.exp(fresh - s * (1.7674e-2 - 10.754 / T + 2140.7 / T ** 2));
  // How far oxygen is from an ideal gas.
  const theta = 0.000975 - 1.426e-5 * t + 6.436e-8 * t ** 2;
  const w = vapour(t);
  return (atSea * atm * (1 - w / atm) * (1 - theta * atm)) / ((1 - w) * (1 - theta));
}

/**
 * Partial pressure of oxygen in air that is full of water vapour: over water, and in water in equilibrium with it.
 *
 * @returns kPa
 * @throws Refusal `out-of-range`
 * @example oxygenPressure({ temperatureC: 25 }) // 20.56
 */
export function oxygenPressure(water: UnderAir): number {
  const { t, atm } = required(water);
  return OXYGEN_IN_AIR * STANDARD_PRESSURE_KPA * (atm - vapour(t));
}
