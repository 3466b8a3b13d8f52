import type { SettingField } from '../family.ts';
import type { Standard } from '../../solutions/standard.ts';

/** Settings that every contacting cell has. */
export const CELL_CONSTANT: SettingField = {
  kind: 'figure',
  name: 'cell constant',
  unit: '/cm',
  usual: 1,
  low: 0.001,
  high: 100,
};

export const ALPHA: SettingField = {
  kind: 'figure',
  name: 'temperature coefficient',
  unit: '%/°C',
  usual: 2,
  low: 0,
  high: 10,
};

/** Coefficient of a real water against the one that is set, standard uncertainty, %/°C. Common practice, no source. */
export const ALPHA_UNCERTAINTY = 0.1;

/** A dry cell in air: nothing conducts. The zero point of every contacting cell. */
export const AIR: Standard = {
  id: 'air',
  name: 'air, bone dry',
  family: 'conductivity',
  unit: 'µS/cm',
  nominal: 0,
  nominalAtC: 25,
  table: [
    [-20, 0],
    [60, 0],
  ],
  uncertainty: 0,
  tableStep: 0,
  source: 'air does not conduct',
};

/** Values that may be the two ends of a line: one is zero, or they differ by a fifth. Common practice, no source. */
export function cellTooClose(values: readonly number[]): string | null {
  const low = values[0] ?? 0;
  const high = values.at(-1) ?? 0;
  return high > 0 && low <= 0.8 * high
    ? null
    : `The standards read ${low} and ${high}; a zero and a cell constant need two that differ by a fifth or more. Take air for the zero, or another standard.`;
}
