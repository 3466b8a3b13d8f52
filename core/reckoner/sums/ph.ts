import { millivolts, shownPh } from '../../families/ph/electrode.ts';
import { fitSensor } from '../../sensor/fit.ts';
import { familyOf } from '../../families/registry.ts';
import { modelOf } from '../../sensor/sensor.ts';
import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { buffer, BUFFERS } from '../../solutions/buffers.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { TOTAL_SCALE_NOTE, trisPh } from '../../solutions/seawater/tris.ts';
import { temperatureSlope, valueAt } from '../../solutions/standard.ts';
import { inside, shown } from '../figures.ts';
import type { Answer, Sum, SumChoice } from '../sum.ts';
import { temperatureOf } from './fields.ts';

const GROUP = 'pH';
const buffers = (id: string, name: string, usual: string): SumChoice => ({
  id,
  name,
  usual,
  options: BUFFERS.map((b) => ({ id: b.id, name: b.name })),
});

const bufferSum: Sum = {
  id: 'buffer',
  group: GROUP,
  title: 'Buffer at a temperature',
  words: 'ph standard calibration solution table value warm cold',
  choices: [buffers('standard', 'Buffer', 'technical-7.00')],
  fields: [temperatureOf(23.4), { id: 'ph', name: 'pH', unit: 'pH', usual: 7, decimals: 3 }],
  ways: [
    {
      finds: ['ph'],
      work: ({ t }, { standard }) => {
        const b = buffer(standard!);
        const ph = valueAt(b, t!);
        return {
          found: { ph },
          plusMinus: 2 * b.uncertainty,
          plusMinusBecause: 'of the buffer itself',
          formula: `table of ${b.name}, read at ${shown(t!, 1)} °C = ${shown(ph, 3)}`,
          more: [
            { name: 'Printed on the bottle', value: b.nominal, unit: `pH at ${b.nominalAtC} °C`, decimals: 3 },
            { name: 'Changes by', value: temperatureSlope(b, t!), unit: 'pH per °C', decimals: 4 },
          ],
          note: `${b.source}. A lot’s own printed table always wins.`,
        };
      },
    },
  ],
  formula: 'pH = table(T), smooth between its rows',
  source:
    'Primary buffers: Buck et al., Pure Appl. Chem. 74 (2002) 2169; technical ones: typical. Both from memory of the tables',
  validity: '0 to 50 °C (4.01: 5 to 50 °C); never stretched beyond the table',
  curve: { along: 't', low: 0, high: 50 },
};

const electrode: Sum = {
  id: 'electrode',
  group: GROUP,
  title: 'Millivolts and pH of an electrode',
  words: 'mv expected potential nernst slope simulator glass zero offset',
  choices: [],
  fields: [
    { id: 'ph', name: 'pH', unit: 'pH', usual: 8.2, decimals: 3, nudge: 0.1 },
    { id: 'mv', name: 'Potential', unit: 'mV', usual: -69.5, decimals: 1, nudge: 1 },
    temperatureOf(25),
    { id: 's', name: 'Slope', unit: '%', usual: 100, decimals: 1, nudge: 1 },
    { id: 'e0', name: 'Zero, in pH 7', unit: 'mV', usual: 0, decimals: 1, nudge: 1 },
  ],
  ways: [
    {
      finds: ['mv'],
      work: ({ ph, t, s, e0 }) => {
        requireWithin(ph!, -1, 15, 'pH', '', 'Check the figure.');
        checkSlope(s!);
        const mv = millivolts(ph!, t!, { zero: e0!, sensitivity: s! / 100 });
        return {
          found: { mv },
          plusMinus: null,
          plusMinusBecause: 'as good as the slope and zero that you give it',
          formula: `${inside(e0!, 1)} − ${shown(s! / 100, 3)} · ${shown(nernstSlope(t!), 3)} · (${shown(ph!, 2)} − 7) = ${shown(mv, 1)} mV`,
          more: [{ name: 'Ideal slope at this temperature', value: nernstSlope(t!), unit: 'mV per pH', decimals: 3 }],
          note: 'Temperature compensation corrects the electrode’s slope only, never the chemistry of the water.',
        };
      },
    },
    {
      finds: ['ph'],
      work: ({ mv, t, s, e0 }) => {
        checkSlope(s!);
        const ph = shownPh(mv!, t!, { zero: e0!, sensitivity: s! / 100 });
        requireWithin(ph, -1, 15, 'pH', '', 'Check millivolts, sign and slope.');
        return {
          found: { ph },
          plusMinus: null,
          plusMinusBecause: 'as good as the slope and zero that you give it',
          formula: `7 − (${shown(mv!, 1)} − ${inside(e0!, 1)}) / (${shown(s! / 100, 3)} · ${shown(nernstSlope(t!), 3)}) = ${shown(ph, 3)}`,
          more: [{ name: 'Ideal slope at this temperature', value: nernstSlope(t!), unit: 'mV per pH', decimals: 3 }],
        };
      },
    },
  ],
  formula: 'E = zero − slope · k(T) · (pH − 7),  k(T) = ln 10 · R·T/F',
  source: 'Nernst; constants CODATA 2018; Buck et al. 2002 for the form',
  validity: 'pH −1 to 15, slope 1 to 120 %; zero taken at pH 7, as pH channels do',
  curve: { along: 'ph', low: 0, high: 14 },
};

