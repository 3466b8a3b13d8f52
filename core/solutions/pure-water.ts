import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/** Conductivity of pure water over temperature, µS/cm: from memory; agrees with Kw and limiting ionic conductivities. */
const PURE: readonly TableRow[] = [
  0.0116, 0.0166, 0.023, 0.0313, 0.0419, 0.055, 0.071, 0.0905, 0.114, 0.141, 0.172,
].map((v, i) => [5 * i, v]);

/** Between the rows the logarithm is the smoother curve: it never falls below zero, and bends least. */
const LOG_PURE: readonly TableRow[] = PURE.map(([t, v]) => [t, Math.log(v)]);

/** Relative standard uncertainty of the table: ±2 % at k = 2, twice that at 0 °C. */
export const PURE_WATER_RELATIVE = 0.01;

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

/** What can be asked of a loop's compensation, %/°C: 0 is a channel that does none. */
const ALPHA_RANGE = { low: 0, high: 10 } as const;

/** Below this much of what it is at 25 °C a linear compensation means nothing. */
const MIN_FACTOR = 0.1;

/**
 * 1 + α(T − 25), the linear compensation.
 *
 * @param alphaPercent α in % per °C, 0 to 10
 * @throws Refusal `out-of-range`, `compensation-breaks-down` far below 25 °C
 * @example linearFactor(20, 2) // 0.9
 */
export function linearFactor(temperatureC: number, alphaPercent: number): number {
  const { low, high } = ALPHA_RANGE;
  requireWithin(alphaPercent, low, high, 'temperature coefficient', '%/°C', 'About 2 is usual; 0 means none.');
  requireWithin(temperatureC, -50, 250, 'temperature', '°C', 'Check the thermometer and its unit.');
  const factor = 1 + (alphaPercent / 100) * (temperatureC - 25);
  if (factor >= MIN_FACTOR) return factor;
  throw new Refusal(
    'compensation-breaks-down',
    `At ${temperatureC} °C a coefficient of ${alphaPercent} %/°C leaves ${factor.toFixed(2)} of the value at 25 °C; below ${MIN_FACTOR} it means nothing. Measure nearer to 25 °C, or use a smaller coefficient.`,
    { value: factor, low: MIN_FACTOR },
  );
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
  return measured / linearFactor(temperatureC, alphaPercent);
}

/**
 * Compensated conductivity of high-purity water: the water's own share follows its own curve, only the salts' share is
 * carried to 25 °C with α.
 *
 * @param measured µS/cm at the temperature of the water, not below what pure water has there
 * @returns µS/cm at 25 °C
 * @throws Refusal `purer-than-water`
 * @example pureTo25(0.0419, 20, 2) // 0.055
 */
export function pureTo25(measured: number, temperatureC: number, alphaPercent: number): number {
  const water = pureWater(temperatureC);
  // The table is good to ±2 %: a reading that much below it is pure water, a lower one a fault.
  const least = water * (1 - 2 * PURE_WATER_RELATIVE * (temperatureC < 5 ? 2 : 1));
  if (!(measured >= least)) {
    throw new Refusal(
      'purer-than-water',
      `${measured} µS/cm at ${temperatureC} °C is less than pure water has (${water.toPrecision(3)}). Check cell constant, temperature, and a cell that is dry or holds a bubble.`,
      { value: measured, low: water },
    );
  }
  return Math.max(pureWater(25), pureWater(25) + (measured - water) / linearFactor(temperatureC, alphaPercent));
}

/**
 * The same read backwards: what a cell in the water sees when the display shows this at 25 °C.
 *
 * @param at25 µS/cm, not below pure water's
 * @throws Refusal `purer-than-water`
 * @example pureFrom25(0.055, 20, 2) // 0.0419
 */
export function pureFrom25(at25: number, temperatureC: number, alphaPercent: number): number {
  const water25 = pureWater(25);
  if (!(at25 >= water25 * (1 - 2 * PURE_WATER_RELATIVE))) {
    throw new Refusal(
      'purer-than-water',
      `${at25} µS/cm at 25 °C is less than pure water has (${water25.toPrecision(3)}, 18.18 MΩ·cm). Check figure and unit.`,
      { value: at25, low: water25 },
    );
  }
  return pureWater(temperatureC) + Math.max(0, at25 - water25) * linearFactor(temperatureC, alphaPercent);
}
