import Papa from 'papaparse';
import { figure } from '@frustum/core';
import { delimiterOf } from '../table/delimiter.ts';
import { encodeTable } from '../table/table.ts';

/** One dose of a file. */
export interface Dose {
  /** ISO 8601 UTC */
  readonly at: string;
  readonly what: string;
  readonly amount: number;
  readonly unit: string;
}

/** A cell that cannot be used: where it stands and what to do. */
export interface DoseFault {
  /** line of the file, from 1, the heading included */
  readonly line: number;
  readonly message: string;
}

export type DosesResult =
  | { readonly ok: true; readonly doses: readonly Dose[] }
  | { readonly ok: false; readonly faults: readonly DoseFault[] };

const HEADING = ['time', 'what', 'amount', 'unit'] as const;
const MAX_FAULTS = 10;

/**
 * Reads a list of doses: CSV with the heading time, what, amount, unit, in any order; comma, semicolon or tab; decimal point or
 * comma. Time is ISO 8601; without a zone it is the reader's own. All or nothing: one bad row and no dose comes back.
 *
 * @param units that an amount may be counted in
 * @param most rows
 * @example decodeDoses('time,what,amount,unit\n2026-11-20T08:00Z,acid,12.5,mL', ['mL'], 9).doses[0].amount // 12.5
 */
export function decodeDoses(text: string, units: readonly string[], most: number): DosesResult {
  const fail = (line: number, message: string): DosesResult => ({ ok: false, faults: [{ line, message }] });
  const rows = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimiter: delimiterOf(text) }).data;
  const [heading, ...body] = rows;
  const names = (heading ?? []).map((c) => c.trim().toLowerCase());
  const missing = HEADING.filter((h) => !names.includes(h));
  if (missing.length)
    return fail(1, `The heading has no ${missing.join(', no ')}. It must name ${HEADING.join(', ')}.`);
  const full = body.map((cells, i) => ({ cells, line: i + 2 })).filter((r) => r.cells.some((c) => c.trim() !== ''));
  if (!full.length) return fail(1, 'There is no dose in the file.');
  if (full.length > most)
    return fail(most + 2, `The file has ${full.length} doses; at most ${most} at once. Cut it into parts.`);
  const faults: DoseFault[] = [];
  const doses = full.map(({ cells, line }): Dose => {
    const cell = (name: (typeof HEADING)[number]) => (cells[names.indexOf(name)] ?? '').trim();
    const wrong = (message: string) => void faults.push({ line, message });
    const ms = /^\d{4}-\d{2}-\d{2}[T ]\d/.test(cell('time')) ? Date.parse(cell('time').replace(' ', 'T')) : NaN;
    if (!Number.isFinite(ms)) wrong(`“${cell('time').slice(0, 30)}” is no time. Write it like 2026-11-20T08:00.`);
    const amount = figure(cell('amount'));
    if (amount === null || !(amount > 0)) wrong(`“${cell('amount').slice(0, 30)}” is no amount above 0.`);
    if (!cell('what')) wrong('What was dosed is missing.');
    if (!units.includes(cell('unit')))
      wrong(`The unit “${cell('unit').slice(0, 12)}” is not one of ${units.join(', ')}.`);
    return {
      at: Number.isFinite(ms) ? new Date(ms).toISOString() : '',
      what: cell('what'),
      amount: amount ?? NaN,
      unit: cell('unit'),
    };
  });
  return faults.length ? { ok: false, faults: faults.slice(0, MAX_FAULTS) } : { ok: true, doses };
}

/** The same table, for a spreadsheet or another Frustum. */
export const encodeDoses = (doses: readonly Dose[]): string =>
  encodeTable(
    HEADING,
    doses.map((d) => [d.at, d.what, d.amount, d.unit]),
  );
