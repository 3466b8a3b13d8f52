import Papa from 'papaparse';
import { delimiterOf } from '../table/delimiter.ts';
import { encodeTable } from '../table/table.ts';

/** What an inventory says of a loop and its sensor, or of a sensor on the shelf. */
export const INVENTORY_COLUMNS = [
  'site',
  'time zone',
  'loop',
  'place',
  'measures',
  'works at',
  'water °C',
  'tolerance',
  'unit',
  'display step',
  'every days',
  'due by',
  'controls',
  'which it',
  'longest hold, min',
  'standards',
  'surroundings',
  'in the water',
  'on the body',
  'on the reference',
  'backup of',
  'settings',
  'conditions from',
  'limits',
  'channel',
  'sensor',
  'serial',
  'model',
  'bought on',
  'fitted on',
  'shelf',
] as const;
export type InventoryColumn = (typeof INVENTORY_COLUMNS)[number];

/** Columns that hold JSON. */
export const JSON_COLUMNS: readonly InventoryColumn[] = ['settings', 'conditions from', 'limits', 'channel'];
/** Columns that hold words with blanks between. */
export const LIST_COLUMNS: readonly InventoryColumn[] = ['standards', 'surroundings'];
const FIGURES: readonly InventoryColumn[] = [
  'works at',
  'water °C',
  'tolerance',
  'display step',
  'every days',
  'longest hold, min',
];

/** One row: every cell as a text, '' = not said. */
export interface InventoryRow {
  /** line of a CSV file, from 1; in JSON the number of the row, from 1 */
  readonly line: number;
  readonly cells: Readonly<Record<InventoryColumn, string>>;
}

interface InventoryRead {
  readonly rows: readonly InventoryRow[];
  /** what is wrong with the file as a whole; then there are no rows */
  readonly fault: { readonly line: number; readonly message: string } | null;
  /** where each column is, from 1; 0 = not there */
  readonly columnOf: (name: InventoryColumn) => number;
}

const NEEDED = 'A row needs “loop” and “measures”, or “sensor” and “measures” for one on the shelf.';

/**
 * Reads an inventory: CSV with a heading that names columns in any order (comma, semicolon or tab), or JSON: a list of objects
 * with the columns' names, or the same under “rows”.
 *
 * @param most rows
 * @example decodeInventory('loop,measures,works at\nTank 1 pH,ph,8.1', 9).rows[0].cells['works at'] // '8.1'
 */
export function decodeInventory(text: string, most: number): InventoryRead {
  const clean = text.replace(/^\uFEFF/, '').trim();
  const read = /^[[{]/.test(clean) ? fromJson(clean) : fromCsv(clean);
  if (read.fault) return read;
  if (!read.rows.length) return failed(1, `There is no row in the file. ${NEEDED}`);
  if (read.rows.length > most)
    return failed(most + 1, `The file has ${read.rows.length} rows; at most ${most} at once. Cut it into parts.`);
  return read;
}

const failed = (line: number, message: string): InventoryRead => ({
  rows: [],
  fault: { line, message },
  columnOf: () => 0,
});

const unknownIn = (names: readonly string[]) =>
  names.find((n) => n !== '' && !(INVENTORY_COLUMNS as readonly string[]).includes(n));

const rowOf = (line: number, cellOf: (name: InventoryColumn) => string): InventoryRow => ({
  line,
  cells: Object.fromEntries(INVENTORY_COLUMNS.map((name) => [name, cellOf(name).trim()])) as InventoryRow['cells'],
});

function fromCsv(text: string): InventoryRead {
  const [heading, ...body] = Papa.parse<string[]>(text, { delimiter: delimiterOf(text) }).data;
  const names = (heading ?? []).map((c) => c.trim());
  const unknown = unknownIn(names);
  if (unknown !== undefined)
    return failed(1, `There is no column “${unknown.slice(0, 40)}”. There are: ${INVENTORY_COLUMNS.join(', ')}.`);
  const rows = body
    .map((cells, i) => ({ cells, line: i + 2 }))
    .filter((r) => r.cells.some((c) => c.trim() !== ''))
    // A spreadsheet’s guard against formulas is no part of a name.
    .map(({ cells, line }) =>
      rowOf(line, (name) => (cells[names.indexOf(name)] ?? '').replace(/^'(?=[=+\-@\t\r])/, '')),
    );
  return { rows, fault: null, columnOf: (name) => names.indexOf(name) + 1 };
}

function fromJson(text: string): InventoryRead {
  let all: unknown;
  try {
    all = JSON.parse(text);
  } catch (error) {
    // Not every engine says where it has stopped.
    const at = Number(/at position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1] ?? 0);
    return failed(text.slice(0, at).split('\n').length, 'This is no JSON. Mend it, or save it as CSV.');
  }
  const list = Array.isArray(all) ? (all as unknown[]) : (all as { rows?: unknown }).rows;
  if (!Array.isArray(list))
    return failed(1, 'There is no list of rows in the file. Write a list, or one under “rows”.');
  const rows: InventoryRow[] = [];
  for (const [i, given] of (list as unknown[]).entries()) {
    if (typeof given !== 'object' || given === null || Array.isArray(given))
      return failed(i + 1, `Row ${i + 1} is no object with columns. ${NEEDED}`);
    const unknown = unknownIn(Object.keys(given));
    if (unknown !== undefined) return failed(i + 1, `There is no column “${unknown.slice(0, 40)}” (row ${i + 1}).`);
    rows.push(rowOf(i + 1, (name) => asText((given as Record<string, unknown>)[name])));
  }
  return { rows, fault: null, columnOf: () => 0 };
}

function asText(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  if (Array.isArray(value) && value.every((v) => typeof v === 'string')) return value.join(' ');
  return JSON.stringify(value);
}

type Told = readonly Readonly<Record<InventoryColumn, string>>[];

/** An inventory as CSV; reading it back gives the same rows. */
export const inventoryCsv = (rows: Told): string =>
  encodeTable(
    INVENTORY_COLUMNS,
    rows.map((row) => INVENTORY_COLUMNS.map((name) => row[name])),
  );

/** The same as JSON, with figures, lists and objects as such; what is not said is left out. */
export const inventoryJson = (rows: Told): string =>
  JSON.stringify({ rows: rows.map((row) => Object.fromEntries(INVENTORY_COLUMNS.flatMap((name) => told(name, row[name])))) }, null, 2); // prettier-ignore

function told(name: InventoryColumn, cell: string): [string, unknown][] {
  if (cell === '') return [];
  if (JSON_COLUMNS.includes(name)) return [[name, JSON.parse(cell)]];
  if (LIST_COLUMNS.includes(name)) return [[name, cell.split(' ')]];
  return [[name, FIGURES.includes(name) ? Number(cell) : cell]];
}
