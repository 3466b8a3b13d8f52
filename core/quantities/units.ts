import { ZERO_CELSIUS_K } from './constants.ts';

/** How one way of writing a quantity relates to the unit it is stored in: stored = factor · (written + shift). */
interface Scale {
  readonly kind: string;
  readonly factor: number;
  readonly shift?: number;
  /** other ways people type it; compared without spaces, and without regard to case when that is unambiguous */
  readonly also: readonly string[];
}

/** mg/L for one µS/cm, in the ppm scales that are about. Common practice, no source. */
export const PPM_SCALES = [0.5, 0.64, 0.7] as const;

/** IUPAC 2021 abridged standard atomic weights, from memory. */
const [H, N, O] = [1.008, 14.007, 15.999] as const;

/** Mass of NO3 for a mass of N in it: 62.004 / 14.007 = 4.42664. */
export const NITRATE_PER_N = (N + 3 * O) / N;

/** Mass of NH4 for a mass of N in it: 18.039 / 14.007 = 1.28786. */
export const AMMONIUM_PER_N = (N + 4 * H) / N;

/**
 * Every way of writing a quantity that the house knows. The scale is part of the unit: there is no bare ppm, no bare
 * specific gravity, no nitrate without its form. The first unit of a kind is the one it is stored in.
 */
const SCALES = {
  '°C': { kind: 'temperature', factor: 1, also: ['C', 'deg C', 'degC', 'Celsius'] },
  '°F': { kind: 'temperature', factor: 1 / 1.8, shift: -32, also: ['F', 'deg F', 'degF', 'Fahrenheit'] },
  K: { kind: 'temperature', factor: 1, shift: -ZERO_CELSIUS_K, also: ['kelvin'] },
  'µS/cm': { kind: 'conductivity', factor: 1, also: ['uS/cm', 'µS', 'uS', 'microsiemens'] },
  'mS/cm': { kind: 'conductivity', factor: 1000, also: ['mS', 'EC', 'mS/cm EC', 'millisiemens', 'dS/m'] },
  'mS/m': { kind: 'conductivity', factor: 10, also: [] },
  'S/m': { kind: 'conductivity', factor: 10_000, also: [] },
  CF: { kind: 'conductivity', factor: 100, also: [] },
  'ppm×500': { kind: 'conductivity', factor: 2, also: ['ppm500', 'ppm x500', 'ppm(500)', 'ppm 500 scale'] },
  'ppm×640': { kind: 'conductivity', factor: 1000 / 640, also: ['ppm640', 'ppm x640', 'ppm(640)', 'ppm 640 scale'] },
  'ppm×700': { kind: 'conductivity', factor: 1000 / 700, also: ['ppm700', 'ppm x700', 'ppm(700)', 'ppm 700 scale'] },
  MΩ·cm: { kind: 'resistivity', factor: 1, also: ['Mohm cm', 'Mohm*cm', 'Mohm-cm', 'MΩcm', 'megohm cm', 'Mohm.cm'] },
  kΩ·cm: { kind: 'resistivity', factor: 1e-3, also: ['kohm cm', 'kohm*cm', 'kohm-cm', 'kΩcm'] },
  Ω·cm: { kind: 'resistivity', factor: 1e-6, also: ['ohm cm', 'ohm*cm', 'ohm-cm', 'Ωcm'] },
  Ω: { kind: 'resistance', factor: 1, also: ['ohm', 'ohms', 'R'] },
  kΩ: { kind: 'resistance', factor: 1e3, also: ['kohm', 'kohms', 'k ohm'] },
  MΩ: { kind: 'resistance', factor: 1e6, also: ['Mohm', 'Mohms', 'megohm'] },
  '/cm': { kind: 'cell constant', factor: 1, also: ['1/cm', 'cm-1', 'cm^-1', 'cm⁻¹'] },
  '/m': { kind: 'cell constant', factor: 0.01, also: ['1/m', 'm-1'] },
  mV: { kind: 'potential', factor: 1, also: ['millivolt', 'millivolts'] },
  V: { kind: 'potential', factor: 1000, also: ['volt', 'volts'] },
  mA: { kind: 'current', factor: 1, also: ['milliamp', 'milliamps'] },
  pH: { kind: 'pH', factor: 1, also: ['pH units'] },
  'pH total': { kind: 'pH on the total scale', factor: 1, also: ['pHT', 'pH_T'] },
  '%': { kind: 'share', factor: 1, also: ['percent', 'pct'] },
  'mg/L': { kind: 'mass concentration', factor: 1, also: ['mg/l', 'milligram per litre'] },
  'g/L': { kind: 'mass concentration', factor: 1000, also: [] },
  'µg/L': { kind: 'mass concentration', factor: 1e-3, also: ['ug/L'] },
  'mg/L NO3-N': { kind: 'nitrate', factor: 1, also: ['mg/L as N', 'mg/L N', 'mg/L-N', 'mg/L NO3N'] },
  'mg/L NO3': { kind: 'nitrate', factor: 1 / NITRATE_PER_N, also: ['mg/L as NO3'] },
  'mg/L NH4-N': { kind: 'ammonium', factor: 1, also: ['mg/L NH4N', 'mg/L TAN', 'mg/L as NH4-N'] },
  'mg/L NH4': { kind: 'ammonium', factor: 1 / AMMONIUM_PER_N, also: ['mg/L as NH4'] },
  'mg/L O2': { kind: 'dissolved oxygen', factor: 1, also: ['mg/L DO', 'mg/L oxygen', 'ppm O2'] },
  '% sat': { kind: 'oxygen saturation', factor: 1, also: ['% saturation', '%sat', 'percent saturation'] },
  'kPa O2': { kind: 'partial pressure of oxygen', factor: 1, also: ['kPa pO2'] },
  'hPa O2': { kind: 'partial pressure of oxygen', factor: 0.1, also: ['hPa pO2', 'mbar O2', 'mbar pO2'] },
  'mg/L activity': { kind: 'activity', factor: 1, also: ['mg/L (activity)', 'mg/L act'] },
  'mmol/L': { kind: 'amount concentration', factor: 1, also: ['mM', 'millimolar'] },
  'mol/L': { kind: 'amount concentration', factor: 1000, also: ['M', 'molar'] },
  'PSS-78': { kind: 'practical salinity', factor: 1, also: ['PSU', 'S', 'ppt', '‰', 'salinity'] },
  'SG 25/25': { kind: 'gravity at 25/25 °C', factor: 1, also: ['SG25', 'SG 25'] },
  'SG 20/20': { kind: 'gravity at 20/20 °C', factor: 1, also: ['SG20', 'SG 20'] },
  'kg/m³': { kind: 'density', factor: 1, also: ['kg/m3'] },
  'g/mL': { kind: 'density', factor: 1000, also: ['g/cm3', 'g/cm³', 'g/ml'] },
  g: { kind: 'mass', factor: 1, also: ['gram', 'grams'] },
  mg: { kind: 'mass', factor: 1e-3, also: [] },
  kg: { kind: 'mass', factor: 1000, also: [] },
  mL: { kind: 'volume', factor: 1, also: ['ml', 'cc'] },
  L: { kind: 'volume', factor: 1000, also: ['litre', 'liter', 'litres', 'liters'] },
  dbar: { kind: 'pressure', factor: 1, also: ['decibar'] },
  kPa: { kind: 'pressure', factor: 0.1, also: ['kilopascal'] },
  hPa: { kind: 'pressure', factor: 0.01, also: ['mbar', 'millibar', 'hectopascal'] },
  mmHg: { kind: 'pressure', factor: 0.0133322, also: ['torr', 'mm Hg'] },
  inHg: { kind: 'pressure', factor: 0.338639, also: ['in Hg', 'inches Hg'] },
  atm: { kind: 'pressure', factor: 10.1325, also: ['atmosphere', 'atmospheres'] },
  '%/°C': { kind: 'temperature coefficient', factor: 1, also: ['%/C', '%/K', '% per °C'] },
  'mV/decade': { kind: 'slope per decade', factor: 1, also: ['mV/dec'] },
} as const satisfies Record<string, Scale>;

