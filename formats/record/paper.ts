/** A piece of a document, as the PDF library takes it: plain data. */
export type Piece = Readonly<Record<string, unknown>> | string;

export const fixed = (value: number | null | undefined, digits: number) =>
  value === null || value === undefined || !Number.isFinite(value)
    ? '–'
    : `${value < 0 && Number(value.toFixed(digits)) !== 0 ? '−' : ''}${Math.abs(value).toFixed(digits)}`;
export const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
export const signed = (value: number, digits: number) => (value > 0 ? '+' : '') + fixed(value, digits);
/** In UTC, so that two readers in two zones read one thing. */
export const timeOf = (iso: string) => `${iso.slice(0, 10)} ${iso.slice(11, 16)} UTC`;

export const table = (
  widths: readonly (string | number)[],
  rows: readonly (readonly Piece[])[],
  headed = true,
): Piece => ({
  table: { headerRows: headed ? 1 : 0, widths: [...widths], body: rows.map((r) => [...r]) },
  layout: 'lightHorizontalLines',
});
export const pairs = (rows: readonly (readonly [string, string])[]): Piece =>
  table(
    [120, '*'],
    rows.filter(([, value]) => value !== ''),
    false,
  );
export const h2 = (text: string): Piece => ({ text, style: 'h2' });
export const list = (items: readonly string[]): Piece[] => (items.length ? [{ ul: [...items] }] : []);