function checkSlope(percent: number): void {
  requireWithin(percent, 1, 120, 'slope', '%', 'A slope this far off is broken glass, a short, or a slip of the unit.');
}

const slopeOfTwo: Sum = {
  id: 'slope-of-two',
  group: GROUP,
  title: 'Slope and zero from two buffers',
  words: 'calibration two point offset efficiency millivolts glass',
  choices: [buffers('first', 'First buffer', 'technical-7.00'), buffers('second', 'Second buffer', 'technical-10.01')],
  fields: [
    { id: 'e1', name: 'Potential in the first', unit: 'mV', usual: -8.4, decimals: 1, nudge: 1 },
    { id: 'e2', name: 'Potential in the second', unit: 'mV', usual: -176.9, decimals: 1, nudge: 1 },
    { ...temperatureOf(24.6), name: 'Temperature of the cups' },
    { id: 's', name: 'Slope', unit: '%', usual: 100, decimals: 2 },
    { id: 'e0', name: 'Zero, in pH 7', unit: 'mV', usual: 0, decimals: 1 },
  ],
  ways: [
    {
      finds: ['s', 'e0'],
      work: ({ e1, e2, t }, { first, second }) => {
        const point = (id: string, signal: number) => ({
          standard: buffer(id),
          lotId: id,
          temperatureC: t!,
          signal,
          signalUncertainty: 0.3,
        });
        const family = familyOf('ph');
        const fit = fitSensor(family, modelOf(family), [point(first!, e1!), point(second!, e2!)], { free: 'both' });
        if (!fit.ok) throw new Refusal(fit.reason, fit.message);
        const [a, b] = [valueAt(buffer(first!), t!), valueAt(buffer(second!), t!)];
        const { zero, sensitivity } = fit.coefficients;
        const nominal = (e2! - e1!) / (buffer(first!).nominal - buffer(second!).nominal) / nernstSlope(t!);
        return {
          found: { s: 100 * sensitivity, e0: zero },
          plusMinus: 200 * Math.sqrt(fit.covariance[1][1]),
          plusMinusBecause: 'buffers, thermometer ±0.4 °C, readings ±0.6 mV',
          formula: `(${shown(e2!, 1)} − ${inside(e1!, 1)}) / (${shown(a, 3)} − ${shown(b, 3)}) / ${shown(nernstSlope(t!), 3)} = ${shown(100 * sensitivity, 2)} %`,
          more: [
            { name: 'With the printed values it would be', value: 100 * nominal, unit: '%', decimals: 2 },
            { name: 'mV per pH', value: sensitivity * nernstSlope(t!), unit: 'mV', decimals: 3 },
          ],
        };
      },
    },
  ],
  formula: 'slope = (E₂ − E₁)/(pH₁ − pH₂)/k(T), with the buffers’ values at this temperature',
  source: 'Buck et al. 2002; buffer tables from memory; ± by JCGM 100:2008',
  validity: 'buffers at least 1 pH apart, inside their tables',
};

const shownGain: Sum = {
  id: 'shown-gain',
  group: GROUP,
  title: 'Relative gain of a display-only channel',
  words: 'as found reading only controller relative slope no millivolts chain',
  choices: [buffers('first', 'First buffer', 'technical-7.00'), buffers('second', 'Second buffer', 'technical-10.01')],
  fields: [
    { id: 'p1', name: 'Shown in the first', unit: 'pH', usual: 7.29, decimals: 2, nudge: 0.01 },
    { id: 'p2', name: 'Shown in the second', unit: 'pH', usual: 10.25, decimals: 2, nudge: 0.01 },
    { ...temperatureOf(25), name: 'Temperature of the cups' },
    { id: 'g', name: 'Relative gain', unit: '%', usual: 100, decimals: 2 },
    { id: 'z', name: 'Shown at pH 7, less 7', unit: 'pH', usual: 0, decimals: 3 },
  ],
  ways: [
    {
      finds: ['g', 'z'],
      work: ({ p1, p2, t }, { first, second }) => {
        const [a, b] = [valueAt(buffer(first!), t!), valueAt(buffer(second!), t!)];
        if (Math.abs(b - a) < 1) {
          throw new Refusal(
            'standards-not-distinct',
            `The two buffers lie ${Math.abs(b - a).toFixed(2)} pH apart; a gain needs at least 1. Pick two that differ more.`,
          );
        }
        const gain = (p2! - p1!) / (b - a);
        requireWithin(gain, 0.01, 10, 'relative gain', '', 'Check which reading belongs to which buffer.');
        return {
          found: { g: 100 * gain, z: p1! - 7 - gain * (a - 7) },
          plusMinus: 100 * ((2 * Math.SQRT2 * 0.011) / Math.abs(b - a)),
          plusMinusBecause: 'buffers ±0.02, display steps of 0.01',
          formula: `(${shown(p2!, 2)} − ${shown(p1!, 2)}) / (${shown(b, 3)} − ${shown(a, 3)}) = ${shown(gain, 5)}`,
          more: [],
          note: 'Relative to the coefficients that the instrument holds. Multiply it with those found before to know the electrode since it was new.',
        };
      },
    },
  ],
  formula: 'gain = (shown₂ − shown₁)/(pH₂ − pH₁)',
  source: 'definition; buffer tables from memory',
  validity: 'buffers at least 1 pH apart, inside their tables',
};

