import type { Unit } from '../quantities/units.ts';

/** What surrounds a sensor where it stands, as far as it matters to what it gives. */
export interface Conditions {
  readonly temperatureC: number;
  /** of the air above the liquid, kPa; absent = as usual, or of no matter to the family */
  readonly pressureKPa?: number;
  /** practical salinity of the liquid; absent = as usual, or of no matter to the family */
  readonly salinity?: number;
  /** pH of the liquid; absent = as usual, or of no matter to the family */
  readonly ph?: number;
}

/** All of them but the temperature, which every reading brings along. */
export type ConditionName = Exclude<keyof Conditions, 'temperatureC'>;

/** Those that a family asks for, with their figures. */
export type Surrounded = Readonly<Partial<Record<ConditionName, number>>>;

/** A condition as people type it; another loop may show it instead. */
export interface ConditionField {
  readonly name: string;
  readonly unit: Unit;
  /** where nobody says anything */
  readonly usual: number;
  readonly low: number;
  readonly high: number;
  /** what is easily got wrong about it; '' = nothing */
  readonly hint: string;
}

/** Every condition. What is usual, and the bounds of typing, are common practice without a source. */
export const CONDITIONS: Readonly<Record<ConditionName, ConditionField>> = {
  pressureKPa: {
    name: 'pressure of the air',
    unit: 'kPa',
    usual: 101.325,
    low: 50,
    high: 112,
    hint: 'As it is where you stand: a weather report gives it brought to sea level.',
  },
  salinity: {
    name: 'salinity',
    unit: 'PSS-78',
    usual: 0,
    low: 0,
    high: 42,
    hint: '',
  },
  ph: { name: 'pH of the water', unit: 'pH', usual: 7, low: 0, high: 14, hint: '' },
};
