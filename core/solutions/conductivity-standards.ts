import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';
import { NACL_LIMITING } from './compensation.ts';
import { conductivityOfSeawater, salinity } from './seawater/practical-salinity.ts';
import type { Standard } from './standard.ts';

const FROM_15 = Array.from({ length: 16 }, (_, i) => 15 + i);
const rows = (values: readonly number[], factor = 1): TableRow[] => values.map((v, i) => [FROM_15[i]!, v * factor]);

const KCL_001 = rows([1147, 1173, 1199, 1225, 1251, 1278, 1305, 1332, 1359, 1386, 1413, 1441, 1468, 1496, 1524, 1552]);
const KCL_002 = rows([2243, 2294, 2345, 2397, 2449, 2501, 2553, 2606, 2659, 2712, 2765, 2819, 2873, 2927, 2981, 3036]);
const KCL_01 = rows(
  [10.48, 10.72, 10.95, 11.19, 11.43, 11.67, 11.91, 12.15, 12.39, 12.64, 12.88, 13.13, 13.37, 13.62, 13.87, 14.12],
  1000,
);
const KCL_1: TableRow[] = [
  [15, 92_520],
  [20, 102_070],
  [25, 111_800],
];

/** Relative standard uncertainty of the handbook KCl values: ±0.2 % at k = 2. Common practice, no source. */
const KCL_RELATIVE = 0.001;

function kcl(id: string, name: string, table: readonly TableRow[], step: number): Standard {
  const nominal = table.find(([t]) => t === 25)![1];
  return {
    id,
    name,
    family: 'conductivity',
    unit: 'µS/cm',
    nominal,
    nominalAtC: 25,
    table,
    uncertainty: nominal * KCL_RELATIVE,
    tableStep: step,
    source:
      'KCl, handbook table, from memory; at 25 °C ISO 7888 gives 141, 277 and 1290 mS/m for 0.01, 0.02, 0.1 mol/L',
  };
}

/** The built-in conductivity standards: KCl over temperature, µS/cm. */
export const CONDUCTIVITY_STANDARDS: readonly Standard[] = [
  kcl('kcl-0.01', 'KCl 0.01 mol/L, 1413 µS/cm', KCL_001, 1),
  kcl('kcl-0.02', 'KCl 0.02 mol/L, 2.77 mS/cm', KCL_002, 1),
  kcl('kcl-0.1', 'KCl 0.1 mol/L, 12.88 mS/cm', KCL_01, 10),
  kcl('kcl-1', 'KCl 1 mol/L, 111.8 mS/cm', KCL_1, 10),
];

/** What a label says the solution is made of: decides how its value moves with temperature. */
export type Salt = 'KCl' | 'NaCl' | 'seawater' | 'not stated';

/** A bottle without a salt holds at its label's temperature only, give or take what a thermometer shows. */
const LABEL_ONLY_C = 0.1;

/**
 * A bottle of conductivity standard by its label: its value over temperature follows from the salt.
 *
 * KCl takes the relative course of the handbook table nearest in strength, NaCl that of its limiting ionic
 * conductivities, seawater PSS-78. Without a salt there is no course, and any other temperature is refused.
 *
 * @param label value at the label's temperature, µS/cm
 * @param labelC the label's temperature, °C: 15 to 30 for KCl, 0 to 45 for NaCl, −2 to 35 for seawater
 * @throws Refusal `out-of-range`, `label-outside-course`, and later `standard-outside-table`
 * @example valueAt(conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' }), 20) // 76.0
 * @example valueAt(conductivityBottle({ label: 53000, labelC: 25, salt: 'seawater' }), 20) // 47854
 */
export function conductivityBottle({
  label,
  labelC,
  salt,
  plusMinusPercent = 1,
}: {
  readonly label: number;
  readonly labelC: number;
  readonly salt: Salt;
  /** expanded (k = 2), % of the value; 1 % is common practice, no source */
  readonly plusMinusPercent?: number;
}): Standard {
  requireWithin(label, 1, 250_000, 'the label’s conductivity', 'µS/cm', 'Check figure and unit on the bottle.');
  requireWithin(plusMinusPercent, 0.01, 20, 'the label’s ±', '%', 'Enter what the certificate states.');
  const table = course(label, labelC, salt);
  return {
    id: `bottle-${label}-${labelC}-${salt}`,
    name: label >= 10_000 ? `${label / 1000} mS/cm` : `${label} µS/cm`,
    family: 'conductivity',
    unit: 'µS/cm',
    nominal: label,
    nominalAtC: labelC,
    table,
    uncertainty: (label * plusMinusPercent) / 200,
    tableStep: 0,
    source: SOURCES[salt],
    ...(salt === 'not stated'
      ? {
          remedy:
            'The label names no salt, so nobody knows its value at another temperature. Bring the cup to the label’s temperature, or enter the salt or the bottle’s own table.',
        }
      : {}),
  };
}

const SOURCES: Record<Salt, string> = {
  KCl: 'the label, carried over temperature like the nearest handbook KCl table (from memory)',
  NaCl: 'the label, carried over temperature by limiting ionic conductivities, Robinson & Stokes 1959 (from memory)',
  seawater: 'the label, carried over temperature by PSS-78, UNESCO Tech. Papers Mar. Sci. 44 (1983)',
  'not stated': 'the label',
};

function course(label: number, labelC: number, salt: Salt): readonly TableRow[] {
  if (salt === 'not stated') {
    requireWithin(labelC, 0, 50, 'the label’s temperature', '°C', 'Check the bottle.');
    return [
      [labelC - LABEL_ONLY_C, label],
      [labelC + LABEL_ONLY_C, label],
    ];
  }
  if (salt === 'seawater') {
    const s = salinity({ conductivityUsPerCm: label, temperatureC: labelC });
    return Array.from({ length: 19 }, (_, i) => 2 * i - 2 + (i === 18 ? 1 : 0)).map((t) => [
      t,
      conductivityOfSeawater(s, t),
    ]);
  }
  const relative = salt === 'NaCl' ? NACL_LIMITING : nearestKcl(label);
  const at = interpolate(relative, labelC);
  if (at === null) {
    throw new Refusal(
      'label-outside-course',
      `${labelC} °C is outside the course of ${salt} (${relative[0]![0]} to ${relative.at(-1)![0]} °C). Enter the bottle’s own table.`,
      { value: labelC, low: relative[0]![0], high: relative.at(-1)![0] },
    );
  }
  return relative.map(([t, v]) => [t, (label * v) / at]);
}

function nearestKcl(label: number): readonly TableRow[] {
  const tables = [KCL_001, KCL_002, KCL_01, KCL_1];
  const distance = (table: readonly TableRow[]) => Math.abs(Math.log(label / table.find(([t]) => t === 25)![1]));
  return tables.reduce((a, b) => (distance(b) < distance(a) ? b : a));
}
