import { Refusal, requireFinite, requireWithin } from '../quantities/refusal.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';
import { courseFactor, linearFactor, type Compensation } from './compensation.ts';

/** Conductivity of pure water over temperature, µS/cm: from memory; agrees with Kw and limiting ionic conductivities. */
const PURE: readonly TableRow[] = [
  0.0116, 0.0166, 0.023, 0.0313, 0.0419, 0.055, 0.071, 0.0905, 0.114, 0.141, 0.172,
].map((v, i) => [5 * i, v]);

/** Between the rows the logarithm is the smoother curve: it never falls below zero, and bends least. */
const LOG_PURE: readonly TableRow[] = PURE.map(([t, v]) => [t, Math.log(v)]);

/** Relative standard uncertainty of the table from 5 °C on: ±2 % at k = 2. */
export const PURE_WATER_RELATIVE = 0.01;

/**
 * The same over temperature: twice that at 0 °C.
 *
 * @returns relative standard uncertainty (k = 1)
 * @example pureWaterRelative(25) // 0.01
 * @example pureWaterRelative(0) // 0.02
 */
export const pureWaterRelative = (temperatureC: number): number =>
  PURE_WATER_RELATIVE * (1 + Math.min(1, Math.max(0, (5 - temperatureC) / 5)));

/** Coefficient of a real water against the one that is set, standard uncertainty, %/°C. Common practice, no source. */
export const ALPHA_UNCERTAINTY = 0.1;

/** So far from 25 °C the table's course is as uncertain as the table; at 25 °C itself nothing is carried. */
const COURSE_C = 5;

/**
 * What is not known of a high-purity water's conductivity at 25 °C when it was measured at another temperature: the
 * table's own, and the coefficient of what is dissolved.
 *
 * @param at25 µS/cm at 25 °C
 * @returns two standard uncertainties, µS/cm at 25 °C
 * @example pureCompensationUncertainty(1, 10, 2).coefficient // 0.02025
 */
export function pureCompensationUncertainty(
  at25: number,
  temperatureC: number,
  by: Compensation,
): { readonly table: number; readonly coefficient: number } {
  requireWithin(at25, 0, 1e9, 'conductivity', 'µS/cm', 'Check figure and unit.');
  const factor = courseFactor(temperatureC, by);
  const away = Math.abs(temperatureC - 25);
  const salts = Math.max(0, at25 - pureWater(25));
  return {
    table: (pureWater(temperatureC) * pureWaterRelative(temperatureC) * Math.min(1, away / COURSE_C)) / factor,
    coefficient: by ? (salts * away * ALPHA_UNCERTAINTY) / 100 / factor : 0,
  };
}

/**
 * Conductivity of water with nothing in it.
 *
 * @param temperatureC 0 to 50 °C
 * @returns µS/cm
 * @throws Refusal `out-of-range`
 * @example pureWater(25) // 0.055
 */
export function pureWater(temperatureC: number): number {
  requireWithin(temperatureC, 0, 50, 'temperature', '°C', 'The table of pure water holds from 0 to 50 °C.');
  return Math.exp(interpolate(LOG_PURE, temperatureC)!);
}

/**
 * Conductivity at 25 °C from one measured at another temperature, linear compensation.
 *
 * @param measured µS/cm at the temperature of the liquid
 * @returns µS/cm at 25 °C
 * @see ISO 7888:1985, linear compensation
 * @example to25(1278, 20, 2) // 1420
 */
export function to25(measured: number, temperatureC: number, alphaPercent: number): number {
  return requireFinite(measured, 'conductivity') / linearFactor(temperatureC, alphaPercent);
}

/**
 * Compensated conductivity of high-purity water: the water's own share follows its own curve, only the salts' share is
 * carried to 25 °C, with α or as sodium chloride.
 *
 * @param measured µS/cm at the temperature of the water, not below what pure water has there
 * @returns µS/cm at 25 °C
 * @throws Refusal `purer-than-water`
 * @example pureTo25(0.0419, 20, 2) // 0.055
 */
export function pureTo25(measured: number, temperatureC: number, by: Compensation): number {
  requireWithin(measured, -1e9, 1e9, 'conductivity', 'µS/cm', 'Check figure and unit.');
  const water = pureWater(temperatureC);
  // The table has its ±: a reading that much below it is pure water, a lower one a fault.
  const least = water * (1 - 2 * pureWaterRelative(temperatureC));
  if (!(measured >= least)) {
    throw new Refusal(
      'purer-than-water',
      `${measured} µS/cm at ${temperatureC} °C is less than pure water has (${water.toPrecision(3)}). Check cell constant, temperature, and a cell that is dry or holds a bubble.`,
      { value: measured, low: water },
    );
  }
  return Math.max(pureWater(25), pureWater(25) + (measured - water) / courseFactor(temperatureC, by));
}

/**
 * The same read backwards: what a cell in the water sees when the display shows this at 25 °C.
 *
 * @param at25 µS/cm, not below pure water's
 * @throws Refusal `purer-than-water`
 * @example pureFrom25(0.055, 20, 2) // 0.0419
 */
export function pureFrom25(at25: number, temperatureC: number, by: Compensation): number {
  requireWithin(at25, 0, 1e9, 'conductivity at 25 °C', 'µS/cm', 'Check figure and unit.');
  const water25 = pureWater(25);
  if (!(at25 >= water25 * (1 - 2 * PURE_WATER_RELATIVE))) {
    throw new Refusal(
      'purer-than-water',
      `${at25} µS/cm at 25 °C is less than pure water has (${water25.toPrecision(3)}, 18.18 MΩ·cm). Check figure and unit.`,
      { value: at25, low: water25 },
    );
  }
  return pureWater(temperatureC) + Math.max(0, at25 - water25) * courseFactor(temperatureC, by);
}
