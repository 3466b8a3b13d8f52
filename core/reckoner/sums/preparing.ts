import { concentrationOf, dilute, massFor } from '../../solutions/preparation.ts';
import { molarMass, SALTS } from '../../solutions/salts.ts';
import { shown } from '../figures.ts';
import type { Sum, SumChoice, SumField } from '../sum.ts';

const GROUP = 'Making standards, degrees';
const CAUTION = 'Gloves and eye protection as the jar says; label what you made, with date and strength.';

const salts: SumChoice = {
  id: 'salt',
  name: 'Salt, as it stands on the jar',
  usual: 'KCl',
  options: SALTS.map((s) => ({ id: s.formula, name: `${s.formula}, ${s.name}` })),
};

const purity: SumField = { id: 'p', name: 'Purity', unit: '%', usual: 100, nudge: 1 };
const volume: SumField = { id: 'v', name: 'Made up to', unit: 'mL', usual: 1000 };

const weighing: Sum = {
  id: 'weigh-in',
  group: GROUP,
  title: 'Weighing in a standard',
  words: 'mass grams prepare make molar purity hydrate salt stock',
  choices: [salts],
  fields: [
    { id: 'c', name: 'Wanted', unit: 'mol/L', usual: 0.01, nudge: 0.001 },
    volume,
    purity,
    { id: 'm', name: 'Weigh', unit: 'g', usual: 0.7455, nudge: 0.001 },
  ],
  ways: [
    {
      finds: ['m'],
      work: ({ c, v, p }, { salt }) => {
        const m = massFor(c!, v!, { formula: salt!, purityPercent: p! });
        return {
          found: { m },
          plusMinus: null,
          plusMinusBecause: 'as good as the balance, the flask and the purity',
          formula: `${shown(c!)} mol/L · ${shown(v! / 1000)} L · ${shown(molarMass(salt!), 3)} g/mol / ${shown(p! / 100)} = ${shown(m)} g`,
          more: [{ name: 'Molar mass, water included', value: molarMass(salt!), unit: 'g/mol', decimals: 3 }],
          note: CAUTION,
        };
      },
    },
    {
      finds: ['c'],
      work: ({ m, v, p }, { salt }) => {
        const c = concentrationOf(m!, v!, { formula: salt!, purityPercent: p! });
        return {
          found: { c },
          plusMinus: null,
          plusMinusBecause: 'as good as the balance, the flask and the purity',
          formula: `${shown(m!)} g · ${shown(p! / 100)} / ${shown(molarMass(salt!), 3)} g/mol / ${shown(v! / 1000)} L = ${shown(c)} mol/L`,
          more: [{ name: 'Salt in it', value: (m! * p!) / 100 / (v! / 1000), unit: 'g/L' }],
          note: CAUTION,
        };
      },
    },
  ],
  formula: 'm = c · V · M / purity, M with its water of crystallisation',
  source: 'definition; molar masses from IUPAC 2021 atomic weights, from memory',
  validity: 'figures above 0, purity to 100 %',
};

const dilution: Sum = {
  id: 'dilution',
  group: GROUP,
  title: 'Diluting a stock',
  words: 'dilute stock weaker standard millilitres c1v1',
  choices: [],
  fields: [
    { id: 'stock', name: 'Stock', unit: 'mg/L', usual: 1000, nudge: 10 },
    { id: 'want', name: 'Wanted', unit: 'mg/L', usual: 50, nudge: 1 },
    { id: 'v', name: 'Volume wanted', unit: 'mL', usual: 200, nudge: 10 },
    { id: 'take', name: 'Take of the stock', unit: 'mL', usual: 10, decimals: 3, nudge: 0.1 },
    { id: 'water', name: 'and water', unit: 'mL', usual: 190, decimals: 3 },
  ],
  ways: [
    {
      finds: ['take', 'water'],
      work: ({ stock, want, v }) => {
        const { stockVolume, waterVolume } = dilute(stock!, want!, v!);
        return {
          found: { take: stockVolume, water: waterVolume },
          plusMinus: null,
          plusMinusBecause: 'as good as pipette and flask',
          formula: `${shown(v!)} mL · ${shown(want!)} / ${shown(stock!)} = ${shown(stockVolume)} mL`,
          more: [{ name: 'One part in', value: stock! / want!, unit: 'parts' }],
          note: CAUTION,
        };
      },
    },
    {
      finds: ['want', 'water'],
      work: ({ stock, take, v }) => {
        const want = (stock! * take!) / v!;
        const { waterVolume } = dilute(stock!, want, v!);
        return {
          found: { want, water: waterVolume },
          plusMinus: null,
          plusMinusBecause: 'as good as pipette and flask',
          formula: `${shown(stock!)} · ${shown(take!)} mL / ${shown(v!)} mL = ${shown(want)} mg/L`,
          more: [],
          note: CAUTION,
        };
      },
    },
  ],
  formula: 'c₁ V₁ = c₂ V₂',
  source: 'definition',
  validity: 'figures above 0; a stock makes nothing stronger than itself',
};

const degrees: Sum = {
  id: 'temperature',
  group: GROUP,
  title: 'Celsius and Fahrenheit',
  words: 'degrees temperature convert f c',
  choices: [],
  fields: [
    { id: 'c', name: 'Celsius', unit: '°C', usual: 25, decimals: 2 },
    { id: 'f', name: 'Fahrenheit', unit: '°F', usual: 77, decimals: 2 },
  ],
  ways: [
    {
      finds: ['f'],
      work: ({ c }) => ({
        found: { f: c! * 1.8 + 32 },
        plusMinus: null,
        plusMinusBecause: 'a definition',
        formula: `1.8 · ${shown(c!, 2)} + 32 = ${shown(c! * 1.8 + 32, 2)} °F`,
        more: [{ name: 'A step of 1 °C is', value: 1.8, unit: '°F', decimals: 1 }],
      }),
    },
    {
      finds: ['c'],
      work: ({ f }) => ({
        found: { c: (f! - 32) / 1.8 },
        plusMinus: null,
        plusMinusBecause: 'a definition',
        formula: `(${shown(f!, 2)} − 32) / 1.8 = ${shown((f! - 32) / 1.8, 2)} °C`,
        more: [{ name: 'A step of 1 °F is', value: 1 / 1.8, unit: '°C', decimals: 3 }],
      }),
    },
  ],
  formula: 'F = 1.8 C + 32',
  source: 'definition',
  validity: 'any temperature',
};

export const PREPARING_SUMS: readonly Sum[] = [weighing, dilution, degrees];