/** A unit with its scale, as it is printed. */
export type Unit = keyof typeof SCALES;

/** What is measured: quantities of two kinds are never the same thing, whatever their figures. */
export type Kind = (typeof SCALES)[Unit]['kind'];

/** The kind that a unit measures. */
export type KindOf<U extends Unit> = (typeof SCALES)[U]['kind'];

/** The units in which a kind can be written. */
export type UnitOf<K extends Kind> = { [U in Unit]: KindOf<U> extends K ? U : never }[Unit];

/** A figure with its unit. */
export interface Quantity<U extends Unit = Unit> {
  readonly value: number;
  readonly unit: U;
}

export const UNITS = Object.keys(SCALES) as readonly Unit[];

/** @example quantity(1.9, 'mS/cm') // { value: 1.9, unit: 'mS/cm' } */
export function quantity<U extends Unit>(value: number, unit: U): Quantity<U> {
  return { value, unit };
}

/** @example kindOf('ppm×700') // 'conductivity' */
export function kindOf<U extends Unit>(unit: U): KindOf<U> {
  return SCALES[unit].kind;
}

/**
 * The units of a kind, the stored one first.
 *
 * @example unitsOf('potential').length // 2
 */
export function unitsOf<K extends Kind>(kind: K): readonly UnitOf<K>[] {
  return UNITS.filter((u): u is UnitOf<K> => SCALES[u].kind === kind);
}

/**
 * A quantity in another unit of its kind. Another kind does not compile: 5 mg/L NO3 has no value in mg/L NH4.
 *
 * @example inUnit(quantity(1.9, 'mS/cm'), 'ppm×700') // 1330
 * @example inUnit(quantity(81.3, '°F'), '°C') // 27.39
 */
export function inUnit<U extends Unit>(from: Quantity<U>, unit: UnitOf<KindOf<U>>): number {
  return convert(from.value, from.unit, unit);
}

/**
 * The same for units that are only known when the program runs: null for two different kinds, and for NaN or Infinity.
 *
 * @example convertTo(62, 'mg/L NO3', 'mg/L NO3-N') // 14.0061
 * @example convertTo(5, 'mg/L NO3', 'mV') === null // 'true'
 */
export function convertTo(value: number, from: Unit, to: Unit): number | null {
  if (SCALES[from].kind !== SCALES[to].kind) return null;
  const converted = convert(value, from, to);
  return Number.isFinite(converted) ? converted : null;
}

function convert(value: number, from: Unit, to: Unit): number {
  if (from === to) return value;
  const a: Scale = SCALES[from];
  const b: Scale = SCALES[to];
  return (a.factor * (value + (a.shift ?? 0))) / b.factor - (b.shift ?? 0);
}

/** Is this text a unit of the house, exactly as it prints it? */
export const isUnit = (text: string): text is Unit => Object.hasOwn(SCALES, text);

/** Other spellings of a unit. */
export function spellings(unit: Unit): readonly string[] {
  return SCALES[unit].also;
}
