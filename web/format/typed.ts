/**
 * A typed figure, with a comma or a point and any minus sign.
 *
 * @returns undefined for an empty text; a text that is no figure as it stands, so that a schema can name it
 * @example typedNumber('21,5') // 21.5
 */
export function typedNumber(text: string): number | string | undefined {
  const plain = text.trim().replace(',', '.').replace('−', '-');
  if (plain === '') return undefined;
  return Number.isNaN(Number(plain)) ? text : Number(plain);
}
