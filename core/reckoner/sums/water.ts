import { requireWithin } from '../../quantities/refusal.ts';
import { AMMONIUM_PER_N, NITRATE_PER_N } from '../../quantities/units.ts';
import {
  ammoniaPka,
  ammoniaShare,
  FRESH_WATER_NOTE,
  HYPOCHLOROUS_C,
  hypochlorousPka,
  hypochlorousShare,
} from '../../solutions/dissociation.ts';
import { oxygenPressure, oxygenSaturation, OXYGEN_RELATIVE } from '../../solutions/oxygen.ts';
import { shown } from '../figures.ts';
import type { Answer, Sum, SumField } from '../sum.ts';
import { temperatureOf } from './fields.ts';

const GROUP = 'Ions, chlorine, nitrogen';
const temperature = temperatureOf();

const ammonia: Sum = {
  id: 'ammonia',
  group: GROUP,
  title: 'Un-ionised ammonia',
  words: 'nh3 nh4 tan toxic fish ammonium total',
  choices: [],
  fields: [
    { id: 'n', name: 'Total ammonia', unit: 'mg/L NH4-N', usual: 0.5, nudge: 0.1 },
    { id: 'ph', name: 'pH', unit: 'pH', usual: 8, decimals: 2, nudge: 0.1 },
    temperature,
    { id: 'f', name: 'Share as NH3', unit: '%', usual: 5.37, decimals: 2 },
  ],
  ways: [
    {
      finds: ['f'],
      work: ({ n, ph, t }) => {
        const f = ammoniaShare(ph!, t!);
        requireWithin(n!, 0, 10_000, 'total ammonia', 'mg/L', 'Check figure and unit.');
        return {
          found: { f },
          plusMinus: f * 0.03,
          plusMinusBecause: 'of the constant, ±3 %; common practice, no source',
          formula: `100 / (1 + 10^(${shown(ammoniaPka(t!), 4)} − ${shown(ph!, 2)})) = ${shown(f, 2)} %`,
          more: [
            { name: 'NH3, as N', value: (n! * f) / 100, unit: 'mg/L' },
            { name: 'NH3', value: ((n! * f) / 100) * (17.031 / 14.007), unit: 'mg/L' },
            { name: 'Total, as NH4', value: n! * AMMONIUM_PER_N, unit: 'mg/L NH4' },
          ],
          note: FRESH_WATER_NOTE,
        };
      },
    },
  ],
  formula: 'share = 1/(1 + 10^(pKa − pH)),  pKa = 0.09018 + 2729.92/T',
  source: 'Emerson et al., J. Fish. Res. Board Can. 32 (1975) 2379',
  validity: 'fresh water, 0 to 50 °C',
  curve: { along: 'ph', low: 6, high: 11 },
};

/** What 100 % is here, and what of it is there. */
function oxygenIn(t: number, sal: number, p: number, share: number) {
  const water = { temperatureC: t, salinity: sal, pressureKPa: p };
  const full = oxygenSaturation(water);
  return {
    full,
    plusMinusBecause: 'of the equation, 0.2 %, from memory; pressure and salinity add their own',
    more: [
      { name: '100 % is here', value: full, unit: 'mg/L O2', decimals: 3 },
      { name: 'Partial pressure of oxygen', value: (share / 100) * oxygenPressure(water), unit: 'kPa O2', decimals: 2 },
    ],
    note: 'Enter the pressure of the air where you stand: a weather report gives it brought to sea level. In water-saturated air a right sensor shows 100 %.',
  };
}
const shareOf = (value: number) => requireWithin(value, 0, 500, 'saturation', '% sat', 'Check figure and unit.');
const oxygen: Sum = {
  id: 'oxygen',
  group: GROUP,
  title: 'Dissolved oxygen, in mg/L and in percent',
  words: 'do o2 saturation sat percent air pressure altitude salinity kpa mbar benson krause',
  choices: [],
  fields: [
    { id: 'o', name: 'Oxygen', unit: 'mg/L O2', usual: 8, decimals: 2, nudge: 0.1 },
    { ...temperature, usual: 20 },
    { id: 'sal', name: 'Practical salinity', unit: 'PSS-78', usual: 0, decimals: 1, nudge: 1 },
    { id: 'p', name: 'Pressure of the air', unit: 'kPa', usual: 101.325, decimals: 2, nudge: 1 },
    { id: 'f', name: 'Saturation', unit: '% sat', usual: 87.99, decimals: 2 },
  ],
  ways: [
    {
      finds: ['f'],
      work: ({ o, t, sal, p }) => {
        requireWithin(o!, 0, 80, 'oxygen', 'mg/L O2', 'Check figure and unit.');
        const f = shareOf((100 * o!) / oxygenSaturation({ temperatureC: t!, salinity: sal!, pressureKPa: p! }));
        const { full, ...beside } = oxygenIn(t!, sal!, p!, f);
        const formula = `100 · ${shown(o!, 2)} / ${shown(full, 3)} = ${shown(f, 2)} %`;
        return { found: { f }, plusMinus: 2 * OXYGEN_RELATIVE * f, formula, ...beside };
      },
    },
    {
      finds: ['o'],
      work: ({ f, t, sal, p }) => {
        shareOf(f!);
        const { full, ...beside } = oxygenIn(t!, sal!, p!, f!);
        const o = (f! / 100) * full;
        const formula = `${shown(f!, 2)} % of ${shown(full, 3)} = ${shown(o, 3)} mg/L`;
        return { found: { o }, plusMinus: 2 * OXYGEN_RELATIVE * o, formula, ...beside };
      },
    },
  ],
  formula: 'C* by Benson and Krause for temperature and salinity, times P (1 − pw/P)(1 − θP) / ((1 − pw)(1 − θ))',
  source: 'Benson and Krause, Limnol. Oceanogr. 29 (1984) 620, as in APHA 4500-O; coefficients from memory',
  validity: '0 to 40 °C, salinity 0 to 40, 50 to 112 kPa',
  curve: { along: 't', low: 0, high: 40 },
};

