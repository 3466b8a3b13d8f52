import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { t68 } from './practical-salinity.ts';

/** Standard deviation of the equation against its data, kg/m³: Millero & Poisson, Deep-Sea Res. 28A (1981) 625, from memory. */
export const DENSITY_UNCERTAINTY = 0.0036;

/**
 * Density of seawater at atmospheric pressure, EOS-80.
 *
 * @param s practical salinity, 0 to 42
 * @param temperature68 °C on the scale of 1968, −2 to 40
 * @returns kg/m³
 * @throws Refusal `out-of-range`
 * @see UNESCO Technical Papers in Marine Science 44 (1983), algorithm 3
 * @example density68(35, 5) // 1027.67547
 */
export function density68(s: number, temperature68: number): number {
  requireWithin(s, 0, 42, 'practical salinity', '', 'The equation of state holds from 0 to 42.');
  requireWithin(temperature68, -2.001, 40.01, 'temperature', '°C', 'The equation of state holds from −2 to 40 °C.');
  const t = temperature68;
  const water =
    999.842594 + t * (6.793952e-2 + t * (-9.09529e-3 + t * (1.001685e-4 + t * (-1.120083e-6 + t * 6.536332e-9))));
  const a = 8.24493e-1 + t * (-4.0899e-3 + t * (7.6438e-5 + t * (-8.2467e-7 + t * 5.3875e-9)));
  const b = -5.72466e-3 + t * (1.0227e-4 + t * -1.6546e-6);
  return water + a * s + b * s * Math.sqrt(s) + 4.8314e-4 * s * s;
}

/**
 * The same with a temperature of today's scale.
 *
 * @param temperatureC ITS-90
 * @returns kg/m³
 * @example density(35, 25) // 1023.3412
 */
export function density(s: number, temperatureC: number): number {
  return density68(s, t68(temperatureC));
}

/** The two pairs of temperatures at which hobby and plant gravities are printed, °C. */
export type GravityAt = 20 | 25;

/**
 * Specific gravity of seawater: its density over that of pure water, both at one stated temperature.
 *
 * @param s practical salinity, 0 to 42
 * @param at 25 for the ratio 25/25 °C, 20 for 20/20 °C
 * @example specificGravity(35, 25) // 1.02637
 */
export function specificGravity(s: number, at: GravityAt): number {
  return density(s, at) / density(0, at);
}

/**
 * Salinity that has this gravity, by bisection on a curve that rises throughout.
 *
 * @returns practical salinity, 0 to 42
 * @throws Refusal `out-of-range` for a gravity that no seawater of 0 to 42 has
 * @example salinityOfGravity(1.02637, 25) // 35.0
 */
export function salinityOfGravity(gravity: number, at: GravityAt): number {
  const top = specificGravity(42, at);
  if (!(gravity >= 1 && gravity <= top)) {
    throw new Refusal(
      'out-of-range',
      `A specific gravity of ${gravity} is outside 1 to ${top.toFixed(4)}, that is salinity 0 to 42 at ${at}/${at} °C. Check which two temperatures the scale is printed for.`,
      { value: Number.isFinite(gravity) ? gravity : null, low: 1, high: top },
    );
  }
  let low = 0;
  let high = 42;
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (specificGravity(middle, at) < gravity) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
