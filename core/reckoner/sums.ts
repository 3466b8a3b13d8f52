import { figure } from '../quantities/figure.ts';
import { readQuantity } from '../quantities/read-quantity.ts';
import { Refusal, requireFinite } from '../quantities/refusal.ts';
import { convertTo, kindOf, type Quantity } from '../quantities/units.ts';
import { shown } from './figures.ts';
import { solve, wayAfter, type Solved, type SumInput } from './solve.ts';
import type { Direction, Sum, SumField } from './sum.ts';
import { CONDUCTIVITY_SUMS } from './sums/conductivity.ts';
import { ELECTRICAL_SUMS } from './sums/electrical.ts';
import { ION_SUMS } from './sums/ions.ts';
import { PH_SUMS } from './sums/ph.ts';
import { PREPARING_SUMS } from './sums/preparing.ts';
import { REDOX_SUMS } from './sums/redox.ts';
import { WATER_SUMS } from './sums/water.ts';

/** Every sum of the bench, in groups. A new one is a value of type `Sum` in one of the lists. */
export const SUMS: readonly Sum[] = [
  ...PH_SUMS,
  ...CONDUCTIVITY_SUMS,
  ...REDOX_SUMS,
  ...ION_SUMS,
  ...WATER_SUMS,
  ...ELECTRICAL_SUMS,
  ...PREPARING_SUMS,
].map((sum) => ({ ...sum, ways: sum.ways.map((way) => ({ ...way, work: finiteOnly(way.work) })) }));

/** What works out to no figure is refused, whichever sum it was: a result without end is a slip in what went in. */
function finiteOnly(work: Direction['work']): Direction['work'] {
  return (given, chosen) => {
    for (const [key, value] of Object.entries(given)) requireFinite(value, key);
    const answer = work(given, chosen);
    const { found, plusMinus, more } = answer;
    const figures = [...Object.values(found), plusMinus ?? 0, ...more.map((m) => m.value)];
    if (figures.every(Number.isFinite)) return answer;
    throw new Refusal('not-a-number', 'These figures give no result. Check each of them and its unit.', {});
  };
}

/**
 * A sum by its id.
 *
 * @throws Refusal `sum-unknown`
 * @example sumOf('buffer').fields[0].name // 'Temperature'
 */
export function sumOf(id: string): Sum {
  const found = SUMS.find((s) => s.id === id);
  if (found) return found;
  throw new Refusal('sum-unknown', `There is no sum “${id}” here. Pick one from the list.`, { id });
}

/** A sum that fits what somebody looks for. */
export interface Hit {
  readonly sum: Sum;
  /** what stands in it when it is opened: a figure that was typed, in the field that takes it */
  readonly input: SumInput;
  /** the answer already, where a figure was typed */
  readonly solved: Solved | null;
}

/**
 * Sums for what was typed: a figure with its unit answers at once in every sum that takes it, words look in titles.
 *
 * @param text "81.3 F", "1.41 mS/cm", "18 MΩ·cm", "gravity"; '' for all
 * @returns hits, those whose first field takes the figure before the others; and what was read, if it was a figure
 * @example lookFor('81.3 F').hits[0].sum.id // 'temperature'
 * @example lookFor('gravity').hits[0].sum.id // 'salinity'
 * @example lookFor('1.0242').read.unit // 'SG 25/25'
 * @example lookFor('dilution').hits[0].sum.id // 'dilution'
 */
export function lookFor(text: string): { readonly hits: readonly Hit[]; readonly read: Quantity | null } {
  const plain = (sum: Sum): Hit => ({ sum, input: EMPTY, solved: null });
  const words = text.trim().toLowerCase();
  if (!words) return { hits: SUMS.map(plain), read: null };
  const gravity = gravityIn(words);
  if (gravity) return { hits: hitsFor(gravity), read: gravity };
  const read = readQuantity(text, [], null);
  if (read.ok) return { hits: hitsFor(read), read: { value: read.value, unit: read.unit } };
  const parts = words
    .split(/[\s-]+/)
    .filter(Boolean)
    .map(stemOf);
  const inTitle = (s: Sum) => parts.every((p) => s.title.toLowerCase().includes(p));
  const anywhere = (s: Sum) => parts.every((p) => `${s.title} ${s.words} ${s.group}`.toLowerCase().includes(p));
  const found = SUMS.filter(anywhere);
  return { hits: [...found.filter(inTitle), ...found.filter((s) => !inTitle(s))].map(plain), read: null };
}

/** A bare figure just beside 1 is a hydrometer's, on the scale that most are made for. Common practice, no source. */
function gravityIn(words: string): Quantity | null {
  const value = figure(/^(?:sg\s*)?((?:1[.,]0|0[.,]99)\d{1,4})$/.exec(words)?.[1] ?? '');
  return value === null ? null : { value, unit: 'SG 25/25' };
}

/** "dilution" finds what "dilute" names: the end of a long word is left to its grammar. */
const stemOf = (word: string) => (word.length < 7 ? word : word.slice(0, Math.max(5, word.length - 3)));

export const EMPTY: SumInput = { typed: {}, chosen: {}, way: 0 };

function hitsFor(read: Quantity): Hit[] {
  const hits = SUMS.flatMap((sum) => {
    const index = fieldFor(sum, read);
    if (index < 0) return [];
    const field = sum.fields[index]!;
    const own = convertTo(read.value, read.unit, field.unit as typeof read.unit)!;
    const input: SumInput = {
      typed: { [field.id]: `${plainText(own)} ${field.unit}` },
      chosen: {},
      way: wayAfter(sum, 0, field.id),
    };
    const other = field.unit === read.unit ? 0 : 10;
    return [{ sum, input, solved: solve(sum, input), rank: other + 2 * index + sum.fields.length / 10 }];
  });
  return hits.sort((a, b) => a.rank - b.rank);
}

/** The field that takes the figure: in its own unit before another of its kind. */
function fieldFor(sum: Sum, read: Quantity): number {
  const own = sum.fields.findIndex((f) => f.unit === read.unit);
  return own >= 0 ? own : sum.fields.findIndex((f) => takes(f, read));
}

const takes = (field: SumField, read: Quantity) => field.unit !== '' && kindOf(field.unit) === kindOf(read.unit);

/** As a person would type it again: no real minus, seven digits. */
const plainText = (value: number) => {
  const short = Number(value.toPrecision(7));
  return Math.abs(short) >= 1e-4 && Math.abs(short) < 1e9 ? String(short) : shown(value).replace('−', '-');
};
