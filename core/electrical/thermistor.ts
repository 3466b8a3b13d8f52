import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { ZERO_CELSIUS_K } from '../quantities/constants.ts';
import { kelvin } from '../quantities/temperature.ts';

/** A row of a thermistor's table: °C and Ω. */
export type ThermistorRow = readonly [temperatureC: number, ohms: number];

/** Where thermistors are used, °C. */
const RANGE = { low: -50, high: 150 } as const;

/** 1/T = a + b ln R + c (ln R)³, T in kelvin, R in Ω. */
export interface SteinhartHart {
  readonly a: number;
  readonly b: number;
  readonly c: number;
}

const unusable = (why: string) =>
  new Refusal('table-unusable', `${why} Enter rows as the data sheet prints them.`, { rows: 0, row: 0 });

/**
 * A thermistor by three rows of its table.
 *
 * @param rows three, of different temperatures, −50 to 150 °C, each colder one with the larger resistance
 * @throws Refusal `table-unusable`, `out-of-range`
 * @see Steinhart & Hart, Deep-Sea Res. 15 (1968) 497
 * @example thermistorTemperature(steinhartHart([[0, 32650], [25, 10000], [50, 3603]]), 10000) // 25.0
 */
export function steinhartHart(rows: readonly [ThermistorRow, ThermistorRow, ThermistorRow]): SteinhartHart {
  const sorted = [...rows].sort((p, q) => p[0] - q[0]);
  for (const [t, r] of sorted) {
    requireWithin(t, RANGE.low, RANGE.high, 'temperature of a row', '°C', 'Enter a row of the data sheet.');
    requireWithin(r, 1, 1e8, 'resistance of a row', 'Ω', 'Enter a row of the data sheet.');
  }
  const [one, two, three] = sorted as [ThermistorRow, ThermistorRow, ThermistorRow];
  if (!(one[0] < two[0] && two[0] < three[0] && one[1] > two[1] && two[1] > three[1]))
    throw unusable('Three rows with three temperatures, the resistance falling, make a thermistor.');
  const [l1, l2, l3] = [one, two, three].map(([, r]) => Math.log(r)) as [number, number, number];
  const [y1, y2, y3] = [one, two, three].map(([t]) => 1 / kelvin(t)) as [number, number, number];
  const g2 = (y2 - y1) / (l2 - l1);
  const g3 = (y3 - y1) / (l3 - l1);
  const c = (g3 - g2) / (l3 - l2) / (l1 + l2 + l3);
  const b = g2 - c * (l1 * l1 + l1 * l2 + l2 * l2);
  const a = y1 - (b + c * l1 * l1) * l1;
  const made = { a, b, c };
  // Between its rows it must fall steadily, or the rows are of no thermistor.
  for (const l of [l1, l2, l3]) if (!(b + 3 * c * l * l > 0)) throw unusable('These rows are of no thermistor.');
  return made;
}

/**
 * Temperature of a thermistor.
 *
 * @param ohms above 0
 * @returns °C
 * @throws Refusal `out-of-range` beyond −50 to 150 °C: open, shorted, or another thermistor
 */
export function thermistorTemperature({ a, b, c }: SteinhartHart, ohms: number): number {
  requireWithin(ohms, 1e-3, 1e9, 'resistance', 'Ω', 'Check meter, leads and element.');
  const l = Math.log(ohms);
  const inverse = a + (b + c * l * l) * l;
  const t = inverse > 0 ? 1 / inverse - ZERO_CELSIUS_K : NaN;
  return requireWithin(
    t,
    RANGE.low,
    RANGE.high,
    'temperature',
    '°C',
    'Look for an open or shorted element, and check which rows it has.',
  );
}

/**
 * Resistance of a thermistor: the same read backwards, by halving.
 *
 * @returns Ω
 * @throws Refusal `out-of-range`
 * @example thermistorResistance(steinhartHart([[0, 32650], [25, 10000], [50, 3603]]), 25) // 10000
 */
export function thermistorResistance({ a, b, c }: SteinhartHart, temperatureC: number): number {
  requireWithin(temperatureC, RANGE.low, RANGE.high, 'temperature', '°C', 'Thermistors are used in that range.');
  const y = 1 / kelvin(temperatureC);
  const at = (l: number) => a + (b + c * l * l) * l - y;
  let [low, high] = [Math.log(1e-3), Math.log(1e9)];
  if (!(at(low) < 0 && at(high) > 0)) throw unusable('These rows have no such temperature.');
  for (let i = 0; i < 100; i++) {
    const middle = (low + high) / 2;
    if (at(middle) < 0) low = middle;
    else high = middle;
  }
  return Math.exp((low + high) / 2);
}

/**
 * What a measuring current warms a thermometer by.
 *
 * @param milliamps through it, 0 to 100
 * @param ohms its resistance
 * @param milliwattsPerC what it gives away, from its data sheet; in still air a tenth of what it is in water
 * @returns °C too high
 * @throws Refusal `out-of-range`
 * @example selfHeating(1, 100, 10) // 0.01
 */
export function selfHeating(milliamps: number, ohms: number, milliwattsPerC: number): number {
  requireWithin(milliamps, 0, 100, 'measuring current', 'mA', 'It is in the instrument’s data sheet.');
  requireWithin(ohms, 0, 1e7, 'resistance', 'Ω', 'Check the element.');
  requireWithin(milliwattsPerC, 0.01, 1e5, 'dissipation', 'mW/°C', 'It is in the element’s data sheet.');
  return (milliamps ** 2 * ohms) / 1000 / milliwattsPerC;
}

/** The rows by which a loop's thermistor is known; usual ones of a common 10 kΩ element, from memory. */
export const THERMISTOR_ROWS = [
  { key: 'ohms0', atC: 0, usual: 32_650 },
  { key: 'ohms25', atC: 25, usual: 10_000 },
  { key: 'ohms50', atC: 50, usual: 3603 },
] as const;

/**
 * The thermistor of a loop, by its settings.
 *
 * @returns null where the loop's element is no thermistor
 * @throws Refusal as `steinhartHart`
 * @example thermistorTemperature(thermistorOf({ element: 'thermistor', ohms25: 10000 }), 10000) // 25.0
 * @example thermistorOf({ element: 'Pt100' }) === null // 'true'
 */
export function thermistorOf(settings: Readonly<Record<string, number | string>>): SteinhartHart | null {
  if (settings['element'] !== 'thermistor') return null;
  const [cold, middle, warm] = THERMISTOR_ROWS.map(({ key, atC, usual }): ThermistorRow => [
    atC,
    Number(settings[key] ?? usual),
  ]) as [ThermistorRow, ThermistorRow, ThermistorRow];
  return steinhartHart([cold, middle, warm]);
}
