import Papa from 'papaparse';

/** A cell: figures stay figures, nothing is an empty cell. */
export type Cell = string | number | null;

/**
 * A table as CSV by RFC 4180: heading first, commas, points, CRLF. A text that a spreadsheet would take for a formula gets an
 * apostrophe before it; figures below zero stay as they are.
 *
 * @example encodeTable(['a'], [[-1.5]]) // 'a\r\n-1.5\r\n'
 */
export function encodeTable(heading: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const text = Papa.unparse([[...heading], ...rows.map((r) => r.map((c) => c ?? ''))], {
    escapeFormulae: true,
    newline: '\r\n',
  });
  return `${text}\r\n`;
}