const tris: Sum = {
  id: 'tris',
  group: GROUP,
  title: 'Tris buffer in seawater, total scale',
  words: 'seawater marine reef ph total scale',
  choices: [],
  fields: [
    { id: 'sal', name: 'Salinity of the buffer', unit: 'PSS-78', usual: 35, decimals: 2, nudge: 1 },
    temperatureOf(25),
    { id: 'ph', name: 'pH, total scale', unit: 'pH total', usual: 8.0935, decimals: 4 },
  ],
  ways: [
    {
      finds: ['ph'],
      work: ({ sal, t }) => {
        const ph = trisPh(sal!, t!);
        return {
          found: { ph },
          plusMinus: 0.008,
          plusMinusBecause: 'of a buffer made to the recipe; common practice, no source',
          formula: `pHT(S ${shown(sal!, 2)}, ${shown(t!, 1)} °C) = ${shown(ph, 4)}`,
          more: [],
          note: TOTAL_SCALE_NOTE,
        };
      },
    },
  ],
  formula: 'pHT = (11911.08 − 18.2499 S − 0.039336 S²)/T − 366.27059 + … (six terms, T in K)',
  source: 'DelValls & Dickson 1998; Dickson, Sabine & Christian (2007), SOP 6a',
  validity: 'salinity 20 to 40, 0 to 45 °C',
  curve: { along: 't', low: 0, high: 45 },
};

const solution: Sum = {
  id: 'ph-at-temperature',
  group: GROUP,
  title: 'pH of a water at another temperature',
  words: 'solution temperature coefficient compensation sample lab process warm cold drift',
  choices: [],
  fields: [
    { id: 'ph', name: 'pH as measured', unit: 'pH', usual: 7.4, decimals: 2, nudge: 0.1 },
    { ...temperatureOf(32), name: 'Measured at' },
    { id: 'c', name: 'pH a degree, of this water', unit: '', usual: -0.017, decimals: 4 },
    { id: 'to', name: 'Wanted at', unit: '°C', usual: 25, decimals: 1 },
    { id: 'there', name: 'pH there', unit: 'pH', usual: 7.52, decimals: 2 },
  ],
  ways: [
    {
      finds: ['there'],
      work: ({ ph, t, c, to }) => moved(ph!, t!, to!, c!, 'there'),
    },
    {
      finds: ['ph'],
      work: ({ there, t, c, to }) => moved(there!, to!, t!, c!, 'ph'),
    },
  ],
  formula: 'pH(T2) = pH(T1) + c · (T2 − T1)',
  source:
    'the water’s own coefficient, measured; −0.017 is that of pure water (half of d pKw/dT at 25 °C, from memory)',
  validity: 'a few ten degrees; a channel compensates its electrode only, never its water',
};

function moved(ph: number, from: number, to: number, c: number, id: string): Answer {
  requireWithin(ph, -1, 15, 'pH', '', 'Check the figure.');
  requireWithin(c, -0.1, 0.1, 'coefficient', 'pH/°C', 'Measure one cup at two temperatures.');
  for (const t of [from, to]) requireWithin(t, -5, 110, 'temperature', '°C', 'Check the thermometer and its unit.');
  const value = ph + c * (to - from);
  return {
    found: { [id]: value },
    plusMinus: 0.02 + 0.2 * Math.abs(c * (to - from)),
    plusMinusBecause: 'of the reading, and a fifth of the coefficient; common practice, no source',
    formula: `${shown(ph, 2)} + ${inside(c, 4)} · (${shown(to, 1)} − ${shown(from, 1)}) = ${shown(value, 2)}`,
    more: [],
    note: 'Both are true: the water has another pH when it is warm. Say at which temperature a value holds, and compare at one.',
  };
}

export const PH_SUMS: readonly Sum[] = [bufferSum, electrode, slopeOfTwo, shownGain, solution, tris];
