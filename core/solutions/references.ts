import { FARADAY, GAS_CONSTANT } from '../quantities/constants.ts';
import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { kelvin } from '../quantities/temperature.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/** A reference electrode: its potential against the standard hydrogen electrode. */
export interface Reference {
  readonly id: string;
  readonly name: string;
  /**
   * what its figures contain: `with junction` as measured through a salt bridge, `by activity` as computed without one.
   * The two are not the same quantity and are never mixed. `hydrogen` is the zero of the scale.
   */
  readonly series: 'hydrogen' | 'with junction' | 'by activity';
  /** mV over °C */
  readonly table: readonly TableRow[];
  readonly source: string;
}

const overTens = (values: readonly number[]): TableRow[] => values.map((v, i) => [10 + 5 * i, v]);

/** E° of silver | silver chloride at 25 °C, mV: 222.33, as used with the activity coefficients beside it. */
const SILVER_CHLORIDE_MV = 222.33;

/**
 * By how much E° of silver | silver chloride differs from that at 25 °C, mV.
 *
 * @see Bates & Bower, J. Res. Natl. Bur. Stand. 53 (1954) 283, from memory: E°/V = 0.23655 − 4.8642e-4 t − 3.4205e-6 t² +
 *   5.869e-9 t³, 0 to 95 °C
 */
const standardCourse = (t: number): number => {
  const at = (c: number) => c * (-0.48642 + c * (-3.4205e-3 + c * 5.869e-6));
  return at(t) - at(25);
};

/**
 * Silver | silver chloride in KCl of this strength, from activities: E°(T) − (RT/F) ln(m γ).
 *
 * @param molality of KCl, mol/kg, above 0
 * @param gamma its mean activity coefficient; from 10 to 40 °C it stays within 1 % of that at 25 °C (from memory)
 * @param temperatureC 10 to 40 °C
 * @returns mV against standard hydrogen, without any junction
 * @throws Refusal `out-of-range`
 * @example silverChlorideByActivity(1, 0.604) // 235.3
 * @example silverChlorideByActivity(1, 0.604, 35) // 229.0
 */
export function silverChlorideByActivity(molality: number, gamma: number, temperatureC = 25): number {
  requireWithin(temperatureC, 10, 40, 'temperature', '°C', 'The activity coefficients hold in that range.');
  if (!(molality > 0 && gamma > 0 && molality * gamma >= 1e-9 && molality * gamma <= 1e3)) {
    throw new Refusal('out-of-range', `An activity of ${molality} × ${gamma} has no potential. Enter figures above 0.`);
  }
  const perE = (1000 * GAS_CONSTANT * kelvin(temperatureC)) / FARADAY;
  return SILVER_CHLORIDE_MV + standardCourse(temperatureC) - perE * Math.log(molality * gamma);
}

const byActivity = (molality: number, gamma: number): Reference => ({
  id: `silver-chloride-${molality}m`,
  name: `Ag/AgCl, ${molality} mol/kg KCl, by activity`,
  series: 'by activity',
  table: overTens([10, 15, 20, 25, 30, 35, 40].map((t) => silverChlorideByActivity(molality, gamma, t))),
  source: 'E°(T) of Bates & Bower 1954 − (RT/F) ln(m γ); γ at 25 °C; all from memory of the tables',
});

const SAWYER = 'Sawyer, Sobkowiak & Roberts, Electrochemistry for Chemists (1995), from memory of the table';

export const REFERENCES: readonly Reference[] = [
  {
    id: 'hydrogen',
    name: 'standard hydrogen (SHE)',
    series: 'hydrogen',
    table: [
      [0, 0],
      [100, 0],
    ],
    source: 'the zero of the scale, by convention at every temperature',
  },
  {
    id: 'silver-chloride-saturated',
    name: 'Ag/AgCl, saturated KCl',
    series: 'with junction',
    table: overTens([213.8, 208.9, 204.0, 198.9, 193.9, 188.7, 183.5]),
    source: SAWYER,
  },
  {
    id: 'silver-chloride-3.5',
    name: 'Ag/AgCl, 3.5 mol/L KCl',
    series: 'with junction',
    table: overTens([215.2, 211.7, 208.2, 204.6, 200.9, 197.1, 193.3]),
    source: SAWYER,
  },
  {
    id: 'silver-chloride-3',
    name: 'Ag/AgCl, 3 mol/L KCl',
    series: 'with junction',
    table: [
      [10, 220],
      [15, 216],
      [20, 213],
      [25, 209],
      [30, 205],
    ],
    source: 'Nordstrom & Wilde, field methods of water quality, from memory of the table, to 1 mV',
  },
  {
    id: 'calomel-saturated',
    name: 'calomel, saturated KCl',
    series: 'with junction',
    table: overTens([254, 251, 248, 244, 241, 238, 234]),
    source: 'Nordstrom & Wilde, field methods of water quality, from memory of the table, to 1 mV',
  },
  byActivity(3, 0.569),
  byActivity(1, 0.604),
  byActivity(0.1, 0.77),
];

/**
 * A reference by its id.
 *
 * @throws Refusal `reference-unknown`
 * @example referenceOf('silver-chloride-saturated').series // 'with junction'
 */
export function referenceOf(id: string): Reference {
  const found = REFERENCES.find((r) => r.id === id);
  if (found) return found;
  throw new Refusal('reference-unknown', `There is no reference “${id}” here. Pick one from the list.`, { id });
}

/**
 * Potential of a reference against standard hydrogen.
 *
 * @returns mV
 * @throws Refusal `reference-outside-table`
 * @example referencePotential('silver-chloride-saturated', 25) // 198.9
 */
export function referencePotential(id: string, temperatureC: number): number {
  const { name, table } = referenceOf(id);
  const value = interpolate(table, temperatureC);
  if (value !== null) return value;
  const low = table[0]![0];
  const high = table.at(-1)![0];
  throw new Refusal(
    'reference-outside-table',
    `${temperatureC} °C is outside the table of ${name} (${low} to ${high} °C). Measure inside it, or pick another reference.`,
    { value: temperatureC, low, high },
  );
}

/**
 * Can figures on one be carried to the other: does none of them, or do both, contain the liquid junction?
 *
 * @example isOneSeries('silver-chloride-saturated', 'hydrogen') // 'true'
 * @example isOneSeries('silver-chloride-saturated', 'silver-chloride-3m') // 'false'
 */
export function isOneSeries(a: string, b: string): boolean {
  const [one, other] = [referenceOf(a).series, referenceOf(b).series];
  return one === other || one === 'hydrogen' || other === 'hydrogen';
}

/**
 * A redox potential carried from one reference to another.
 *
 * @param potentialMv measured against `from`
 * @returns mV against `to`
 * @throws Refusal `references-of-two-series` when one table contains the liquid junction and the other does not
 * @example againstReference(230, 'silver-chloride-saturated', 'hydrogen', 25) // 428.9
 */
export function againstReference(potentialMv: number, from: string, to: string, temperatureC: number): number {
  requireWithin(potentialMv, -1e6, 1e6, 'potential', 'mV', 'Check figure and unit.');
  const a = referenceOf(from);
  const b = referenceOf(to);
  if (!isOneSeries(from, to)) {
    throw new Refusal(
      'references-of-two-series',
      `The figures of ${a.name} are ${a.series}, those of ${b.name} ${b.series}: a few mV apart for that alone. Pick two of one series.`,
      { from: a.series, to: b.series },
    );
  }
  return potentialMv + referencePotential(from, temperatureC) - referencePotential(to, temperatureC);
}
