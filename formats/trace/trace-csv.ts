import Papa from 'papaparse';
import { figure, IDEAL_SENSOR, millivolts, type Coefficients, type Sample } from '@frustum/core';

/** A cell that cannot be used: where it stands and what to do. */
export interface TraceFault {
  /** line of the file, from 1, the heading included */
  readonly line: number;
  /** column of the file, from 1; 0 = the whole line */
  readonly column: number;
  readonly message: string;
}

export type TraceResult =
  | { readonly ok: true; readonly samples: readonly Sample[]; readonly signal: 'mV' | 'pH' }
  | { readonly ok: false; readonly faults: readonly TraceFault[] };

/** Nothing longer is one capture. */
export const MAX_ROWS = 20_000;
export const MAX_BYTES = 2_000_000;
const MAX_FAULTS = 20;

/**
 * Reads a recorded trace: time, mV or pH, °C; comma, semicolon or tab; decimal point or comma; with or without heading.
 *
 * Time may be seconds, h:mm:ss or ISO 8601. All or nothing: one bad row and no sample comes back.
 *
 * @param inForce what the channel believed while it showed pH; turns pH back into mV
 */
export function decodeTrace(text: string, inForce: Coefficients = IDEAL_SENSOR): TraceResult {
  const fail = (line: number, column: number, message: string): TraceResult => ({
    ok: false,
    faults: [{ line, column, message }],
  });
  if (text.length > MAX_BYTES)
    return fail(
      1,
      0,
      `The file has ${text.length} characters; a trace has at most ${MAX_BYTES}. Cut it to one capture.`,
    );
  const clean = text.replace(/^\uFEFF/, '');
  const delimiter = delimiterOf(clean);
  const rows = Papa.parse<string[]>(clean, { delimiter, skipEmptyLines: false }).data;
  const first = rows.findIndex((r) => r.some((c) => c.trim() !== ''));
  if (first < 0) return fail(1, 0, 'The file is empty. Record time, mV or pH, and °C.');
  const heading = headingOf(rows[first]!);
  const body = rows.slice(heading ? first + 1 : first);
  if (body.length > MAX_ROWS)
    return fail(MAX_ROWS + 1, 0, `The file has ${body.length} rows; a trace has at most ${MAX_ROWS}.`);
  const columns = heading ?? { time: 0, signal: 1, temperature: 2, isPh: null };
  return readRows(body, first + (heading ? 2 : 1), columns, inForce);
}

interface Columns {
  readonly time: number;
  readonly signal: number;
  readonly temperature: number;
  /** null: no heading says, so the size of the figures decides */
  readonly isPh: boolean | null;
}

function readRows(body: readonly string[][], firstLine: number, columns: Columns, inForce: Coefficients): TraceResult {
  const faults: TraceFault[] = [];
  const raw: { t: number; signal: number; temperatureC: number }[] = [];
  body.forEach((cells, i) => {
    if (cells.every((c) => c.trim() === '')) return;
    const line = firstLine + i;
    const number = (column: number, name: string, read = figure): number => {
      const cell = (cells[column] ?? '').trim();
      const value = read(cell);
      if (value === null && faults.length < MAX_FAULTS) {
        faults.push({
          line,
          column: column + 1,
          message: cell ? `“${cell.slice(0, 30)}” is no ${name}.` : `The ${name} is missing.`,
        });
      }
      return value ?? NaN;
    };
    const row = {
      t: number(columns.time, 'time', seconds),
      signal: number(columns.signal, 'reading'),
      temperatureC: number(columns.temperature, 'temperature'),
    };
    const before = raw.at(-1);
    if (before && row.t <= before.t)
      faults.push({
        line,
        column: columns.time + 1,
        message: 'The time does not go on: it is not later than in the row before.',
      });
    if (row.temperatureC < -10 || row.temperatureC > 130)
      faults.push({
        line,
        column: columns.temperature + 1,
        message: `${row.temperatureC} °C is outside −10 to 130 °C. Is the column in °F?`,
      });
    raw.push(row);
  });
  if (!faults.length && raw.length < 6)
    faults.push({ line: firstLine, column: 0, message: `${raw.length} rows; settling needs at least 6.` });
  const isPh = columns.isPh ?? raw.every((r) => r.signal >= 0 && r.signal <= 14);
  const limit = isPh ? ([-2, 16, 'pH'] as const) : ([-2000, 2000, 'mV'] as const);
  raw.forEach((r, i) => {
    if ((r.signal < limit[0] || r.signal > limit[1]) && faults.length < MAX_FAULTS) {
      faults.push({
        line: firstLine + i,
        column: columns.signal + 1,
        message: `${r.signal} is outside ${limit[0]} to ${limit[1]} ${limit[2]}.`,
      });
    }
  });
  if (faults.length) return { ok: false, faults: faults.slice(0, MAX_FAULTS) };
  const start = raw[0]!.t;
  const samples = raw.map((r) => ({
    t: r.t - start,
    signal: isPh ? millivolts(r.signal, r.temperatureC, inForce) : r.signal,
    temperatureC: r.temperatureC,
  }));
  return { ok: true, samples, signal: isPh ? 'pH' : 'mV' };
}

/** Semicolon and tab win over comma, since a comma may be the decimal sign. */
function delimiterOf(text: string): string {
  const head = text.slice(0, 2000);
  if (head.includes(';')) return ';';
  if (head.includes('\t')) return '\t';
  return ',';
}

function headingOf(cells: readonly string[]): Columns | null {
  if (figure((cells[1] ?? '').trim()) !== null) return null;
  const names = cells.map((c) => c.trim().toLowerCase());
  const find = (pattern: RegExp, otherwise: number) => {
    const i = names.findIndex((n) => pattern.test(n));
    return i < 0 ? otherwise : i;
  };
  const ph = names.findIndex((n) => /(^|[^a-z])ph([^a-z]|$)/.test(n));
  const mv = names.findIndex((n) => /mv|millivolt|potential/.test(n));
  const signal = mv >= 0 ? mv : ph >= 0 ? ph : 1;
  return {
    time: find(/time|seconds|^t( |$|\[|\()|^s$/, 0),
    signal,
    temperature: find(/°c|temp|^c$|celsius|deg/, 2),
    isPh: mv >= 0 ? false : ph >= 0 ? true : null,
  };
}

/** Seconds, h:mm:ss(.s) or ISO 8601; null for anything else. */
function seconds(cell: string): number | null {
  const plain = figure(cell);
  if (plain !== null) return plain;
  const clock = /^(?:(\d+):)?(\d{1,2}):(\d{2}(?:[.,]\d+)?)$/.exec(cell);
  if (clock) return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]!.replace(',', '.'));
  const iso = /^\d{4}-\d{2}-\d{2}[T ]/.test(cell) ? Date.parse(cell.replace(' ', 'T')) : NaN;
  return Number.isFinite(iso) ? iso / 1000 : null;
}
