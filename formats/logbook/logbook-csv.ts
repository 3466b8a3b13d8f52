import Papa from 'papaparse';
import { figure } from '@frustum/core';
import { delimiterOf } from '../table/delimiter.ts';
import { encodeTable, type Cell } from '../table/table.ts';

/** One standard, or one sample, of a past run, as it stands in a paper logbook. */
export interface LogbookRow {
  /** line of the file, from 1, the heading included */
  readonly line: number;
  /** 2026-11-20T08:00, by the clock on the wall; or with a zone of its own */
  readonly when: string;
  readonly sensor: string;
  /** name or value of a standard; “sample” for what a lab has found in the water */
  readonly standard: string;
  /** of a sample: what the lab has found; null for a standard */
  readonly value: number | null;
  /** what the display showed before */
  readonly asFound: number;
  /** what it showed after it was adjusted; null where it was left */
  readonly asLeft: number | null;
  /** °C; null = not noted */
  readonly temperatureC: number | null;
  readonly by: string;
}

/** A cell that cannot be used: where it stands, what is in it, and the way out. */
export interface LogbookFault {
  readonly line: number;
  /** of the file, from 1; 0 = the whole line */
  readonly column: number;
  readonly message: string;
}

export interface LogbookRead {
  readonly rows: readonly LogbookRow[];
  readonly faults: readonly LogbookFault[];
  /** where each column of the heading is, from 1; 0 = not there */
  readonly columnOf: (name: LogbookColumn) => number;
}

export const LOGBOOK_COLUMNS = [
  'when',
  'sensor',
  'standard',
  'value',
  'as found',
  'as left',
  'temperature',
  'by',
] as const;
export type LogbookColumn = (typeof LOGBOOK_COLUMNS)[number];
const NEEDED: readonly LogbookColumn[] = ['when', 'sensor', 'standard', 'as found'];

/**
 * Reads past runs: CSV with the heading when, sensor, standard, value, as found, as left, temperature, by, in any order; comma,
 * semicolon or tab; decimal point or comma. Rows of one sensor and one time are one run. What cannot be read is named, line by
 * line; rows that can be read come back all the same, so that everything is said at once.
 *
 * @param most rows
 * @example decodeLogbook('when,sensor,standard,as found\n2024-03-01,Tank 1 pH,7.00,7.06', 9).rows[0].asFound // 7.06
 */
export function decodeLogbook(text: string, most: number): LogbookRead {
  const [heading, ...body] = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter: delimiterOf(text) }).data;
  const names = (heading ?? []).map((c) => c.trim().toLowerCase());
  const columnOf = (name: LogbookColumn) => names.indexOf(name) + 1;
  const fail = (line: number, message: string): LogbookRead => ({
    rows: [],
    faults: [{ line, column: 0, message }],
    columnOf,
  });
  const missing = NEEDED.filter((n) => !names.includes(n));
  if (missing.length)
    return fail(1, `The heading has no “${missing.join('”, no “')}”. It names ${LOGBOOK_COLUMNS.join(', ')}.`);
  const full = body.map((cells, i) => ({ cells, line: i + 2 })).filter((r) => r.cells.some((c) => c.trim() !== ''));
  if (!full.length) return fail(1, 'There is no run in the file: write one line for each standard.');
  if (full.length > most)
    return fail(most + 2, `The file has ${full.length} lines; at most ${most} at once. Cut it into parts.`);
  const faults: LogbookFault[] = [];
  const rows = full.flatMap(({ cells, line }) => rowOf(cells, line, names, columnOf, faults) ?? []);
  return { rows, faults, columnOf };
}

function rowOf(
  cells: readonly string[],
  line: number,
  names: readonly string[],
  columnOf: (name: LogbookColumn) => number,
  faults: LogbookFault[],
): LogbookRow | null {
  const before = faults.length;
  const cell = (name: LogbookColumn) => (cells[names.indexOf(name)] ?? '').trim();
  const wrong = (name: LogbookColumn, message: string) => void faults.push({ line, column: columnOf(name), message });
  const shown = (name: LogbookColumn) => `“${cell(name).slice(0, 30)}”`;
  const number = (name: LogbookColumn, like: string): number | null => {
    if (cell(name) === '') return null;
    const value = figure(cell(name));
    if (value === null) wrong(name, `${shown(name)} is not a figure. Write it like ${like}.`);
    return value;
  };
  const when = momentIn(cell('when'));
  if (when === null) wrong('when', `${shown('when')} is no day. Write it like 2024-03-01, or 2024-03-01 08:30.`);
  for (const name of ['sensor', 'standard', 'as found'] as const)
    if (cell(name) === '') wrong(name, `The ${name} is missing.`);
  const asFound = number('as found', '7.06');
  const row = {
    line,
    when: when ?? '',
    sensor: cell('sensor'),
    standard: cell('standard'),
    value: number('value', '8.12'),
    asFound: asFound ?? NaN,
    asLeft: number('as left', '7.00'),
    temperatureC: number('temperature', '22.5'),
    by: cell('by').slice(0, 40),
  };
  return faults.length > before ? null : row;
}

/** A day, or a day and a time, as people write them where it can be read in one way only; null otherwise. */
function momentIn(text: string): string | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](\d{1,2}):(\d{2})(?::\d{2}(?:\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?$/.exec(
    text,
  );
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})(?: (\d{1,2}):(\d{2}))?$/.exec(text);
  const parts = iso
    ? { y: iso[1]!, m: iso[2]!, d: iso[3]!, h: iso[4] ?? '12', min: iso[5] ?? '00', zone: iso[6] ?? '' }
    : dotted && { y: dotted[3]!, m: dotted[2]!, d: dotted[1]!, h: dotted[4] ?? '12', min: dotted[5] ?? '00', zone: '' };
  if (!parts) return null;
  const [y, m, d, h, min] = [parts.y, parts.m, parts.d, parts.h, parts.min].map(Number) as [number, number, number, number, number]; // prettier-ignore
  const date = new Date(Date.UTC(y, m - 1, d, h, min));
  // 31 February would roll over to March, and 25 o’clock to the next day.
  const rolled = date.getUTCMonth() !== m - 1 || date.getUTCDate() !== d || date.getUTCHours() !== h || min > 59;
  return rolled || y < 1970 || y > 2199 ? null : date.toISOString().slice(0, 16) + parts.zone;
}

/** A sheet to fill in: the heading, and a line for each usual standard of each sensor. */
export const logbookSheet = (lines: readonly { readonly sensor: string; readonly standard: string }[]): string =>
  encodeTable(
    LOGBOOK_COLUMNS,
    lines.map(({ sensor, standard }): Cell[] => ['', sensor, standard, '', '', '', '', '']),
  );
