/**
 * A figure as it is read: a real minus sign, fixed decimals or five significant digits, no exponent at the bench's sizes.
 *
 * @example shown(-69.523, 1) // '−69.5'
 * @example shown(0.000745548) // '0.00074555'
 */
export function shown(value: number, decimals?: number): string {
  const text = decimals === undefined ? plain(value) : Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

function plain(value: number): string {
  const size = Math.abs(value);
  const rounded = Number(size.toPrecision(5));
  if (rounded === 0 || (rounded >= 1e-4 && rounded < 1e9))
    return String(rounded).includes('e') ? rounded.toFixed(12) : String(rounded);
  return rounded >= 1e9 ? rounded.toExponential(4) : withoutTail(rounded.toFixed(10));
}

const withoutTail = (text: string) => text.replace(/0+$/, '').replace(/\.$/, '');

/**
 * The same inside a formula: a negative figure in brackets.
 *
 * @example inside(-8.4, 1) // '(−8.4)'
 */
export function inside(value: number, decimals?: number): string {
  const text = shown(value, decimals);
  return text.startsWith('−') ? `(${text})` : text;
}
