import { Refusal, requireWithin } from '../quantities/refusal.ts';
import type { Unit } from '../quantities/units.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/** A solution whose value is known over temperature. */
export interface Standard {
  readonly id: string;
  /** as people say it: "7.00", "phosphate 6.865" */
  readonly name: string;
  /** which sensors it serves */
  readonly family: string;
  /** unit of every value here; absent = pH */
  readonly unit?: Unit;
  /** value printed on the bottle */
  readonly nominal: number;
  /** °C at which the printed value holds */
  readonly nominalAtC: number;
  /** value over temperature, rising temperature */
  readonly table: readonly TableRow[];
  /** standard uncertainty (k = 1) of the value, same unit */
  readonly uncertainty: number;
  /** rounding step of the table, 0 when the rows are exact */
  readonly tableStep: number;
  readonly source: string;
  /** said when a temperature is refused, instead of "Bring the cup into that range." */
  readonly remedy?: string;
  /** for redox standards: the reference against which the value is printed, by its id; absent = standard hydrogen */
  readonly against?: string;
  /** the sensor hangs in air for it: no cup, no bottle, nothing to be stirred */
  readonly inAir?: boolean;
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
    `${temperatureC} °C is outside the table of ${standard.name} (${low} to ${high} °C). ${standard.remedy ?? 'Bring the cup into that range.'}`,
    { standard: standard.name, value: temperatureC, low, high },
  );
}

/**
 * How much the standard's value changes for a degree at this temperature: what a wrong thermometer costs.
 *
 * @returns units per °C, by a difference over ±0.5 °C inside the table
 * @throws Refusal `standard-outside-table`
 * @example temperatureSlope(buffer('technical-10.01'), 25) // -0.009
 */
export function temperatureSlope(standard: Standard, temperatureC: number): number {
  const low = Math.max(standard.table[0]![0], temperatureC - 0.5);
  const high = Math.min(standard.table.at(-1)![0], temperatureC + 0.5);
  return (valueAt(standard, high) - valueAt(standard, low)) / (high - low);
}

/** A bottle of the same name lies this near to the usual one, as a share of its value. Common practice, no source. */
const OWN_TABLE_SLACK = 0.05;

/**
 * Rounding step of printed figures: the last decimal that any of them uses. Figures lose the zeros at their end (7.00 is
 * 7): a label prints at least as finely as the usual table of its standard, and as finely as its own ±.
 */
function stepOf(table: readonly TableRow[], usualStep: number, plusMinus: number): number {
  const decimals = table.map(([, v]) => /\.(\d+)$/.exec(String(v))?.[1]?.length ?? 0);
  return Math.min(10 ** -Math.max(...decimals), usualStep || Infinity, plusMinus || Infinity);
}

/**
 * The same bottle with the table that its own label prints: a lot's table always wins.
 *
 * @param table °C and value, at least two rows, rising in temperature
 * @param expanded the ± that the certificate states, and its coverage factor
 * @throws Refusal `table-unusable` for fewer than two rows, no rising temperature, or a value that is no number;
 *   `table-of-another-standard` for a row far from what this standard has
 * @example valueAt(withOwnTable(buffer('technical-7.00'), [[20, 7.03], [25, 7.01]], { plusMinus: 0.02, k: 2 }), 25) // 7.01
 */
export function withOwnTable(
  standard: Standard,
  table: readonly TableRow[],
  expanded: { readonly plusMinus: number; readonly k: number },
): Standard {
  const bad = table.findIndex(
    ([t, v], i) => !Number.isFinite(t) || !Number.isFinite(v) || (i > 0 && t <= table[i - 1]![0]),
  );
  if (
    table.length < 2 ||
    bad >= 0 ||
    !(expanded.plusMinus >= 0 && expanded.plusMinus < 1e9) ||
    !(expanded.k >= 1 && expanded.k < 100)
  ) {
    throw new Refusal(
      'table-unusable',
      bad >= 0
        ? `Row ${bad + 1} of the table is no figure, or does not rise in temperature. Enter the rows as the label prints them.`
        : `The table has ${table.length} rows; it needs two or more, with a ± above 0. Enter the rows as the label prints them.`,
      { rows: table.length, row: bad + 1 },
    );
  }
  for (const [t, v] of table) {
    const usual = interpolate(standard.table, t);
    // A zero has no share of itself: what its own ± allows tenfold is still a zero.
    const slack = Math.max(OWN_TABLE_SLACK * Math.abs(standard.nominal), 10 * standard.uncertainty);
    if (usual === null || Math.abs(v - usual) <= slack) continue;
    throw new Refusal(
      'table-of-another-standard',
      `${v} at ${t} °C is far from what ${standard.name} has there (${usual.toPrecision(4)}). Check the row, and that it is the right bottle.`,
      { value: v, usual, temperatureC: t },
    );
  }
  return {
    ...standard,
    table,
    uncertainty: expanded.plusMinus / expanded.k,
    tableStep: stepOf(table, standard.tableStep, expanded.plusMinus),
    source: 'the lot’s own table',
  };
}

/**
 * What the age of an opened bottle adds: by the time that it is usually good for, it may have changed by as much as its
 * certificate's ±, either way. Common practice, no source.
 *
 * @param daysOpen since it was opened; negative = not opened yet
 * @param openedDays what is usual, Infinity for what does not age
 * @returns standard uncertainty, in the unit of the standard
 * @throws Refusal `out-of-range`
 * @example ageUncertainty(buffer('technical-7.00'), 30, 90) // 0.00385
 */
export function ageUncertainty({ uncertainty }: Standard, daysOpen: number, openedDays: number): number {
  if (!(daysOpen > 0) || !(openedDays > 0) || openedDays === Infinity) return 0;
  requireWithin(daysOpen, 0, 100_000, 'age of the opened bottle', 'days', 'Check when it was opened.');
  // One that keeps for less than an hour is not asked for its age.
  requireWithin(openedDays, 0.04, 100_000, 'days that an opened bottle keeps', 'days', 'Check the standard.');
  return ((2 * uncertainty) / Math.sqrt(3)) * (daysOpen / openedDays);
}

/**
 * The same bottle with the ± of its own certificate.
 *
 * @param plusMinus at k = 2, in the unit of the standard; above 0
 * @throws Refusal `out-of-range`
 * @example certified(buffer('technical-7.00'), 0.05).uncertainty // 0.025
 */
export function certified(standard: Standard, plusMinus: number): Standard {
  const most = Math.max(Math.abs(standard.nominal), 1);
  requireWithin(plusMinus, 1e-9, most, 'the ± of the certificate', standard.unit ?? 'pH', 'Enter what it states.');
  return { ...standard, uncertainty: plusMinus / 2, source: `${standard.source}; ± of the lot’s own certificate` };
}

/** The same solution under a name of its own: short, since it stands on cups and buttons. */
export const called = (standard: Standard, id: string, name: string): Standard => ({ ...standard, id, name });

/** What is left in water without it, standard uncertainty, mg/L. Common practice, no source. */
const BLANK = 0.01;

/** A bottle whose value does not move with temperature, in the unit that is printed on it. */
export function still(family: string, id: string, name: string, unit: Unit, value: number): Standard {
  return {
    id,
    name,
    family,
    unit,
    nominal: value,
    nominalAtC: 25,
    table: [
      [0, value],
      [60, value],
    ],
    // One percent at k = 1, as labels of such bottles state at the best; a blank has what clean water carries along.
    // Common practice, no source.
    uncertainty: value === 0 ? BLANK : 0.01 * value,
    tableStep: 0,
    source: 'a concentration by mass; common practice, no source',
  };
}
