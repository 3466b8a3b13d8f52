/**
 * A figure with decimal point or comma, minus sign or hyphen; null for anything else.
 *
 * @example figure('−8,4') // -8.4
 * @example figure('7.0.1') === null // 'true'
 */
export function figure(cell: string): number | null {
  const plain = cell.replace(/\u2212/g, '-').replace(',', '.');
  if (!/^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(plain)) return null;
  const value = Number(plain);
  // "1e999" is a figure by its look, and no number.
  return Number.isFinite(value) ? value : null;
}
