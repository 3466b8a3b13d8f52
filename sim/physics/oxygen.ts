import { curveThrough, on } from './curves.ts';
import { shareGone, slownessAt } from './thermal.ts';

/**
 * Oxygen in water and in moist air, and what two kinds of sensors make of it. Nothing of the core's: vapour pressure by
 * Magnus' formula (Sonntag 1990, from memory) where the core has Benson and Krause's; solubility through a table of
 * python3-gsw 3.6.16 (`O2sol_SP_pt` by Garcia and Gordon, times `rho_t_exact`) where the core has Benson and Krause; a membrane
 * by Arrhenius' law where the core has an exponential of °C; a dye in two sites (Demas) where the core has one. Shared is the
 * share of oxygen in air to three digits, and that a membrane passes oxygen in proportion to its partial pressure.
 */

/** Share of oxygen in dry air. */
const IN_AIR = 0.2095;
const GAS_CONSTANT = 8.314462618;
const AT_25_K = 298.15;

/** kPa over water. */
const vapourKPa = (temperatureC: number) => 0.61112 * Math.exp((17.62 * temperatureC) / (243.12 + temperatureC));

/** Pressure of the air at a house in the hills: the weather goes up and down, kPa. */
export const airKPa = (atMs: number) => 98.4 + 0.9 * Math.sin((2 * Math.PI * atMs) / (11 * 86_400_000));

/** Partial pressure of oxygen in moist air, or in water in equilibrium with it, kPa. */
export const fullKPa = (temperatureC: number, airPressureKPa: number) =>
  IN_AIR * (airPressureKPa - vapourKPa(temperatureC));

/** mg/L at 101.325 kPa, by salinity and at 0, 5, … 40 °C. */
const SOLUBLE: readonly (readonly [salinity: number, row: readonly number[]])[] = [
  [0, [14.6213, 12.7698, 11.2872, 10.0832, 9.0913, 8.2622, 7.5578, 6.9487, 6.4113]],
  [20, [12.7145, 11.1745, 9.9337, 8.9201, 8.0805, 7.3748, 6.7721, 6.2481, 5.7833]],
  [40, [11.0505, 9.7739, 8.7387, 7.8881, 7.1794, 6.5803, 6.0659, 5.6161, 5.2148]],
];
const OVER_C = SOLUBLE.map(([, row]) =>
  curveThrough(
    row.map((mgPerL, i) => [5 * i, Math.log(mgPerL)]),
    4,
  ),
);

/** Oxygen in water that is as full as this share of saturation, mg/L: what a titration finds. */
export function oxygenMgPerL(share: number, temperatureC: number, salinity: number, airPressureKPa: number): number {
  const rows = SOLUBLE.map(([s], i): readonly [number, number] => [s, on(OVER_C[i]!, temperatureC)]);
  const atSea = Math.exp(on(curveThrough(rows, 2), salinity));
  return (share * atSea * fullKPa(temperatureC, airPressureKPa)) / fullKPa(temperatureC, 101.325);
}

/** A cathode behind a membrane. */
interface MembraneTruth {
  readonly kind: 'membrane';
  readonly zeroNa: number;
  /** nA for a kPa at 25 °C */
  readonly slopeNa: number;
  /** film on the membrane: what passes less, and slower; 0 to 1 */
  readonly fouled: number;
}

/** A dye in a cap. */
interface CapTruth {
  readonly kind: 'cap';
  /** share of its lifetime that the dye has lost */
  readonly faded: number;
  /** quenching of the accessible sites, 1/kPa at 25 °C */
  readonly quenching: number;
  /** film on the cap: slower, and it eats a little of what passes; 0 to 1 */
  readonly fouled: number;
}
export type OxygenTruth = MembraneTruth | CapTruth;

/** Heat that a molecule needs to pass a membrane, J/mol; sites that oxygen hardly reaches, share, and how well it does. Invented. */
const PASSES_J = 26_000;
const HARD_SHARE = 0.01;
const HARD = 0.02;
/** A film passes this much less at the grossest. */
const FILM = 0.5;

/**
 * The signal once the sensor has settled. Membrane: nA. Cap: the factory's lifetime without oxygen, over the lifetime now.
 *
 * @param kPa partial pressure of oxygen before it
 */
export function oxygenAtRest(truth: OxygenTruth, kPa: number, temperatureC: number): number {
  const kelvin = temperatureC + 273.15;
  if (truth.kind === 'membrane') {
    const passes = Math.exp((PASSES_J / GAS_CONSTANT) * (1 / AT_25_K - 1 / kelvin));
    return truth.zeroNa + truth.slopeNa * passes * kPa * (1 - FILM * truth.fouled);
  }
  const before = kPa * (1 - 0.2 * FILM * truth.fouled);
  // A shorter life meets less oxygen.
  const quenched = truth.quenching * (1 - truth.faded) * (1 + 0.009 * (temperatureC - 25)) * before;
  const light = (1 - HARD_SHARE) / (1 + quenched) + HARD_SHARE / (1 + HARD * quenched);
  return 1 / light / (1 - truth.faded);
}

/** How it follows, s at 25 °C. */
const SECONDS = { membrane: 14, cap: 10 } as const;

/** The share of the way that is gone after some seconds. */
export const oxygenGone = (truth: OxygenTruth, seconds: number, temperatureC: number) =>
  shareGone(seconds, SECONDS[truth.kind] * slownessAt(temperatureC) * (1 + 4 * truth.fouled));

/** White noise of one sample: nA, or of the ratio. */
export const OXYGEN_NOISE = { membrane: 0.06, cap: 0.0015 } as const;
