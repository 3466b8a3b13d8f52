import { currentFor, loopState, valueOfCurrent } from '../../electrical/current-loop.ts';
import {
  boxForConductivity,
  boxForResistivity,
  cellConstantFrom,
  conductivityOfBox,
  resistivityOfBox,
} from '../../electrical/simulators.ts';
import { spanTable } from '../../electrical/span-table.ts';
import { shown } from '../figures.ts';
import type { Sum, SumField } from '../sum.ts';
import { ELECTRICAL_CAUTION as CAUTION, ELECTRICAL_GROUP as GROUP } from './electrical-words.ts';
import { THERMOMETER_SUMS } from './thermometers.ts';

const cell = (usual: number): SumField => ({ id: 'c', name: 'Cell constant', unit: '/cm', usual });
const SIMULATOR = 'Uncompensated: set the transmitter’s coefficient to 0, or its thermometer box to 25 °C.';

const resistivityBox: Sum = {
  id: 'resistivity-box',
  group: GROUP,
  title: 'Resistance box for a resistivity',
  words: 'simulator ohm megohm 18 decade ultrapure transmitter check',
  choices: [],
  fields: [
    { id: 'r', name: 'Resistivity to be shown', unit: 'MΩ·cm', usual: 18, nudge: 0.1 },
    cell(0.01),
    { id: 'box', name: 'Resistance box', unit: 'kΩ', usual: 180, nudge: 1 },
  ],
  ways: [
    {
      finds: ['box'],
      work: ({ r, c }) => {
        const box = boxForResistivity(r!, c!) / 1000;
        return {
          found: { box },
          plusMinus: null,
          plusMinusBecause: 'as good as the box and the cell constant',
          formula: `${shown(c!)} /cm · ${shown(r!)} MΩ·cm = ${shown(box)} kΩ`,
          more: [{ name: 'That is, as conductivity', value: 1 / r!, unit: 'µS/cm' }],
          note: `${SIMULATOR} ${CAUTION}`,
        };
      },
    },
    {
      finds: ['r'],
      work: ({ box, c }) => {
        const r = resistivityOfBox(box! * 1000, c!);
        return {
          found: { r },
          plusMinus: null,
          plusMinusBecause: 'as good as the box and the cell constant',
          formula: `${shown(box!)} kΩ / ${shown(c!)} /cm = ${shown(r)} MΩ·cm`,
          more: [{ name: 'That is, as conductivity', value: 1 / r, unit: 'µS/cm' }],
          note: `${SIMULATOR} ${CAUTION}`,
        };
      },
    },
  ],
  formula: 'R = K · ρ',
  source: 'definition of the cell constant, ASTM D1125 and ISO 7888',
  validity: 'cell constants 0.001 to 100 /cm',
};

const conductivityBox: Sum = {
  id: 'conductivity-box',
  group: GROUP,
  title: 'Resistance box for a conductivity',
  words: 'simulator ohm decade transmitter check siemens',
  choices: [],
  fields: [
    { id: 'k', name: 'Conductivity to be shown', unit: 'µS/cm', usual: 1413, nudge: 10 },
    cell(1),
    { id: 'box', name: 'Resistance box', unit: 'Ω', usual: 707.7, nudge: 1 },
  ],
  ways: [
    {
      finds: ['box'],
      work: ({ k, c }) => {
        const box = boxForConductivity(k!, c!);
        return {
          found: { box },
          plusMinus: null,
          plusMinusBecause: 'as good as the box and the cell constant',
          formula: `10⁶ · ${shown(c!)} /cm / ${shown(k!)} µS/cm = ${shown(box)} Ω`,
          more: [{ name: 'in kΩ', value: box / 1000, unit: 'kΩ' }],
          note: `${SIMULATOR} ${CAUTION}`,
        };
      },
    },
    {
      finds: ['k'],
      work: ({ box, c }) => {
        const k = conductivityOfBox(box!, c!);
        return {
          found: { k },
          plusMinus: null,
          plusMinusBecause: 'as good as the box and the cell constant',
          formula: `10⁶ · ${shown(c!)} /cm / ${shown(box!)} Ω = ${shown(k)} µS/cm`,
          more: [{ name: 'in mS/cm', value: k / 1000, unit: 'mS/cm' }],
          note: `${SIMULATOR} ${CAUTION}`,
        };
      },
    },
  ],
  formula: 'R = K / κ',
  source: 'definition of the cell constant, ASTM D1125 and ISO 7888',
  validity: 'cell constants 0.001 to 100 /cm',
};

