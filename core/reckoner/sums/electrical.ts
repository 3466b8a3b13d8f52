import { currentFor, loopState, valueOfCurrent } from '../../electrical/current-loop.ts';
import {
  CLASS_A_C,
  classA,
  rtdResistance,
  rtdSlope,
  rtdTemperature,
  type NominalOhms,
  type Winding,
} from '../../electrical/resistance-thermometer.ts';
import {
  boxForConductivity,
  boxForResistivity,
  cellConstantFrom,
  conductivityOfBox,
  resistivityOfBox,
} from '../../electrical/simulators.ts';
import { spanTable } from '../../electrical/span-table.ts';
import { shown } from '../figures.ts';
import { requireWithin } from '../../quantities/refusal.ts';
import {
  selfHeating,
  steinhartHart,
  thermistorResistance,
  thermistorTemperature,
} from '../../electrical/thermistor.ts';
import type { Answer, Figures, Sum, SumChoice, SumField } from '../sum.ts';

const GROUP = 'Electrical';
const CAUTION =
  'Simulator boxes and terminals: isolate, or let a qualified person do it. Wet hands and mains do not mix; local codes and site rules come first.';
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

const ELEMENT: SumChoice = {
  id: 'element',
  name: 'Element',
  usual: '100',
  options: [
    { id: '100', name: 'Pt100' },
    { id: '1000', name: 'Pt1000' },
  ],
};

/** The ± of class A, where it holds. */
function ofClass(t: number, winding: string, slope: number): Pick<Answer, 'plusMinus' | 'plusMinusBecause'> {
  const { low, high } = CLASS_A_C[winding as Winding];
  const half = classA(t, winding as Winding);
  if (half === null)
    return { plusMinus: null, plusMinusBecause: `no ± is known: class A holds from ${low} to ${high} °C only` };
  return { plusMinus: half * slope, plusMinusBecause: `of a class A element, ±${shown(half, 2)} °C; leads add theirs` };
}

const rtd: Sum = {
  id: 'rtd',
  group: GROUP,
  title: 'Platinum thermometer: degrees and ohms',
  words: 'rtd pt100 pt1000 resistance temperature simulator ohm',
  choices: [
    ELEMENT,
    {
      id: 'winding',
      name: 'Made as',
      usual: 'wire',
      options: [
        { id: 'wire', name: 'wire-wound' },
        { id: 'film', name: 'film' },
      ],
    },
  ],
  fields: [
    { id: 't', name: 'Temperature', unit: '°C', usual: 25, decimals: 2, nudge: 1 },
    { id: 'r', name: 'Resistance', unit: 'Ω', usual: 109.735, decimals: 3, nudge: 0.1 },
  ],
  ways: [
    {
      finds: ['r'],
      work: ({ t }, { element, winding }) => {
        const nominal = Number(element) as NominalOhms;
        const r = rtdResistance(t!, nominal);
        return {
          found: { r },
          ...ofClass(t!, winding!, rtdSlope(t!, nominal)),
          formula: `${nominal} · (1 + 3.9083e−3 · ${shown(t!, 2)} − 5.775e−7 · ${shown(t!, 2)}²${t! < 0 ? ' + …' : ''}) = ${shown(r, 3)} Ω`,
          more: [],
          note: CAUTION,
        };
      },
    },
    {
      finds: ['t'],
      work: ({ r }, { element, winding }) => {
        const nominal = Number(element) as NominalOhms;
        const t = rtdTemperature(r!, nominal);
        return {
          found: { t },
          ...ofClass(t, winding!, 1),
          formula: `t with R(t) = ${shown(r!, 3)} Ω is ${shown(t, 2)} °C`,
          more: [{ name: 'in °F', value: t * 1.8 + 32, unit: '°F', decimals: 2 }],
          note: CAUTION,
        };
      },
    },
  ],
  formula: 'R = R₀ (1 + A t + B t²), below 0 °C + C (t − 100) t³',
  source: 'IEC 60751:2008',
  validity: '−200 to 850 °C; class A: wire-wound −100 to 450 °C, film −30 to 300 °C',
  curve: { along: 't', low: 0, high: 100 },
};

