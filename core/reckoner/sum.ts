import type { Kind, Unit } from '../quantities/units.ts';

/** One figure of a sum: typed, or found. */
export interface SumField {
  readonly id: string;
  readonly name: string;
  /** unit of a bare figure, and in which the arithmetic is done; '' = a bare number, whatever its unit */
  readonly unit: Unit | '';
  /** filled in until somebody types */
  readonly usual: number;
  /** fixed decimals when it is shown; absent = five significant digits */
  readonly decimals?: number;
  /** step for "and if it were a little more"; absent = not asked */
  readonly nudge?: number;
}

/** One thing to pick. */
export interface SumChoice {
  readonly id: string;
  readonly name: string;
  readonly usual: string;
  readonly options: readonly { readonly id: string; readonly name: string }[];
}

/** A further figure beside the one that was asked for. */
export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly decimals?: number;
}

/** What a way of reading a sum finds. */
export interface Answer {
  /** by id of the field, in the unit of the field */
  readonly found: Readonly<Record<string, number>>;
  /** ± of the first one found, k = 2, in its unit; null = exact by definition */
  readonly plusMinus: number | null;
  readonly plusMinusBecause: string;
  /** the formula with the numbers in it */
  readonly formula: string;
  readonly more: readonly Figure[];
  /** said beside the answer where it matters */
  readonly note?: string;
}

export type Figures = Readonly<Record<string, number>>;
export type Choices = Readonly<Record<string, string>>;

/** One direction of a sum: these fields are found from all the others. */
export interface Direction {
  /** the asked one first */
  readonly finds: readonly string[];
  /** @throws Refusal with value, bound and remedy */
  work(given: Figures, chosen: Choices): Answer;
}

/** One of the bench sums. */
export interface Sum {
  readonly id: string;
  readonly group: string;
  readonly title: string;
  /** what people look for when they need it */
  readonly words: string;
  readonly choices: readonly SumChoice[];
  readonly fields: readonly SumField[];
  /** the usual direction first */
  readonly ways: readonly Direction[];
  /** the formula in letters */
  readonly formula: string;
  readonly source: string;
  readonly validity: string;
  /** field along which a curve is worth looking at, and its range in the field's unit */
  readonly curve?: { readonly along: string; readonly low: number; readonly high: number };
}

/** What a field takes; null = a bare number. */
export type FieldKind = Kind | null;
