import { weigh, type WeighedHypotheses } from './engine.ts';
import { logSum } from '../statistics/chances.ts';
import { cauchyLog, normalLog, type Hypothesis } from './hypothesis.ts';

/** A figure that was typed, beside what was to be expected. All in one unit. */
export interface Typed {
  /** as it was typed: its digits tell a slip */
  readonly text: string;
  readonly value: number;
  readonly unit: string;
  /** what it should be about, and its standard deviation */
  readonly expected: number;
  readonly sd: number;
  /** other values that it may stand for, by the names of their bottles */
  readonly others: readonly { readonly name: string; readonly value: number }[];
  /** factors between the scales of this quantity */
  readonly scales: readonly number[];
  /** what the same sensor was expected to show in units of another kind: millivolts beside pH */
  readonly elsewhere?: readonly { readonly unit: string; readonly expected: number; readonly sd: number }[];
}

/** Where nearly nothing is known beforehand, half of the figures are still near the nominal one: so much of it. Our own choice. */
const NEAR_SHARE = 0.05;

function sound({ value, expected, sd }: Typed): number {
  const near = NEAR_SHARE * Math.abs(expected);
  const wide = normalLog(value, expected, sd);
  return near > 0 && near < sd ? logSum([wide, normalLog(value, expected, near)]) - Math.LN2 : wide;
}
/** What else may have been meant, each with the share of its kind and with how a change of it changes what is typed. */
function slip(facts: Typed, meant: readonly { readonly value: number; readonly stretch: number }[]): number {
  if (!meant.length) return -Infinity;
  const { expected, sd } = facts;
  const logs = meant.map((m) => normalLog(m.value, expected, sd) - Math.log(m.stretch) - Math.log(meant.length));
  return logSum(logs) - sound(facts);
}

const best = ({ expected }: Typed, values: readonly number[]) =>
  values.reduce((a, b) => (Math.abs(b - expected) < Math.abs(a - expected) ? b : a));

const typedIn = ({ text, unit, expected }: Typed) => ({ text, unit, expected });
const meantIn = (facts: Typed, values: readonly number[]) => ({ ...typedIn(facts), meant: best(facts, values) });

const POWERS = [0.001, 0.01, 0.1, 10, 100, 1000];

/** A comma or a power of ten: 702 for 7.02, mS for µS. */
const TENFOLD: Hypothesis<Typed> = {
  id: 'tenfold',
  prior: 0.02,
  alike: 'slip',
  weight: (facts) =>
    // Ten times nothing is nothing.
    facts.value === 0 || Math.abs(facts.expected) <= facts.sd
      ? -Infinity
      : slip(
          facts,
          POWERS.map((p) => ({ value: facts.value / p, stretch: p })),
        ),
  facts: (facts) =>
    meantIn(
      facts,
      POWERS.map((p) => facts.value / p),
    ),
};

/** Neighbours exchanged, as hands do. */
function exchanged(text: string): number[] {
  const places = [...text];
  return places.flatMap((_, i) => {
    const [a, b] = [places[i]!, places[i + 1]];
    if (b === undefined || a === b || !/\d/.test(a) || !/[\d]/.test(b)) return [];
    const made = [...places];
    made[i] = b;
    made[i + 1] = a;
    // Nobody types 07.4.
    if (/^\D?0\d/.test(made.join(''))) return [];
    const value = Number(made.join('').replace(',', '.').replace('−', '-'));
    return Number.isFinite(value) ? [value] : [];
  });
}

/** Two digits exchanged: 7.20 for 7.02. */
const DIGITS: Hypothesis<Typed> = {
  id: 'digits',
  prior: 0.02,
  alike: 'slip',
  weight: (facts) =>
    slip(
      facts,
      exchanged(facts.text).map((value) => ({ value, stretch: 1 })),
    ),
  facts: (facts) => meantIn(facts, exchanged(facts.text)),
};

/** Read in another scale. */
const TYPED_SCALE: Hypothesis<Typed> = {
  id: 'typed-scale',
  prior: 0.02,
  alike: 'slip',
  weight: (facts) =>
    slip(
      facts,
      facts.scales.map((s) => ({ value: facts.value / s, stretch: s })),
    ),
  facts: (facts) =>
    meantIn(
      facts,
      facts.scales.map((s) => facts.value / s),
    ),
};

