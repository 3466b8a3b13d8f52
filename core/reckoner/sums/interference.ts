import { interference } from '../../families/ion/nikolsky.ts';
import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { ionOf, IONS } from '../../solutions/salts.ts';
import { shown } from '../figures.ts';
import type { Answer, Choices, Sum } from '../sum.ts';

const options = IONS.map(({ id, word }) => ({ id, name: word }));

/** What another ion in the water is worth to a tip, and how much of it may be there. */
export const INTERFERENCE_SUM: Sum = {
  id: 'interference',
  group: 'Ions, chlorine, nitrogen',
  title: 'Interfering ion, as activity of the measured one',
  words: 'selectivity coefficient nikolsky interference interferent ise chloride nitrate potassium sodium loop setting',
  choices: [
    { id: 'measured', name: 'Measured', usual: 'nitrate', options },
    { id: 'other', name: 'Interferes', usual: 'chloride', options },
  ],
  fields: [
    { id: 'b', name: 'Interfering ion', unit: 'mg/L activity', usual: 354.5, nudge: 10 },
    { id: 'k', name: 'Selectivity coefficient of the tip', unit: '', usual: 0.01 },
    { id: 'a', name: 'Counts as', unit: 'mg/L activity', usual: 6.2, decimals: 3, nudge: 0.5 },
  ],
  ways: [
    { finds: ['a'], work: ({ b, k }, chosen) => counts(b!, k!, chosen, 'a') },
    { finds: ['b'], work: ({ a, k }, chosen) => counts(interferentFor(a!, k!, chosen), k!, chosen, 'b') },
  ],
  formula: 'a = K · b^(z/z′), both in mol/L',
  source: 'Nikolsky-Eisenman, IUPAC recommendation, Buck & Lindner, Pure Appl. Chem. 66 (1994) 2527',
  validity: 'ions of one sign; a coefficient for activities in mol/L, as tables and data sheets print it',
};

/** In mol/L. */
const moles = (mgPerL: number, id: string) => mgPerL / ionOf(id).molarMass / 1000;

/** What a tip takes for the other ion at coefficient 1, mol/L: b^(z/z'). */
function exponent({ measured, other }: Choices): number {
  const [one, two] = [ionOf(measured!), ionOf(other!)];
  if (measured !== other && Math.sign(one.charge) === Math.sign(two.charge)) return one.charge / two.charge;
  throw new Refusal(
    'out-of-range',
    `${two.word} does not interfere with ${one.word}: a tip takes another ion of the same sign for its own. Pick another pair.`,
    { value: null },
  );
}

/** The same read backwards, in closed form: b = (a/K)^(z'/z). */
function interferentFor(a: number, k: number, chosen: Choices): number {
  requireWithin(a, 1e-6, 1e6, 'activity', 'mg/L', 'Enter a figure above 0.');
  requireWithin(k, 1e-9, 1e6, 'selectivity coefficient', '', 'It is in the tip’s data sheet, often as log K.');
  const { molarMass } = ionOf(chosen['other']!);
  return 1000 * molarMass * (moles(a, chosen['measured']!) / k) ** (1 / exponent(chosen));
}

function counts(b: number, k: number, chosen: Choices, id: 'a' | 'b'): Answer {
  const power = exponent(chosen);
  const [measured, other] = [ionOf(chosen['measured']!), ionOf(chosen['other']!)];
  const a = interference(measured, [{ activity: b, charge: other.charge, molarMass: other.molarMass, selectivity: k }]);
  return {
    found: { [id]: id === 'a' ? a : b },
    plusMinus: null,
    plusMinusBecause:
      'as good as the coefficient: from tip to tip and with strength it differs by a factor of 2; common practice, no source',
    formula: `${shown(k)} · (${shown(moles(b, other.id))} mol/L)^${shown(power)} = ${shown(moles(a, measured.id))} mol/L, that is ${shown(a)} mg/L of ${measured.word}`,
    more: [
      { name: 'log K', value: Math.log10(k), unit: '', decimals: 2 },
      { name: 'Interfering ion', value: 1000 * moles(b, other.id), unit: 'mmol/L' },
      { name: 'Counts as', value: 1000 * moles(a, measured.id), unit: 'mmol/L' },
    ],
    note: 'What it counts as is the loop’s “interference” in the set-up. It holds for this water alone: when the water changes, so does it.',
  };
}
