import { requireWithin } from '../quantities/refusal.ts';
import { nernstSlope } from './nernst-slope.ts';
import { buffer } from './buffers.ts';
import { valueAt, type Standard } from './standard.ts';

/**
 * Potential of the ferri/ferrocyanide standard against standard hydrogen.
 *
 * @param temperatureC 8 to 85 °C, the range of the equation (from memory)
 * @returns mV
 * @throws Refusal `out-of-range`
 * @see Nordstrom, Geochim. Cosmochim. Acta 41 (1977) 1835
 * @example ferrocyanidePotential(20) // 442.8
 */
export function ferrocyanidePotential(temperatureC: number): number {
  requireWithin(temperatureC, 8, 85, 'temperature', '°C', 'Bring the cup into that range.');
  const d = temperatureC - 25;
  return 430.28 - 2.5157 * d - 0.0037979 * d * d;
}

/** Above this pH quinhydrone is no longer quinhydrone. Common practice, no source. */
const QUINHYDRONE_PH = 8;

/**
 * Potential of quinhydrone in a buffer against standard hydrogen.
 *
 * @param ph of the buffer at that temperature, 1 to 8
 * @param temperatureC 5 to 40 °C
 * @returns mV
 * @throws Refusal `out-of-range`
 * @see E° = 699.76 − 0.74 (T − 25) mV, handbook value, from memory
 * @example quinhydronePotential(4.008, 25) // 462.6
 */
export function quinhydronePotential(ph: number, temperatureC: number): number {
  requireWithin(ph, 1, QUINHYDRONE_PH, 'pH', '', 'Quinhydrone decays above pH 8. Use an acid or neutral buffer.');
  requireWithin(temperatureC, 5, 40, 'temperature', '°C', 'Bring the cup into that range.');
  return 699.76 - 0.74 * (temperatureC - 25) - nernstSlope(temperatureC) * ph;
}

/** Standard uncertainty of a redox standard: ±5 mV at k = 2. Common practice, no source. */
const REDOX_UNCERTAINTY_MV = 2.5;

const redox = (
  id: string,
  name: string,
  at: (t: number) => number,
  low: number,
  high: number,
  source: string,
): Standard => ({
  id,
  name,
  family: 'orp',
  unit: 'mV',
  nominal: at(25),
  nominalAtC: 25,
  table: Array.from({ length: high - low + 1 }, (_, i) => [low + i, at(low + i)]),
  uncertainty: REDOX_UNCERTAINTY_MV,
  tableStep: 0,
  source,
  against: 'hydrogen',
});

const quinhydrone = (bufferId: string, name: string): Standard => {
  const cup = buffer(bufferId);
  return redox(
    `quinhydrone-${bufferId}`,
    name,
    (t) => quinhydronePotential(valueAt(cup, t), t),
    5,
    40,
    'Quinhydrone, E° = 699.76 − 0.74 (T − 25) mV (handbook, from memory), in the buffer’s own table',
  );
};

/** Redox standards against standard hydrogen, mV. A lot may print its value against another reference instead. */
export const REDOX_STANDARDS: readonly Standard[] = [
  redox(
    'ferrocyanide',
    'ferri/ferrocyanide, 430 mV',
    ferrocyanidePotential,
    8,
    50,
    'Nordstrom, Geochim. Cosmochim. Acta 41 (1977) 1835',
  ),
  quinhydrone('technical-4.01', 'quinhydrone in 4.01'),
  quinhydrone('technical-7.00', 'quinhydrone in 7.00'),
];
