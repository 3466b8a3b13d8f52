import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS, type Salt } from '../../solutions/conductivity-standards.ts';
import { courseFactor, courseOf, linearFactor } from '../../solutions/compensation.ts';
import { ALPHA_UNCERTAINTY } from '../../solutions/pure-water.ts';
import { temperatureSlope, valueAt } from '../../solutions/standard.ts';
import { shown } from '../figures.ts';
import type { Answer, Choices, Direction, Figures, Sum } from '../sum.ts';
import { alpha, COURSE, GROUP } from './conductivity-fields.ts';
import { temperatureOf } from './fields.ts';
import { HIGH_PURITY_SUM } from './high-purity.ts';
import { SEAWATER_SUM } from './seawater.ts';

/** The scales on which growers read one conductivity, in mS/cm each. */
const SCALES = [
  { id: 'ec', name: 'EC', unit: 'mS/cm', factor: 1, decimals: 3 },
  { id: 'cf', name: 'CF', unit: 'CF', factor: 10, decimals: 1 },
  { id: 'p5', name: 'ppm, ×500 scale', unit: 'ppm×500', factor: 500, decimals: 0 },
  { id: 'p6', name: 'ppm, ×640 scale', unit: 'ppm×640', factor: 640, decimals: 0 },
  { id: 'p7', name: 'ppm, ×700 scale', unit: 'ppm×700', factor: 700, decimals: 0 },
] as const;

const scales: Sum = {
  id: 'nutrient-scales',
  group: GROUP,
  title: 'EC, CF and the ppm scales',
  words: 'ec cf ppm tds nutrient grow 500 640 700 scale convert hydroponic',
  choices: [],
  fields: SCALES.map(({ id, name, unit, decimals, factor }) => ({ id, name, unit, decimals, usual: 1.9 * factor })),
  // Typing into any scale finds all others.
  ways: SCALES.map((from): Direction => {
    const others = SCALES.filter((s) => s.id !== from.id);
    return {
      finds: others.map((s) => s.id),
      work: (given) => {
        const remedy = 'Check the scale that it was read on.';
        const ms = requireWithin(given[from.id]! / from.factor, 0, 200, 'EC', 'mS/cm', remedy);
        const sides = others.map((s) => `${shown(ms * s.factor, s.decimals)} ${s.unit}`).join(' = ');
        return {
          found: Object.fromEntries(others.map((s) => [s.id, ms * s.factor])),
          plusMinus: null,
          plusMinusBecause: 'a scale is a definition; only the scale that was meant can be wrong',
          formula: `${shown(given[from.id]!, from.decimals)} ${from.unit} = ${sides}`,
          more: [],
        };
      },
    };
  }),
  formula: 'CF = 10 · EC,  ppm = 500, 640 or 700 · EC, EC in mS/cm at 25 °C',
  source: 'definitions of the scales, common practice, no source',
  validity: '0 to 200 mS/cm',
};

/** How the water goes with temperature. */
/** A conductivity at a temperature over what it has at the house's reference temperature. */
function ratioOf({ t, a }: Figures, { course, ref }: Choices) {
  const by = courseOf(course, a!);
  const reference = Number(ref);
  const f = courseFactor(t!, by) / courseFactor(reference, by);
  const line = (at: string) => `(1 + ${shown(Number(by) / 100)} · (${at} − 25))`;
  const here = line(shown(t!, 1));
  const words = typeof by !== 'number' ? shown(f, 4) : reference === 25 ? here : `(${here} / ${line(`${reference}`)})`;
  return { f, by, reference, words };
}

