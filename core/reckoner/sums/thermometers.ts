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
  selfHeating,
  steinhartHart,
  thermistorResistance,
  thermistorTemperature,
} from '../../electrical/thermistor.ts';
import { requireWithin } from '../../quantities/refusal.ts';
import { shown } from '../figures.ts';
import type { Answer, Figures, Sum, SumChoice } from '../sum.ts';
import { ELECTRICAL_CAUTION as CAUTION, ELECTRICAL_GROUP as GROUP } from './electrical-words.ts';

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

export const THERMOMETER_SUMS: readonly Sum[] = [rtd, thermistor, leads];