const thermistor: Sum = {
  id: 'thermistor',
  group: GROUP,
  title: 'Thermistor: degrees and ohms',
  words: 'ntc thermistor steinhart hart resistance temperature table beta ohm 10k',
  choices: [],
  fields: [
    { id: 't', name: 'Temperature', unit: '°C', usual: 20, decimals: 2, nudge: 1 },
    { id: 'r', name: 'Resistance', unit: 'Ω', usual: 12_490, nudge: 100 },
    { id: 'r0', name: 'Its resistance at 0 °C', unit: 'Ω', usual: 32_650 },
    { id: 'r25', name: 'Its resistance at 25 °C', unit: 'Ω', usual: 10_000 },
    { id: 'r50', name: 'Its resistance at 50 °C', unit: 'Ω', usual: 3603 },
  ],
  ways: [
    { finds: ['r'], work: (given) => ofThermistor(given, 'r') },
    { finds: ['t'], work: (given) => ofThermistor(given, 't') },
  ],
  formula: '1/T = a + b ln R + c (ln R)³, through three rows of its table',
  source: 'Steinhart & Hart, Deep-Sea Res. 15 (1968) 497; the usual rows are of a common 10 kΩ element, from memory',
  validity: '−50 to 150 °C; best between its rows',
  curve: { along: 't', low: 0, high: 50 },
};

function ofThermistor({ r0, r25, r50, t, r }: Figures, finds: 't' | 'r'): Answer {
  const made = steinhartHart([
    [0, r0!],
    [25, r25!],
    [50, r50!],
  ]);
  const at = finds === 't' ? thermistorTemperature(made, r!) : t!;
  const ohms = finds === 't' ? r! : thermistorResistance(made, t!);
  // Its slope here: how many ohms a degree is worth.
  const slope = (thermistorResistance(made, at + 0.05) - thermistorResistance(made, at - 0.05)) / 0.1;
  return {
    found: finds === 't' ? { t: at } : { r: ohms },
    plusMinus: finds === 't' ? 0.2 : 0.2 * Math.abs(slope),
    plusMinusBecause: 'of an interchangeable element, ±0.2 °C; common practice, no source',
    formula: `1/(${shown(at, 2)} + 273.15) = a + b ln ${shown(ohms)} + c (ln ${shown(ohms)})³`,
    more: [{ name: 'A degree is worth', value: slope, unit: 'Ω' }],
    note: CAUTION,
  };
}

const leads: Sum = {
  id: 'thermometer-leads',
  group: GROUP,
  title: 'Leads and current: what a thermometer shows too much',
  words: 'lead wire resistance two wire self heating pt100 pt1000 error cable',
  choices: [ELEMENT],
  fields: [
    { id: 't', name: 'Temperature', unit: '°C', usual: 25, decimals: 1 },
    { id: 'lead', name: 'Both leads together', unit: 'Ω', usual: 0.5, decimals: 2, nudge: 0.1 },
    { id: 'i', name: 'Measuring current', unit: 'mA', usual: 1, decimals: 2 },
    { id: 'w', name: 'Dissipation, mW for a degree', unit: '', usual: 10 },
    { id: 'e', name: 'Too high by', unit: '', usual: 1.29, decimals: 3 },
  ],
  ways: [
    {
      finds: ['e'],
      work: ({ t, lead, i, w }, { element }) => {
        const nominal = Number(element) as NominalOhms;
        requireWithin(lead!, 0, 1000, 'resistance of the leads', 'Ω', 'Measure it with the element shorted.');
        const r = rtdResistance(t!, nominal);
        const byLeads = lead! / rtdSlope(t!, nominal);
        const byCurrent = selfHeating(i!, r, w!);
        return {
          found: { e: byLeads + byCurrent },
          plusMinus: null,
          plusMinusBecause: 'as good as the figures of leads, current and dissipation',
          formula: `${shown(lead!, 2)} / ${shown(rtdSlope(t!, nominal), 4)} + ${shown(i!, 2)}² · ${shown(r, 2)} / 1000 / ${shown(w!)} = ${shown(byLeads + byCurrent, 3)} °C`,
          more: [
            { name: 'By the leads', value: byLeads, unit: '°C', decimals: 3 },
            { name: 'By the current', value: byCurrent, unit: '°C', decimals: 3 },
          ],
          note: `Three or four wires take the leads away. In still air an element gives away about a tenth of what it does in water. ${CAUTION}`,
        };
      },
    },
  ],
  formula: 'too high = R(leads)/(dR/dt) + I² R / dissipation',
  source: 'IEC 60751:2008 for dR/dt; Joule’s law',
  validity: 'two wires, −200 to 850 °C',
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
  rtd,
  thermistor,
  leads,
  loop,
  span,
];