const carriedTo = (value: number, id: string, sides: string, t: number, of: ReturnType<typeof ratioOf>): Answer => ({
  found: { [id]: value },
  // A real water's coefficient differs by about 0.1 %/°C from the one that is set.
  plusMinus: (value * 2 * ALPHA_UNCERTAINTY * Math.abs(t - of.reference)) / 100 / (id === 'k' ? 1 : of.f),
  plusMinusBecause: 'a real water’s coefficient within ±0.2 %/°C; common practice, no source',
  formula: `${sides} = ${shown(value)} µS/cm${id === 'k' ? '' : ` at ${of.reference} °C`}`,
  more: [{ name: 'in mS/cm', value: value / 1000, unit: 'mS/cm' }],
});
const compensation: Sum = {
  id: 'compensation',
  group: GROUP,
  title: 'Conductivity at 25 or 20 °C',
  words: 'temperature compensation alpha coefficient kappa linear natural water iso 7888 reference 20',
  choices: [
    COURSE,
    {
      id: 'ref',
      name: 'Reference temperature',
      usual: '25',
      options: [
        { id: '25', name: '25 °C' },
        { id: '20', name: '20 °C' },
      ],
    },
  ],
  fields: [
    { id: 'k', name: 'As measured', unit: 'µS/cm', usual: 1278, nudge: 10 },
    temperatureOf(20),
    alpha,
    { id: 'k25', name: 'At the reference temperature', unit: 'µS/cm', usual: 1420, nudge: 10 },
  ],
  ways: [
    {
      finds: ['k25'],
      work: (given, chosen) => {
        const of = ratioOf(given, chosen);
        return carriedTo(range(given['k']!) / of.f, 'k25', `${shown(given['k']!)} / ${of.words}`, given['t']!, of);
      },
    },
    {
      finds: ['k'],
      work: (given, chosen) => {
        const of = ratioOf(given, chosen);
        return carriedTo(range(given['k25']!) * of.f, 'k', `${shown(given['k25']!)} · ${of.words}`, given['t']!, of);
      },
    },
  ],
  formula: 'κref = κT · f(Tref) / f(T);  a line: f = 1 + α (T − 25)',
  source: 'ISO 7888:1985, linear and non-linear compensation (from memory); NaCl: Robinson & Stokes 1959 (from memory)',
  validity:
    'a line where it leaves at least 0.1, α 0 to 10 %/°C, 0 = the channel does none; natural water 0 to 35 °C; sodium chloride 0 to 45 °C',
  curve: { along: 't', low: 5, high: 35 },
};

const coefficientCheck: Sum = {
  id: 'coefficient-check',
  group: GROUP,
  title: 'Coefficient of a water, from two temperatures',
  words: 'alpha temperature compensation check two temperatures channel wrong coefficient warm cold',
  choices: [],
  fields: [
    { id: 's1', name: 'Shown, cold', unit: 'µS/cm', usual: 1400 },
    { id: 't1', name: 'Temperature, cold', unit: '°C', usual: 18, decimals: 1 },
    { id: 's2', name: 'Shown, warm', unit: 'µS/cm', usual: 1430 },
    { id: 't2', name: 'Temperature, warm', unit: '°C', usual: 30, decimals: 1 },
    { ...alpha, name: 'Coefficient that is set' },
    { id: 'real', name: 'Coefficient of this water', unit: '%/°C', usual: 2.18, decimals: 2 },
  ],
  ways: [
    {
      finds: ['real'],
      work: ({ s1, t1, s2, t2, a }) => {
        if (!(Math.abs(t2! - t1!) >= LEAST_APART_C))
          throw new Refusal(
            'out-of-range',
            `${shown(t1!, 1)} and ${shown(t2!, 1)} °C are too near; a coefficient needs ${LEAST_APART_C} °C or more. Warm the same cup further.`,
            { value: Math.abs(t2! - t1!), low: LEAST_APART_C },
          );
        // What the cell saw, before the channel took its coefficient off.
        const [k1, k2] = [range(s1!) * linearFactor(t1!, a!), range(s2!) * linearFactor(t2!, a!)];
        const below = k1 * (t2! - 25) - k2 * (t1! - 25);
        const real = (100 * (k2 - k1)) / below;
        requireWithin(real, -5, 15, 'coefficient', '%/°C', 'Check that both are of one cup, and both temperatures.');
        const k25 = k1 / (1 + (real / 100) * (t1! - 25));
        return {
          found: { real },
          // Each reading to 0.3 %, each temperature to 0.2 °C.
          plusMinus: (2 * 100 * Math.hypot(0.003, (0.2 * real) / 100) * Math.SQRT2) / Math.abs(t2! - t1!),
          plusMinusBecause: 'of both readings, 0.3 % and 0.2 °C each; common practice, no source',
          formula: `100 · (${shown(k2)} − ${shown(k1)}) / (${shown(k1)} · (${shown(t2!, 1)} − 25) − ${shown(k2)} · (${shown(t1!, 1)} − 25)) = ${shown(real, 2)} %/°C`,
          more: [
            { name: 'The same water at 25 °C', value: k25, unit: 'µS/cm' },
            { name: 'The channel is off, cold', value: s1! - k25, unit: 'µS/cm' },
            { name: 'The channel is off, warm', value: s2! - k25, unit: 'µS/cm' },
          ],
          note: 'One cup, closed, at two temperatures: with the right coefficient the channel shows the same in both.',
        };
      },
    },
  ],
  formula: 'α = (κ2 − κ1) / (κ1 (T2 − 25) − κ2 (T1 − 25)),  κ = shown · (1 + α(set) (T − 25))',
  source: 'the line of ISO 7888 through both',
  validity: 'two temperatures 5 °C or more apart',
};
/** Common practice, no source. */
const LEAST_APART_C = 5;