const cellConstant: Sum = {
  id: 'cell-constant',
  group: GROUP,
  title: 'Cell constant from a standard',
  words: 'conductivity calibrate cell gain conductance siemens',
  choices: [],
  fields: [
    { id: 'k', name: 'Standard, at the cup’s temperature', unit: 'µS/cm', usual: 1413, nudge: 10 },
    { id: 'seen', name: 'Shown in it, uncompensated', unit: 'µS/cm', usual: 1450, nudge: 10 },
    { ...cell(1), name: 'Cell constant in force' },
    { id: 'fresh', name: 'Real cell constant', unit: '/cm', usual: 1 },
  ],
  ways: [
    {
      finds: ['fresh'],
      work: ({ k, seen, c }) => {
        // What the instrument saw as conductance: what it showed, less the constant that it put in.
        const fresh = cellConstantFrom(k!, seen! / c!);
        return {
          found: { fresh },
          plusMinus: fresh * 0.01,
          plusMinusBecause: 'of a standard of ±1 %; common practice, no source',
          formula: `${shown(c!)} · ${shown(k!)} / ${shown(seen!)} = ${shown(fresh)} /cm`,
          more: [{ name: 'Gain against the one in force', value: (100 * seen!) / k!, unit: '%', decimals: 2 }],
          note: 'A factory-calibrated cell is cleaned and tested, not adjusted. Low reading: clean again, then fresh standard.',
        };
      },
    },
  ],
  formula: 'K = K(in force) · κ(standard, T) / κ(shown)',
  source: 'definition of the cell constant, ISO 7888',
  validity: 'cell constants 0.001 to 100 /cm',
};

const loop: Sum = {
  id: 'current-loop',
  group: GROUP,
  title: 'Value of a 4 to 20 mA signal',
  words: 'current loop 4 20 milliamp span transmitter output namur ne43 analog',
  choices: [],
  fields: [
    { id: 'low', name: 'Value at 4 mA', unit: '', usual: 0 },
    { id: 'high', name: 'Value at 20 mA', unit: '', usual: 14 },
    { id: 'v', name: 'Value', unit: '', usual: 7, nudge: 1 },
    { id: 'ma', name: 'Current', unit: 'mA', usual: 12, decimals: 3, nudge: 0.1 },
  ],
  ways: [
    {
      finds: ['ma'],
      work: ({ low, high, v }) => {
        const ma = currentFor(v!, { at4: low!, at20: high! });
        return {
          found: { ma },
          plusMinus: null,
          plusMinusBecause: 'exact; the output stage adds its own',
          formula: `4 + 16 · (${shown(v!)} − ${shown(low!)}) / (${shown(high!)} − ${shown(low!)}) = ${shown(ma, 3)} mA`,
          more: [{ name: 'Share of the span', value: (100 * (ma - 4)) / 16, unit: '%', decimals: 2 }],
          note: CAUTION,
        };
      },
    },
    {
      finds: ['v'],
      work: ({ low, high, ma }) => {
        const v = valueOfCurrent(ma!, { at4: low!, at20: high! });
        return {
          found: { v },
          plusMinus: null,
          plusMinusBecause: 'exact; the input stage adds its own',
          formula: `${shown(low!)} + (${shown(ma!, 3)} − 4) / 16 · (${shown(high!)} − ${shown(low!)}) = ${shown(v)}`,
          more: [{ name: 'Share of the span', value: (100 * (ma! - 4)) / 16, unit: '%', decimals: 2 }],
          note: `The transmitter is ${loopState(ma!)}.`,
        };
      },
    },
  ],
  formula: 'I = 4 mA + 16 mA · (value − low)/(high − low)',
  source: 'IEC 60381-1; fault and saturation limits by NAMUR NE 43',
  validity: '3.8 to 20.5 mA; at most 3.6 and from 21 mA is a fault, no reading',
};

const span: Sum = {
  id: 'percent-of-span',
  group: GROUP,
  title: 'Error in percent of span',
  words: 'as found as left transmitter check tolerance simulator',
  choices: [],
  fields: [
    { id: 'applied', name: 'Applied by the box', unit: '', usual: 10, nudge: 1 },
    { id: 'seen', name: 'Shown', unit: '', usual: 10.1, nudge: 0.1 },
    { id: 'width', name: 'Width of the span', unit: '', usual: 20 },
    { id: 'e', name: 'Error', unit: '%', usual: 0.5, decimals: 3 },
  ],
  ways: [
    {
      finds: ['e'],
      work: ({ applied, seen, width }) => {
        const table = spanTable(
          [{ label: 'reading', use: 'verify', applied: applied!, asFound: seen!, asLeft: null }],
          width!,
          1,
        );
        const e = table.worstFound ?? 0;
        return {
          found: { e },
          plusMinus: null,
          plusMinusBecause: 'exact; box and display add theirs',
          formula: `100 · (${shown(seen!)} − ${shown(applied!)}) / ${shown(width!)} = ${shown(e, 3)} % of span`,
          more: [{ name: 'Off by', value: seen! - applied!, unit: 'in the unit of the reading' }],
          note: CAUTION,
        };
      },
    },
  ],
  formula: 'error = 100 · (shown − applied)/span',
  source: 'definition',
  validity: 'a span other than 0',
};

export const ELECTRICAL_SUMS: readonly Sum[] = [
  resistivityBox,
  conductivityBox,
  cellConstant,
  ...THERMOMETER_SUMS,
  loop,
  span,
];
