import { weigh, type Weighed } from './engine.ts';
import { logSum } from '../statistics/chances.ts';
import { cauchyLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { shown } from '../reckoner/figures.ts';

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
const digits = (x: number, like: number) =>
  shown(x, Math.min(4, Math.max(0, 2 - Math.floor(Math.log10(Math.abs(like) || 1)))));

/** What else may have been meant, each with the share of its kind and with how a change of it changes what is typed. */
function slip(facts: Typed, meant: readonly { readonly value: number; readonly stretch: number }[]): number {
  if (!meant.length) return -Infinity;
  const { expected, sd } = facts;
  const logs = meant.map((m) => normalLog(m.value, expected, sd) - Math.log(m.stretch) - Math.log(meant.length));
  return logSum(logs) - sound(facts);
}

const best = ({ expected }: Typed, values: readonly number[]) =>
  values.reduce((a, b) => (Math.abs(b - expected) < Math.abs(a - expected) ? b : a));

const answers = (facts: Typed, meant: number) => ({
  because: `About ${digits(facts.expected, facts.expected)} ${facts.unit} was to be expected; ${digits(meant, facts.expected)} would fit.`,
  mended: 'Type it again',
  stands: `It is ${facts.text}`,
});

const POWERS = [0.001, 0.01, 0.1, 10, 100, 1000];

/** A comma or a power of ten: 702 for 7.02, mS for µS. */
export const TENFOLD: Hypothesis<Typed> = {
  id: 'tenfold',
  prior: 0.02,
  alike: 'slip',
  mark: 'A power of ten',
  weight: (facts) =>
    // Ten times nothing is nothing.
    facts.value === 0 || Math.abs(facts.expected) <= facts.sd
      ? -Infinity
      : slip(
          facts,
          POWERS.map((p) => ({ value: facts.value / p, stretch: p })),
        ),
  says(facts) {
    const meant = best(
      facts,
      POWERS.map((p) => facts.value / p),
    );
    return {
      title: `Is the comma where it belongs? ${facts.text} ${facts.unit} is a power of ten from what was to be expected.`,
      ...answers(facts, meant),
      tells: 'What would tell: the display, its comma and its unit.',
      record: `A power of ten was doubted in ${facts.text}`,
    };
  },
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
export const DIGITS: Hypothesis<Typed> = {
  id: 'digits',
  prior: 0.02,
  alike: 'slip',
  mark: 'Exchanged digits',
  weight: (facts) =>
    slip(
      facts,
      exchanged(facts.text).map((value) => ({ value, stretch: 1 })),
    ),
  says(facts) {
    const meant = best(facts, exchanged(facts.text));
    return {
      title: `Are two digits exchanged in ${facts.text}?`,
      ...answers(facts, meant),
      tells: 'What would tell: the display.',
      record: `Exchanged digits were doubted in ${facts.text}`,
    };
  },
};

/** Read in another scale. */
export const TYPED_SCALE: Hypothesis<Typed> = {
  id: 'typed-scale',
  prior: 0.02,
  alike: 'slip',
  mark: 'Another scale was doubted',
  weight: (facts) =>
    slip(
      facts,
      facts.scales.map((s) => ({ value: facts.value / s, stretch: s })),
    ),
  says(facts) {
    const meant = best(
      facts,
      facts.scales.map((s) => facts.value / s),
    );
    return {
      title: `Is ${facts.text} in another scale?`,
      ...answers(facts, meant),
      tells: 'What would tell: the unit on the display, and which scale its menu says.',
      record: `Another scale was doubted in ${facts.text}`,
    };
  },
};

/** Typed in the unit of another kind: the display showed millivolts. */
export const OTHER_UNIT: Hypothesis<Typed> = {
  id: 'other-unit',
  prior: 0.02,
  mark: 'Another unit was doubted',
  weight(facts) {
    const units = facts.elsewhere ?? [];
    if (!units.length) return -Infinity;
    const logs = units.map((e) => normalLog(facts.value, e.expected, e.sd) - Math.log(units.length));
    return logSum(logs) - sound(facts);
  },
  says(facts) {
    const { text, unit, value, expected } = facts;
    const off = (e: { expected: number; sd: number }) => Math.abs(value - e.expected) / e.sd;
    const other = facts.elsewhere!.reduce((a, b) => (off(b) < off(a) ? b : a));
    return {
      title: `Is ${text} in ${other.unit}?`,
      ...answers(facts, expected),
      because: `About ${digits(expected, expected)} ${unit} was to be expected, and ${digits(other.expected, 100)} ${other.unit} is the same.`,
      tells: 'What would tell: the unit on the display. The list beside the figure changes it here.',
      record: `Another unit was doubted in ${text}`,
    };
  },
};

/** It is what another bottle reads. */
export const OTHER_BOTTLE: Hypothesis<Typed> = {
  id: 'other-bottle',
  prior: 0.03,
  mark: 'Another bottle was doubted',
  weight(facts) {
    const { others, value, sd } = facts;
    if (!others.length) return -Infinity;
    return logSum(others.map((o) => normalLog(value, o.value, sd) - Math.log(others.length))) - sound(facts);
  },
  says(facts) {
    const other = facts.others.reduce((a, b) =>
      Math.abs(b.value - facts.value) < Math.abs(a.value - facts.value) ? b : a,
    );
    return {
      title: `Is that the right cup? ${facts.text} ${facts.unit} is what ${other.name} reads.`,
      ...answers(facts, facts.expected),
      because: `About ${digits(facts.expected, facts.expected)} ${facts.unit} was to be expected.`,
      tells: 'What would tell: look at the bottle.',
      record: `Another bottle was doubted at ${facts.text}`,
    };
  },
};

const WIDER = 8;

/** No slip that is known, and still far from anything this sensor reads here. */
export const FAR_FIGURE: Hypothesis<Typed> = {
  id: 'far-figure',
  prior: 0.02,
  mark: 'A figure far from',
  // Of any size: a long tail, so that no other slip is named that does not fit either.
  weight: (facts) => cauchyLog(facts.value, facts.expected, WIDER * facts.sd) - sound(facts),
  says: (facts) => ({
    title: `${facts.text} ${facts.unit} is far from what was to be expected here.`,
    ...answers(facts, facts.expected),
    because: `About ${digits(facts.expected, facts.expected)} ± ${digits(2 * facts.sd, facts.expected)} ${facts.unit} was to be expected.`,
    tells: 'What would tell: look at the display once more, and whether the probe is in the cup.',
    record: `A figure far from the expected was typed: ${facts.text}`,
  }),
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
export const slipIn = (facts: Typed): Weighed => weigh(TYPED, facts, undefined, true);

/** A temperature that was typed as °C. */
export interface TypedTemperature {
  readonly text: string;
  readonly celsius: number;
  /** °C of what it is about, and how far cups usually are from it */
  readonly about: number;
}

const USUAL_C = 5;

/** 77 °F taken for °C. */
export const FAHRENHEIT: Hypothesis<TypedTemperature> = {
  id: 'fahrenheit',
  prior: 0.03,
  mark: '°F was doubted',
  weight: ({ celsius, about }) =>
    normalLog((celsius - 32) / 1.8, about, USUAL_C) - Math.log(1.8) - normalLog(celsius, about, USUAL_C),
  says: ({ text, celsius, about }) => ({
    title: `Is ${text} in °F?`,
    because: `${text} °F is ${((celsius - 32) / 1.8).toFixed(1)} °C; the water has about ${about.toFixed(0)} °C.`,
    tells: 'What would tell: the unit on the display.',
    mended: 'Type it again',
    stands: `It is ${text} °C`,
    record: `°F was doubted in ${text}`,
  }),
};

/** Nobody holds a cup that warm or cold. */
export const FAR_TEMPERATURE: Hypothesis<TypedTemperature> = {
  id: 'far-temperature',
  prior: 0.01,
  mark: 'A temperature far from',
  weight: ({ celsius, about }) => normalLog(celsius, about, 6 * USUAL_C) - normalLog(celsius, about, USUAL_C),
  says: ({ text, about }) => ({
    title: `Is the cup really at ${text} °C?`,
    because: `The water has about ${about.toFixed(0)} °C.`,
    tells: 'What would tell: the display, and where the thermometer stands.',
    mended: 'Type it again',
    stands: `It is ${text} °C`,
    record: `A temperature far from the water was typed: ${text}`,
  }),
};

/**
 * Is a typed temperature a slip?
 *
 * @example temperatureSlip({ text: '77', celsius: 77, about: 25 }).warning?.id // 'fahrenheit'
 */
export const temperatureSlip = (facts: TypedTemperature): Weighed => weigh([FAHRENHEIT, FAR_TEMPERATURE], facts);
