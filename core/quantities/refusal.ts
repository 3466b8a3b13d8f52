import type { RefusalCode, RefusalFactsOf } from './refusal-codes.ts';

/** Codes that have no facts, or none that every place knows. */
type Optional<C extends RefusalCode> = object extends RefusalFactsOf[C] ? true : false;
type Facts<C extends RefusalCode> =
  Optional<C> extends true ? readonly [facts?: RefusalFactsOf[C]] : readonly [facts: RefusalFactsOf[C]];

class Said extends Error {
  override readonly name = 'Refusal';
  readonly code: RefusalCode;
  readonly facts: RefusalFactsOf[RefusalCode];

  constructor(code: RefusalCode, message: string, facts: RefusalFactsOf[RefusalCode] = {}) {
    super(message);
    this.code = code;
    this.facts = facts;
  }
}

/**
 * A typed "no" of the core: a code that programs branch on, a sentence for the operator, and the facts in it. By its code a
 * program knows its facts.
 *
 * The sentence says the value, the bound and the remedy, in that order. Every code with its facts is in `refusal-codes.ts`.
 *
 * @example new Refusal('sensitivity-zero', 'A sensitivity of 0 % shows nothing.', { sensitivity: 0 }).code // 'sensitivity-zero'
 */
export type Refusal = Said &
  { readonly [C in RefusalCode]: { readonly code: C; readonly facts: RefusalFactsOf[C] } }[RefusalCode];
export const Refusal = Said as unknown as {
  readonly prototype: Refusal;
  new <C extends RefusalCode>(code: C, message: string, ...facts: Facts<C>): Extract<Refusal, { readonly code: C }>;
};

/** A refusal as it goes from one thread or machine to another. */
export type RefusalSaid = Pick<Refusal, 'code' | 'message' | 'facts'>;

/** @example saidOf(new Refusal('no-house', 'There is no house here.')).code // 'no-house' */
export const saidOf = ({ code, message, facts }: Refusal): RefusalSaid => ({ code, message, facts });

/** The same refusal on the other side. @example refusalSaid({ code: 'no-house', message: 'There is no house here.', facts: {} }).code // 'no-house' */
export const refusalSaid = ({ code, message, facts }: RefusalSaid): Refusal =>
  new Said(code, message, facts) as Refusal;

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
