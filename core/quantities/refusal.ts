/** Facts that go with a refusal: whatever a message or a screen needs to say value, limit and way out. */
export type RefusalFacts = Readonly<Record<string, string | number | boolean | null>>;

/**
 * A typed "no" of the core: a code that programs branch on, a sentence for the operator, and the facts in it.
 *
 * The sentence says the value, the bound and the remedy, in that order.
 *
 * @example new Refusal('out-of-range', '61 °C is outside the table (0 to 50 °C). Cool the cup.', { value: 61 }).code // 'out-of-range'
 */
export class Refusal extends Error {
  override readonly name = 'Refusal';
  readonly code: string;
  readonly facts: RefusalFacts;

  constructor(code: string, message: string, facts: RefusalFacts = {}) {
    super(message);
    this.code = code;
    this.facts = facts;
  }
}

/**
 * Stops anything that is not an ordinary number before it can spread.
 *
 * @throws Refusal `not-a-number` naming the quantity
 * @example requireFinite(7, 'pH') // 7
 */
export function requireFinite(value: number, quantity: string): number {
  if (Number.isFinite(value)) return value;
  throw new Refusal('not-a-number', `${quantity} is not a number. Enter a figure such as 7.01.`, { quantity });
}

/**
 * Refuses a value outside its validity.
 *
 * @param unit printed after each figure, '' for none
 * @throws Refusal `out-of-range` with value, lower and upper bound
 * @example requireWithin(25, 0, 50, 'temperature', '°C', 'Bring the cup into that range.') // 25
 */
export function requireWithin(
  value: number,
  low: number,
  high: number,
  quantity: string,
  unit: string,
  remedy: string,
): number {
  requireFinite(value, quantity);
  if (value >= low && value <= high) return value;
  const u = unit ? ` ${unit}` : '';
  // A computed limit can have many decimal places; six digits are enough to read.
  const limit = (of: number) => Number(of.toPrecision(6));
  throw new Refusal(
    'out-of-range',
    `${quantity} ${value}${u} is outside ${limit(low)} to ${limit(high)}${u}. ${remedy}`,
    {
      quantity,
      value,
      low,
      high,
    },
  );
}
