import { figure } from '../quantities/figure.ts';
import { readQuantity } from '../quantities/read-quantity.ts';
import { Refusal } from '../quantities/refusal.ts';
import { convertTo, kindOf } from '../quantities/units.ts';
import { shown } from './figures.ts';
import type { Answer, Choices, FieldKind, Figures, Sum, SumField, Direction } from './sum.ts';

/** What stands in a sum: texts as typed, and what was picked. */
export interface SumInput {
  /** by field; a field that is missing keeps its usual figure */
  readonly typed: Readonly<Record<string, string>>;
  readonly chosen: Choices;
  /** which direction, by its place in the sum's list */
  readonly way: number;
}

export interface Solved {
  readonly way: Direction;
  /** the given figures, in the units of their fields */
  readonly given: Figures;
  /** null when something stands in the way */
  readonly answer: Answer | null;
  /** by field: what is wrong with what was typed there */
  readonly troubles: Readonly<Record<string, string>>;
  /** the sum's own refusal: value, bound, remedy */
  readonly refusal: string | null;
}

/** @example fieldKind({ id: 't', name: 'T', unit: '°C', usual: 25 }) // 'temperature' */
export function fieldKind(field: SumField): FieldKind {
  return field.unit === '' ? null : kindOf(field.unit);
}

/**
 * The direction once somebody types into a field: the present one if it takes this field as given, else the first that
 * does.
 *
 * @returns place of the direction in the sum's list
 * @example wayAfter(sumOf('temperature'), 0, 'f') // 1
 */
export function wayAfter(sum: Sum, way: number, typedInto: string): number {
  const finds = (w: Direction | undefined) => w?.finds.includes(typedInto) ?? false;
  if (!finds(sum.ways[way])) return way;
  const next = sum.ways.findIndex((w) => !finds(w));
  return next >= 0 ? next : way;
}

/**
 * The picks of a sum, with the usual ones where none was made or the pick is unknown.
 *
 * @example Object.keys(chosenOf(sumOf('buffer'), {})).length // 1
 */
export function chosenOf(sum: Sum, chosen: Choices): Choices {
  return Object.fromEntries(
    sum.choices.map((c) => [c.id, c.options.some((o) => o.id === chosen[c.id]) ? chosen[c.id]! : c.usual]),
  );
}

/**
 * Answers a sum from what was typed. Never throws, never NaN: troubles are told at their fields, refusals as one sentence.
 *
 * @example solve(sumOf('temperature'), { typed: { c: '26.1' }, chosen: {}, way: 0 }).answer.found.f // 78.98
 * @example solve(sumOf('temperature'), { typed: { c: '78.98 F' }, chosen: {}, way: 0 }).given.c // 26.1
 */
export function solve(sum: Sum, input: SumInput): Solved {
  const way = sum.ways[input.way] ?? sum.ways[0]!;
  const given: Record<string, number> = {};
  const troubles: Record<string, string> = {};
  for (const field of sum.fields) {
    if (way.finds.includes(field.id)) continue;
    const read = readField(field, input.typed[field.id]);
    if (typeof read === 'number') given[field.id] = read;
    else troubles[field.id] = read.message;
  }
  if (Object.keys(troubles).length > 0) return { way, given, answer: null, troubles, refusal: null };
  const worked = attempt(way, given, chosenOf(sum, input.chosen));
  return typeof worked === 'string'
    ? { way, given, answer: null, troubles, refusal: worked }
    : { way, given, answer: worked, troubles, refusal: null };
}

/** No reading of any instrument is larger. */
const MOST = 1e12;

function readField(field: SumField, text: string | undefined): number | { readonly message: string } {
  if (text === undefined) return field.usual;
  if (field.unit === '') {
    const plain = text.trim();
    const value = figure(plain);
    if (value !== null && Math.abs(value) <= MOST) return value;
    if (value !== null) return { message: `${plain} is beyond any reading (±${MOST}). Check the figure.` };
    return { message: plain ? `“${plain}” is not a figure. Type it like ${field.usual}.` : 'Nothing typed yet.' };
  }
  const read = readQuantity(text, [kindOf(field.unit)], field.unit);
  return read.ok ? convertTo(read.value, read.unit, field.unit)! : { message: read.message };
}

/** The answer, or the refusal's sentence. */
function attempt(way: Direction, given: Figures, chosen: Choices): Answer | string {
  try {
    const answer = way.work(given, chosen);
    const figures = [...Object.values(answer.found), ...answer.more.map((m) => m.value), answer.plusMinus ?? 0];
    return figures.every(Number.isFinite) ? answer : 'These figures together have no answer. Check each with its unit.';
  } catch (error) {
    if (error instanceof Refusal) return error.message;
    throw error;
  }
}

/** A little more of one given figure, and what it does. */
export interface Nudge {
  readonly field: SumField;
  readonly by: number;
  /** change of the asked figure, in its unit */
  readonly change: number;
}

/**
 * What a little more of each given figure would do to the answer.
 *
 * @returns one entry for each field that has a step; none where the sum refuses the moved figure
 */
export function nudges(sum: Sum, solved: Solved, chosen: Choices): readonly Nudge[] {
  const { way, given, answer } = solved;
  if (!answer) return [];
  const asked = way.finds[0]!;
  return sum.fields.flatMap((field) => {
    const by = field.nudge;
    if (by === undefined || given[field.id] === undefined) return [];
    const moved = attempt(way, { ...given, [field.id]: given[field.id]! + by }, chosenOf(sum, chosen));
    if (typeof moved === 'string') return [];
    return [{ field, by, change: moved.found[asked]! - answer.found[asked]! }];
  });
}

/** A curve of the asked figure, with a gap where the sum refuses. */
export interface SumCurve {
  readonly along: SumField;
  readonly of: SumField;
  readonly points: readonly { readonly x: number; readonly y: number | null }[];
  /** where the sum stands now */
  readonly here: { readonly x: number; readonly y: number };
}

const CURVE_POINTS = 61;

/**
 * The asked figure along the sum's own axis, through its whole validity.
 *
 * @returns null for a sum without an axis, or one that is being found
 */
export function curveOf(sum: Sum, solved: Solved, chosen: Choices): SumCurve | null {
  const { way, given, answer } = solved;
  const axis = sum.curve;
  if (!axis || !answer || given[axis.along] === undefined) return null;
  const asked = way.finds[0]!;
  const picks = chosenOf(sum, chosen);
  const points = Array.from({ length: CURVE_POINTS }, (_, i) => {
    const x = axis.low + ((axis.high - axis.low) * i) / (CURVE_POINTS - 1);
    const worked = attempt(way, { ...given, [axis.along]: x }, picks);
    return { x, y: typeof worked === 'string' ? null : worked.found[asked]! };
  });
  return {
    along: sum.fields.find((f) => f.id === axis.along)!,
    of: sum.fields.find((f) => f.id === asked)!,
    points,
    here: { x: given[axis.along]!, y: answer.found[asked]! },
  };
}

/** A given or found figure in words: "23.4 °C". */
export function inWords(field: SumField, value: number): string {
  const text = shown(value, field.decimals);
  return field.unit ? `${text} ${field.unit}` : text;
}