const range = (us: number) => requireWithin(us, 0, 2_000_000, 'conductivity', 'µS/cm', 'Check figure and unit.');

const bottle: Sum = {
  id: 'conductivity-standard',
  group: GROUP,
  title: 'Conductivity standard at a temperature',
  words: 'kcl 1413 2.77 12.88 84 53 50 standard calibration solution bottle label salt',
  choices: [
    {
      id: 'salt',
      name: 'Made of',
      usual: 'KCl',
      options: [
        { id: 'KCl', name: 'KCl' },
        { id: 'NaCl', name: 'NaCl' },
        { id: 'seawater', name: 'seawater, or made to its scale' },
        { id: 'not stated', name: 'not stated on the label' },
      ],
    },
  ],
  fields: [
    { id: 'label', name: 'Printed on the label', unit: 'µS/cm', usual: 1413, nudge: 10 },
    { id: 'at', name: 'The label’s temperature', unit: '°C', usual: 25, decimals: 1 },
    { ...temperatureOf(21.5), name: 'Temperature of the cup' },
    { id: 'k', name: 'Its value there', unit: 'µS/cm', usual: 1413 },
  ],
  ways: [
    {
      finds: ['k'],
      work: ({ label, at, t }, { salt }) => {
        // The handbook's own rows, where the label is one of them.
        const own = CONDUCTIVITY_STANDARDS.find((x) => salt === 'KCl' && at === 25 && x.nominal === label);
        const standard = own ?? conductivityBottle({ label: label!, labelC: at!, salt: salt as Salt });
        const k = valueAt(standard, t!);
        return {
          found: { k },
          plusMinus: (2 * standard.uncertainty * k) / standard.nominal,
          plusMinusBecause: own
            ? 'of the handbook’s values'
            : 'of a bottle of ±1 %; enter your certificate’s when it differs',
          formula: `${shown(label!)} · course(${shown(t!, 1)} °C) / course(${shown(at!, 1)} °C) = ${shown(k)} µS/cm`,
          more: [
            { name: 'in mS/cm', value: k / 1000, unit: 'mS/cm' },
            { name: 'Changes by', value: (100 * temperatureSlope(standard, t!)) / k, unit: '% per °C', decimals: 2 },
          ],
          note: `${standard.source}.`,
        };
      },
    },
  ],
  formula: 'κ(T) = label · course of its salt from the label’s temperature to T',
  source: 'KCl: handbook table (from memory), ISO 7888; NaCl: Robinson & Stokes 1959 (from memory); seawater: PSS-78',
  validity: 'KCl 15 to 30 °C, NaCl 0 to 45, seawater −2 to 35; no salt stated: the label’s temperature only',
  curve: { along: 't', low: 0, high: 45 },
};

export const CONDUCTIVITY_SUMS: readonly Sum[] = [
  scales,
  compensation,
  coefficientCheck,
  bottle,
  SEAWATER_SUM,
  HIGH_PURITY_SUM,
];