const measured = (t: number) => t >= HYPOCHLOROUS_C.low && t <= HYPOCHLOROUS_C.high;

const chlorine: Sum = {
  id: 'hypochlorous',
  group: GROUP,
  title: 'Hypochlorous acid in free chlorine',
  words: 'hocl chlorine disinfection pool ph hypochlorite',
  choices: [],
  fields: [
    { id: 'c', name: 'Free chlorine', unit: 'mg/L', usual: 1, nudge: 0.1 },
    { id: 'ph', name: 'pH', unit: 'pH', usual: 7.5, decimals: 2, nudge: 0.1 },
    temperature,
    { id: 'f', name: 'Share as HOCl', unit: '%', usual: 52.1, decimals: 1 },
  ],
  ways: [
    {
      finds: ['f'],
      work: ({ c, ph, t }) => {
        const f = hypochlorousShare(ph!, t!);
        requireWithin(c!, 0, 10_000, 'free chlorine', 'mg/L', 'Check figure and unit.');
        return {
          found: { f },
          plusMinus: measured(t!) ? 2 : 4,
          plusMinusBecause: measured(t!)
            ? 'of the constant; common practice, no source'
            : 'of the constant beyond where it was measured, 5 to 35 °C; common practice, no source',
          formula: `100 / (1 + 10^(${shown(ph!, 2)} − ${shown(hypochlorousPka(t!), 3)})) = ${shown(f, 1)} %`,
          more: [
            { name: 'HOCl, as chlorine', value: (c! * f) / 100, unit: 'mg/L' },
            { name: 'OCl⁻, as chlorine', value: c! * (1 - f / 100), unit: 'mg/L' },
          ],
          note: measured(t!) ? FRESH_WATER_NOTE : `Morris measured from 5 to 35 °C. ${FRESH_WATER_NOTE}`,
        };
      },
    },
  ],
  formula: 'share = 1/(1 + 10^(pH − pKa)),  pKa = 3000/T − 10.0686 + 0.0253 T',
  source: 'Morris, J. Phys. Chem. 70 (1966) 3798',
  validity: 'fresh water, measured from 5 to 35 °C; 0 to 50 °C with a wider ±',
  curve: { along: 'ph', low: 5, high: 10 },
};

const form = (
  id: string,
  title: string,
  words: string,
  asN: SumField,
  asIon: SumField,
  factor: number,
  letters: string,
): Sum => {
  const way = (from: SumField, to: SumField, times: number) => ({
    finds: [to.id],
    work: (given: Readonly<Record<string, number>>): Answer => {
      const x = requireWithin(given[from.id]!, 0, 1e6, from.name, 'mg/L', 'Check figure and unit.');
      return {
        found: { [to.id]: x * times },
        plusMinus: null,
        plusMinusBecause: 'a ratio of molar masses',
        formula: `${shown(x)} ${times === factor ? `· ${shown(factor, 5)}` : `/ ${shown(factor, 5)}`} = ${shown(x * times)} ${to.unit}`,
        more: [],
        note: 'Match the form to the bottle and to the display: the figures differ by that factor.',
      };
    },
  });
  return {
    id,
    group: GROUP,
    title,
    words,
    choices: [],
    fields: [asN, asIon],
    ways: [way(asN, asIon, factor), way(asIon, asN, 1 / factor)],
    formula: letters,
    source: 'molar masses, IUPAC 2021 atomic weights',
    validity: 'any concentration',
  };
};

const nitrate = form(
  'nitrate-forms',
  'Nitrate as N and as NO3',
  'nitrogen no3-n convert form',
  { id: 'n', name: 'As N', unit: 'mg/L NO3-N', usual: 5, nudge: 1 },
  { id: 'ion', name: 'As NO3', unit: 'mg/L NO3', usual: 22.13, nudge: 1 },
  NITRATE_PER_N,
  'NO3 = 4.42664 · NO3-N',
);

const ammonium = form(
  'ammonium-forms',
  'Ammonium as N and as NH4',
  'nitrogen nh4-n tan convert form',
  { id: 'n', name: 'As N', unit: 'mg/L NH4-N', usual: 1, nudge: 1 },
  { id: 'ion', name: 'As NH4', unit: 'mg/L NH4', usual: 1.2879, nudge: 1 },
  AMMONIUM_PER_N,
  'NH4 = 1.28786 · NH4-N',
);

export const WATER_SUMS: readonly Sum[] = [oxygen, ammonia, chlorine, nitrate, ammonium];