/** Typed in the unit of another kind: the display showed millivolts. */
const OTHER_UNIT: Hypothesis<Typed> = {
  id: 'other-unit',
  prior: 0.02,
  weight(facts) {
    const units = facts.elsewhere ?? [];
    if (!units.length) return -Infinity;
    const logs = units.map((e) => normalLog(facts.value, e.expected, e.sd) - Math.log(units.length));
    return logSum(logs) - sound(facts);
  },
  facts: (facts) => {
    const off = (e: { expected: number; sd: number }) => Math.abs(facts.value - e.expected) / e.sd;
    const other = facts.elsewhere!.reduce((a, b) => (off(b) < off(a) ? b : a));
    return { ...typedIn(facts), otherUnit: other.unit, inOther: other.expected };
  },
};

/** It is what another bottle reads. */
const OTHER_BOTTLE: Hypothesis<Typed> = {
  id: 'other-bottle',
  prior: 0.03,
  weight(facts) {
    const { others, value, sd } = facts;
    if (!others.length) return -Infinity;
    return logSum(others.map((o) => normalLog(value, o.value, sd) - Math.log(others.length))) - sound(facts);
  },
  facts: (facts) => {
    const off = (o: { value: number }) => Math.abs(o.value - facts.value);
    return { ...typedIn(facts), other: facts.others.reduce((a, b) => (off(b) < off(a) ? b : a)).name };
  },
};

const WIDER = 8;

/** No slip that is known, and still far from anything this sensor reads here. */
const FAR_FIGURE: Hypothesis<Typed> = {
  id: 'far-figure',
  prior: 0.02,
  // Of any size: a long tail, so that no other slip is named that does not fit either.
  weight: (facts) => cauchyLog(facts.value, facts.expected, WIDER * facts.sd) - sound(facts),
  facts: (facts) => ({ ...typedIn(facts), sd: facts.sd }),
};

/** Slips of a typed figure. A new one is a value here and in this list. */
export const TYPED: readonly Hypothesis<Typed>[] = [TENFOLD, DIGITS, TYPED_SCALE, OTHER_UNIT, OTHER_BOTTLE, FAR_FIGURE];

/**
 * Is a typed figure a slip?
 *
 * @example slipIn({ text: '702', value: 702, unit: 'pH', expected: 7, sd: 0.1, others: [], scales: [] }).warning?.id // 'tenfold'
 * @example slipIn({ text: '7.20', value: 7.2, unit: 'pH', expected: 7.02, sd: 0.03, others: [], scales: [] }).warning?.id // 'digits'
 * @example slipIn({ text: '168', value: 168, unit: 'pH', expected: 4, sd: 0.1, others: [], scales: [], elsewhere: [{ unit: 'mV', expected: 172, sd: 6 }] }).warning?.id // 'other-unit'
 * @example slipIn({ text: '70.4', value: 70.4, unit: 'pH', expected: 7, sd: 0.5, others: [], scales: [] }).warning?.id // 'tenfold'
 */
export const slipIn = (facts: Typed): WeighedHypotheses => weigh(TYPED, facts, undefined, true);

/** A temperature that was typed as °C. */
interface TypedTemperature {
  readonly text: string;
  readonly celsius: number;
  /** °C of what it is about, and how far cups usually are from it */
  readonly about: number;
}

const USUAL_C = 5;

/** 77 °F taken for °C. */
const FAHRENHEIT: Hypothesis<TypedTemperature> = {
  id: 'fahrenheit',
  prior: 0.03,
  weight: ({ celsius, about }) =>
    normalLog((celsius - 32) / 1.8, about, USUAL_C) - Math.log(1.8) - normalLog(celsius, about, USUAL_C),
  facts: ({ text, celsius, about }) => ({ text, celsius, about }),
};

/** Nobody holds a cup that warm or cold. */
const FAR_TEMPERATURE: Hypothesis<TypedTemperature> = {
  id: 'far-temperature',
  prior: 0.01,
  weight: ({ celsius, about }) => normalLog(celsius, about, 6 * USUAL_C) - normalLog(celsius, about, USUAL_C),
  facts: ({ text, celsius, about }) => ({ text, celsius, about }),
};

/**
 * Is a typed temperature a slip?
 *
 * @example temperatureSlip({ text: '77', celsius: 77, about: 25 }).warning?.id // 'fahrenheit'
 */
export const temperatureSlip = (facts: TypedTemperature): WeighedHypotheses =>
  weigh([FAHRENHEIT, FAR_TEMPERATURE], facts);
