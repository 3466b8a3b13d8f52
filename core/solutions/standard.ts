import { Refusal } from '../quantities/refusal.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/** A solution whose value is known over temperature. */
export interface Standard {
  readonly id: string;
  /** as people say it: "7.00", "phosphate 6.865" */
  readonly name: string;
  readonly family: 'ph';
  /** value printed on the bottle */
  readonly nominal: number;
  /** °C at which the printed value holds */
  readonly nominalAtC: number;
  /** value over temperature, °C → pH, rising temperature */
  readonly table: readonly TableRow[];
  /** standard uncertainty (k = 1) of the value, same unit */
  readonly uncertainty: number;
  /** rounding step of the table, 0 when the rows are exact */
  readonly tableStep: number;
  readonly source: string;
}

/**
 * Value of a standard at the temperature of the cup.
 *
 * @param temperatureC measured in the cup, °C
 * @throws Refusal `standard-outside-table`: a table is never stretched
 * @example valueAt(buffer('technical-7.00'), 20) // 7.02
 */
export function valueAt(standard: Standard, temperatureC: number): number {
  const value = interpolate(standard.table, temperatureC);
  if (value !== null) return value;
  const low = standard.table[0]?.[0] ?? NaN;
  const high = standard.table.at(-1)?.[0] ?? NaN;
  throw new Refusal(
    'standard-outside-table',
    `${temperatureC} °C is outside the table of ${standard.name} (${low} to ${high} °C). Bring the cup into that range.`,
    { standard: standard.name, value: temperatureC, low, high },
  );
}

/**
 * How much the standard's value changes for a degree at this temperature: what a wrong thermometer costs.
 *
 * @returns pH per °C, by a difference over ±0.5 °C inside the table
 * @example temperatureSlope(buffer('technical-10.01'), 25) // -0.009
 */
export function temperatureSlope(standard: Standard, temperatureC: number): number {
  const low = Math.max(standard.table[0]![0], temperatureC - 0.5);
  const high = Math.min(standard.table.at(-1)![0], temperatureC + 0.5);
  return (valueAt(standard, high) - valueAt(standard, low)) / (high - low);
}
