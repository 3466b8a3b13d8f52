import { curveThrough, on, type Curve } from './curves.ts';

/**
 * Conductivity of the liquids in the house over temperature, µS/cm. Independent of the core's formulas: the core has
 * PSS-78, handbook tables and linear compensation; here are curves through few rows of other origin. What is shared is
 * said at each. waters.spec.ts compares.
 */

/** Seawater in mS/cm at 5 to 35 °C (t90), by gsw 3.6.16 `C_from_SP(S, t, 0)`: another programme's PSS-78. */
const SEA: readonly (readonly [number, readonly number[]])[] = [
  [5, [5.565, 6.366, 7.201, 8.067, 8.96, 9.877, 10.815]],
  [10, [10.613, 12.126, 13.703, 15.338, 17.024, 18.755, 20.524]],
  [15, [15.438, 17.623, 19.901, 22.261, 24.695, 27.193, 29.746]],
  [20, [20.11, 22.939, 25.887, 28.942, 32.091, 35.322, 38.624]],
  [25, [24.66, 28.11, 31.704, 35.428, 39.267, 43.205, 47.228]],
  [30, [29.105, 33.156, 37.376, 41.748, 46.253, 50.875, 55.597]],
  [35, [33.455, 38.09, 42.918, 47.918, 53.071, 58.357, 63.757]],
  [40, [37.717, 42.92, 48.339, 53.951, 59.734, 65.666, 71.725]],
];
const SEA_C = [5, 10, 15, 20, 25, 30, 35];
const SEA_OVER_C = SEA.map(([, row]) =>
  curveThrough(
    row.map((ms, i) => [SEA_C[i]!, ms]),
    3,
  ),
);

/** Steps of the temperature for which a curve over salinity is kept, a °C: a thousandth of a degree is 2e-5 of the value. */
const STEPS_A_DEGREE = 1000;
const overSalinity = new Map<number, Curve>();

function seawaterCurve(temperatureC: number): Curve {
  const step = Math.round(temperatureC * STEPS_A_DEGREE);
  const known = overSalinity.get(step);
  if (known) return known;
  const at = step / STEPS_A_DEGREE;
  const rows = SEA.map(([s], i): readonly [number, number] => [Math.sqrt(s), on(SEA_OVER_C[i]!, at) / s]);
  const made = curveThrough(rows, 4);
  overSalinity.set(step, made);
  return made;
}

/** @param salinity 5 to 40; @param temperatureC 5 to 35 */
export function seawaterUs(salinity: number, temperatureC: number): number {
  return 1000 * salinity * on(seawaterCurve(temperatureC), Math.sqrt(salinity));
}

/** κ over κ at 25 °C of dilute KCl. Shares with the core four rows of the 0.01 mol/L table, drawn as one cubic. */
const KCL = curveThrough(
  [
    [15, 1147 / 1413],
    [20, 1278 / 1413],
    [25, 1],
    [30, 1552 / 1413],
  ],
  3,
);
export const kclUs = (at25: number, temperatureC: number) => at25 * on(KCL, temperatureC);

/** Tap, nutrient and aquarium water: bends a little, as real waters do. The core's compensation is straight. */
export function freshUs(at25: number, temperatureC: number): number {
  const d = temperatureC - 25;
  return at25 * Math.exp(0.0197 * d - 0.00007 * d * d);
}

/**
 * Pure water, from the mobility of its two ions and the ion product: limiting conductances 349.8 and 199.2 S cm²/mol at
 * 25 °C with 1.4 and 1.6 %/°C, pKw 13.995 with a heat of 55.8 kJ/mol (handbook figures from memory). The core has a table.
 */
export function pureUs(temperatureC: number): number {
  const d = temperatureC - 25;
  const ions = 10 ** (-13.995 / 2) * Math.exp((55_800 / 2 / 8.314462618) * (1 / 298.15 - 1 / (temperatureC + 273.15)));
  const mobility = 349.8 * (1 + 0.014 * d) + 199.2 * (1 + 0.016 * d);
  return 1000 * mobility * ions;
}
