import { figure, type TableRow } from '@frustum/core';

/** No label prints more. */
const MAX_ROWS = 60;

export type LotTable =
  | { readonly ok: true; readonly rows: readonly TableRow[] }
  | { readonly ok: false; readonly message: string };

/**
 * Reads the table from a bottle's label as people type it: a temperature and a value on each line, in any order.
 *
 * Space, tab, semicolon or equals sign between them; decimal point or comma; °C and pH may stand behind the figures. All or
 * nothing: a line that cannot be read is named, and no row comes back.
 *
 * @example decodeLotTable('20 °C  7.02\n25 °C  7.00').rows // [[20, 7.02], [25, 7]]
 */
export function decodeLotTable(text: string): LotTable {
  const lines = text.split(/\r?\n/).map((line) => line.trim());
  const rows: TableRow[] = [];
  for (const [i, line] of lines.entries()) {
    if (!line) continue;
    const cells = line
      .replace(/°\s*c|\bpH\b|[:=]/gi, ' ')
      .split(/[\s;]+/)
      .filter(Boolean);
    const [temperatureC, value] = cells.map((c) => figure(c));
    if (cells.length !== 2 || temperatureC == null || value == null) {
      return {
        ok: false,
        message: `Line ${i + 1}, “${line.slice(0, 40)}”, is no temperature and value. Type it like 20 7.02.`,
      };
    }
    if (rows.some(([t]) => t === temperatureC)) {
      return { ok: false, message: `Line ${i + 1}: ${temperatureC} °C stands there twice. Keep one of the two.` };
    }
    rows.push([temperatureC, value]);
    if (rows.length > MAX_ROWS) return { ok: false, message: `More than ${MAX_ROWS} rows. A label prints fewer.` };
  }
  if (rows.length < 2)
    return {
      ok: false,
      message: `${rows.length} rows; a table needs two or more. Type one on each line, like 20 7.02.`,
    };
  return { ok: true, rows: rows.sort(([a], [b]) => a - b) };
}
