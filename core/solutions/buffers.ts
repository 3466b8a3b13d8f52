import { Refusal } from '../quantities/refusal.ts';
import type { TableRow } from '../statistics/shape-preserving-cubic.ts';
import type { Standard } from './standard.ts';

const PRIMARY_C = [0, 5, 10, 15, 20, 25, 30, 35, 40, 50] as const;

const rows = (temperatures: readonly number[], values: readonly number[]): TableRow[] =>
  temperatures.map((t, i) => [t, values[i]!] as const);

/** Primary buffers, Buck et al., Pure Appl. Chem. 74 (2002) 2169, from memory of the published table. */
function primary(id: string, name: string, nominal: number, values: readonly number[]): Standard {
  return {
    id,
    name,
    family: 'ph',
    nominal,
    nominalAtC: 25,
    table: rows(PRIMARY_C, values),
    // Buck et al. state U = 0.01 (k = 2) for secondary, 0.003-0.004 for primary preparations.
    uncertainty: 0.0035,
    tableStep: 0.001,
    source: 'Buck et al., Pure Appl. Chem. 74 (2002) 2169; from memory of the table',
  };
}

const TECHNICAL_UNCERTAINTY = 0.01; // k = 1: ±0.02 on the bottle at k = 2; common practice, no source

function technical(id: string, name: string, nominal: number, nominalAtC: number, table: TableRow[]): Standard {
  return {
    id,
    name,
    family: 'ph',
    nominal,
    nominalAtC,
    table,
    uncertainty: TECHNICAL_UNCERTAINTY,
    tableStep: 0.01,
    source: 'Typical technical buffer, from memory; a lot’s own printed table wins',
  };
}

const BY_FIVE = [0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50] as const;

/** The built-in pH standards, technical ones first since they are what stands on the shelf. */
export const BUFFERS: readonly Standard[] = [
  technical('technical-4.01', '4.01', 4.01, 25, [
    [5, 4.0],
    [20, 4.0],
    [25, 4.01],
    [30, 4.02],
    [35, 4.02],
    [40, 4.03],
    [50, 4.06],
  ]),
  technical(
    'technical-7.00',
    '7.00',
    7.0,
    25,
    rows(BY_FIVE, [7.12, 7.09, 7.06, 7.04, 7.02, 7.0, 6.99, 6.98, 6.97, 6.97, 6.97]),
  ),
  technical('technical-9.00', '9.00 (20 °C)', 9.0, 20, [
    [0, 9.24],
    [5, 9.16],
    [10, 9.11],
    [15, 9.05],
    [20, 9.0],
    [25, 8.95],
    [30, 8.91],
    [35, 8.88],
    [40, 8.85],
    [50, 8.79],
  ]),
  technical(
    'technical-10.01',
    '10.01',
    10.01,
    25,
    rows(BY_FIVE, [10.32, 10.25, 10.18, 10.12, 10.06, 10.01, 9.97, 9.93, 9.89, 9.86, 9.83]),
  ),
  primary(
    'primary-phthalate',
    'phthalate 4.005',
    4.005,
    [4.0, 3.998, 3.997, 3.998, 4.0, 4.005, 4.011, 4.018, 4.027, 4.05],
  ),
  primary(
    'primary-phosphate',
    'phosphate 6.865',
    6.865,
    [6.984, 6.951, 6.923, 6.9, 6.881, 6.865, 6.853, 6.844, 6.838, 6.833],
  ),
  primary(
    'primary-phosphate-7.4',
    'phosphate 7.413',
    7.413,
    [7.534, 7.5, 7.472, 7.448, 7.429, 7.413, 7.4, 7.389, 7.38, 7.367],
  ),
  primary('primary-borax', 'borax 9.180', 9.18, [9.464, 9.395, 9.332, 9.276, 9.225, 9.18, 9.139, 9.102, 9.068, 9.011]),
  primary(
    'primary-carbonate',
    'carbonate 10.012',
    10.012,
    [10.317, 10.245, 10.179, 10.118, 10.062, 10.012, 9.966, 9.926, 9.889, 9.828],
  ),
];

/**
 * A built-in buffer by its id.
 *
 * @throws Refusal `unknown-standard`
 * @example buffer('technical-7.00').nominal // 7
 */
export function buffer(id: string): Standard {
  const found = BUFFERS.find((b) => b.id === id);
  if (found) return found;
  throw new Refusal('unknown-standard', `There is no standard “${id}”. Pick one from the shelf.`, { id });
}
