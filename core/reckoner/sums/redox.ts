import { againstReference, REFERENCES, referenceOf, referencePotential } from '../../solutions/references.ts';
import { REDOX_STANDARDS } from '../../solutions/redox-standards.ts';
import { valueAt } from '../../solutions/standard.ts';
import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { inside, shown } from '../figures.ts';
import type { Sum, SumChoice } from '../sum.ts';

const GROUP = 'ORP';
const reference = (id: string, name: string, usual: string): SumChoice => ({
  id,
  name,
  usual,
  options: REFERENCES.map((r) => ({ id: r.id, name: r.name })),
});
const potential = (mv: number) => requireWithin(mv, -2000, 2000, 'potential', 'mV', 'Check figure and unit.');

const scale: Sum = {
  id: 'redox-scale',
  group: GROUP,
  title: 'ORP on another reference',
  words: 'she hydrogen silver chloride reference eh scale redox',
  choices: [
    reference('from', 'Measured against', 'silver-chloride-saturated'),
    reference('to', 'Wanted against', 'hydrogen'),
  ],
  fields: [
    { id: 'e', name: 'Measured', unit: 'mV', usual: 230, decimals: 1, nudge: 1 },
    { id: 't', name: 'Temperature', unit: '°C', usual: 25, decimals: 1, nudge: 1 },
    { id: 'eh', name: 'Wanted', unit: 'mV', usual: 428.9, decimals: 1, nudge: 1 },
  ],
  ways: [
    {
      finds: ['eh'],
      work: ({ e, t }, { from, to }) => carried(potential(e!), t!, from!, to!, 'eh'),
    },
    {
      finds: ['e'],
      work: ({ eh, t }, { from, to }) => carried(potential(eh!), t!, to!, from!, 'e'),
    },
  ],
  formula: 'E(to) = E(from) + E°(from) − E°(to), each reference against hydrogen at this temperature',
  source: 'Sawyer et al., Nordstrom & Wilde (from memory of the tables), with junction; or by activity, without',
  validity: '10 to 40 °C; tables with and without the liquid junction are never mixed',
};

function carried(mv: number, t: number, from: string, to: string, id: string) {
  const value = againstReference(mv, from, to, t);
  const own = (r: string) => shown(referencePotential(r, t), 1);
  return {
    found: { [id]: value },
    plusMinus: from === to ? null : 2,
    plusMinusBecause: from === to ? 'the same reference' : 'of the reference potentials; common practice, no source',
    formula: `${inside(mv, 1)} + ${own(from)} − ${own(to)} = ${shown(value, 1)} mV`,
    more: [],
    note: `${referenceOf(from).name} to ${referenceOf(to).name}.`,
  };
}

const standard: Sum = {
  id: 'redox-standard',
  group: GROUP,
  title: 'Redox standard at a temperature',
  words: 'orp ferrocyanide quinhydrone 430 220 240 calibration solution',
  choices: [
    {
      id: 'standard',
      name: 'Standard',
      usual: 'ferrocyanide',
      options: REDOX_STANDARDS.map((s) => ({ id: s.id, name: s.name })),
    },
    reference('against', 'Shown against', 'silver-chloride-saturated'),
  ],
  fields: [
    { id: 't', name: 'Temperature', unit: '°C', usual: 22, decimals: 1, nudge: 1 },
    { id: 'e', name: 'It should show', unit: 'mV', usual: 230, decimals: 1 },
  ],
  ways: [
    {
      finds: ['e'],
      work: ({ t }, { standard: id, against }) => {
        const s = REDOX_STANDARDS.find((x) => x.id === id);
        if (!s) throw new Refusal('unknown-standard', `There is no standard “${id}”. Pick one from the list.`);
        const eh = valueAt(s, t!);
        const e = againstReference(eh, 'hydrogen', against!, t!);
        return {
          found: { e },
          plusMinus: 2 * s.uncertainty,
          plusMinusBecause: 'of the standard; common practice, no source',
          formula: `${shown(eh, 1)} (SHE) − ${shown(referencePotential(against!, t!), 1)} = ${shown(e, 1)} mV`,
          more: [{ name: 'Against standard hydrogen', value: eh, unit: 'mV', decimals: 1 }],
          note: `${s.source}. Cyanoferrates never meet strong acid.`,
        };
      },
    },
  ],
  formula: 'E = Eh(T) − E°(reference, T)',
  source: 'Nordstrom 1977; quinhydrone and references from memory of the handbook tables',
  validity: '10 to 40 °C with a reference’s table; quinhydrone below pH 8',
  curve: { along: 't', low: 10, high: 40 },
};

export const REDOX_SUMS: readonly Sum[] = [scale, standard];
