import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS, type Salt } from '../../solutions/conductivity-standards.ts';
import {
  ALPHA_UNCERTAINTY,
  linearFactor,
  pureCompensationUncertainty,
  pureFrom25,
  pureTo25,
  pureWater,
} from '../../solutions/pure-water.ts';
import { temperatureSlope, valueAt } from '../../solutions/standard.ts';
import { shown } from '../figures.ts';
import type { Answer, Sum, SumField, Direction } from '../sum.ts';
import { SEAWATER_SUM } from './seawater.ts';

const GROUP = 'Conductivity and salinity';
const temperature = (usual: number): SumField => ({
  id: 't',
  name: 'Temperature',
  unit: '°C',
  usual,
  decimals: 1,
  nudge: 1,
});
const alpha: SumField = { id: 'a', name: 'Coefficient', unit: '%/°C', usual: 2, decimals: 2, nudge: 0.1 };

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

const compensation: Sum = {
  id: 'compensation',
  group: GROUP,
  title: 'Conductivity at 25 °C',
  words: 'temperature compensation alpha coefficient kappa linear',
  choices: [],
  fields: [
    { id: 'k', name: 'As measured', unit: 'µS/cm', usual: 1278, nudge: 10 },
    temperature(20),
    alpha,
    { id: 'k25', name: 'At 25 °C', unit: 'µS/cm', usual: 1420, nudge: 10 },
  ],
  ways: [
    {
      finds: ['k25'],
      work: ({ k, t, a }) => {
        const f = linearFactor(t!, a!);
        return compensated(
          range(k!) / f,
          'k25',
          `${shown(k!)} / (1 + ${shown(a! / 100)} · (${shown(t!, 1)} − 25))`,
          a!,
          t!,
        );
      },
    },
    {
      finds: ['k'],
      work: ({ k25, t, a }) => {
        const f = linearFactor(t!, a!);
        return compensated(
          range(k25!) * f,
          'k',
          `${shown(k25!)} · (1 + ${shown(a! / 100)} · (${shown(t!, 1)} − 25))`,
          a!,
          t!,
        );
      },
    },
  ],
  formula: 'κ25 = κT / (1 + α (T − 25))',
  source: 'ISO 7888:1985, linear compensation',
  validity: 'where 1 + α (T − 25) is at least 0.1; α 0 to 10 %/°C, 0 = the channel does none',
  curve: { along: 't', low: 5, high: 45 },
};

const range = (us: number) => requireWithin(us, 0, 2_000_000, 'conductivity', 'µS/cm', 'Check figure and unit.');

function compensated(value: number, id: string, sides: string, a: number, t: number): Answer {
  return {
    found: { [id]: value },
    // A real water's coefficient differs by about 0.1 %/°C from the one that is set.
    plusMinus: (value * 2 * ALPHA_UNCERTAINTY * Math.abs(t - 25)) / 100 / linearFactor(t, a),
    plusMinusBecause: 'a real water’s coefficient within ±0.2 %/°C; common practice, no source',
    formula: `${sides} = ${shown(value)} µS/cm`,
    more: [{ name: 'in mS/cm', value: value / 1000, unit: 'mS/cm' }],
  };
}

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
    { ...temperature(21.5), name: 'Temperature of the cup' },
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

const pure: Sum = {
  id: 'pure-water',
  group: GROUP,
  title: 'High-purity water: resistivity at 25 °C',
  words: 'resistivity ultrapure ro di megohm 18 compensated reverse osmosis',
  choices: [],
  fields: [
    { id: 'k', name: 'Conductivity, as measured', unit: 'µS/cm', usual: 0.06 },
    temperature(20),
    alpha,
    { id: 'r', name: 'Resistivity at 25 °C', unit: 'MΩ·cm', usual: 18, nudge: 0.1 },
  ],
  ways: [
    {
      finds: ['r'],
      work: ({ k, t, a }) => {
        const k25 = pureTo25(k!, t!, a!);
        return purity(
          1 / k25,
          'r',
          `1 / (${shown(pureWater(25))} + (${shown(k!)} − ${shown(pureWater(t!))}) / ${shown(linearFactor(t!, a!))}) = ${shown(1 / k25)} MΩ·cm`,
          t!,
          pureUnknown(k25, t!, a!) / k25 ** 2,
        );
      },
    },
    {
      finds: ['k'],
      work: ({ r, t, a }) => {
        if (!(r! > 0))
          throw new Refusal('out-of-range', `A resistivity of ${r} MΩ·cm is none. Enter a figure above 0.`);
        const k = pureFrom25(1 / r!, t!, a!);
        return purity(
          k,
          'k',
          `${shown(pureWater(t!))} + (1/${shown(r!)} − ${shown(pureWater(25))}) · ${shown(linearFactor(t!, a!))} = ${shown(k)} µS/cm`,
          t!,
          pureUnknown(1 / r!, t!, a!) * linearFactor(t!, a!),
        );
      },
    },
  ],
  formula: 'κ25 = κw(25) + (κT − κw(T)) / (1 + α (T − 25)),  ρ25 = 1/κ25',
  source: 'Kw and limiting ionic conductivities; table of pure water from memory, ±2 %, ±4 % at 0 °C',
  validity: '0 to 50 °C; not below pure water itself, 0.055 µS/cm or 18.18 MΩ·cm at 25 °C',
  curve: { along: 't', low: 0, high: 50 },
};

/** ± at 25 °C, k = 2, µS/cm. */
function pureUnknown(at25: number, t: number, a: number): number {
  const { table, coefficient } = pureCompensationUncertainty(at25, t, a);
  return 2 * Math.hypot(table, coefficient);
}

function purity(value: number, id: string, formula: string, t: number, plusMinus: number): Answer {
  return {
    found: { [id]: value },
    plusMinus,
    plusMinusBecause: 'of the table of pure water, and of the salts’ coefficient within ±0.2 %/°C',
    formula,
    more: [{ name: 'Pure water has, at this temperature', value: 1 / pureWater(t), unit: 'MΩ·cm', decimals: 2 }],
  };
}

export const CONDUCTIVITY_SUMS: readonly Sum[] = [scales, compensation, bottle, SEAWATER_SUM, pure];
