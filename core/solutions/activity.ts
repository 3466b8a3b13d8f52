import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { kelvin } from '../quantities/temperature.ts';
import { interpolate, type TableRow } from '../statistics/shape-preserving-cubic.ts';

/**
 * Static permittivity of water, relative to vacuum.
 *
 * @param temperatureC 0 to 100 °C
 * @throws Refusal `out-of-range`
 * @see Malmberg & Maryott, J. Res. Natl. Bur. Stand. 56 (1956) 1
 * @example permittivity(25) // 78.30
 */
export function permittivity(temperatureC: number): number {
  const t = requireWithin(temperatureC, 0, 100, 'temperature', '°C', 'Water is liquid from 0 to 100 °C.');
  return 87.74 - 0.40008 * t + 9.398e-4 * t * t - 1.41e-6 * t * t * t;
}

/**
 * Debye-Hückel A for base-10 logarithms, √(kg/mol).
 *
 * @see Stumm & Morgan, Aquatic Chemistry (3rd ed. 1996), 3.4, for the closed form
 * @example debyeHuckelA(25) // 0.5115
 */
export function debyeHuckelA(temperatureC: number): number {
  return 1.8246e6 * (permittivity(temperatureC) * kelvin(temperatureC)) ** -1.5;
}

/** Strongest solution to which the Davies equation is applied, mol/L. */
export const DAVIES_LIMIT = 0.5;

/**
 * Activity coefficient of an ion by Davies: log γ = −A z² (√I/(1+√I) − 0.3 I).
 *
 * @param charge −4 to 4, not 0
 * @param ionicStrength I, mol/L, 0 to 0.5
 * @returns γ, 1 in water without salt
 * @throws Refusal `out-of-range`
 * @see Davies, Ion Association (1962), with 0.3 for the linear term
 * @example daviesCoefficient(-1, 0.01, 25) // 0.9016
 */
export function daviesCoefficient(charge: number, ionicStrength: number, temperatureC: number): number {
  requireCharge(charge);
  const remedy = 'Davies holds up to 0.5 mol/L. Dilute, or use a standard made in the same background.';
  const i = requireWithin(ionicStrength, 0, DAVIES_LIMIT, 'ionic strength', 'mol/L', remedy);
  const root = Math.sqrt(i);
  return 10 ** (-debyeHuckelA(temperatureC) * charge * charge * (root / (1 + root) - 0.3 * i));
}

/** By how much Davies is above what was measured in KCl, by ionic strength, mol/L: Robinson and Stokes, from memory. */
const DAVIES_OFF: readonly TableRow[] = [
  [0, 0],
  [0.1, 0.014],
  [0.2, 0.039],
  [0.5, 0.129],
];
/** In weak solutions, k = 1. Common practice, no source. */
const DAVIES_RELATIVE = 0.01;

/**
 * How well a Davies activity is known: to about a hundredth below 0.1 mol/L, and above it to what it was found off by in
 * KCl, either way.
 *
 * @param ionicStrength mol/L, 0 to 0.5
 * @returns relative standard uncertainty (k = 1)
 * @throws Refusal `out-of-range`
 * @example daviesUncertainty(0.5) // 0.0751
 */
export function daviesUncertainty(ionicStrength: number): number {
  requireWithin(ionicStrength, 0, DAVIES_LIMIT, 'ionic strength', 'mol/L', 'Davies holds up to 0.5 mol/L.');
  return Math.hypot(DAVIES_RELATIVE, interpolate(DAVIES_OFF, ionicStrength)! / Math.sqrt(3));
}

/** Strongest solution to which the extended Debye-Hückel equation is applied, mol/L. */
const EXTENDED_LIMIT = 0.1;

/**
 * Activity coefficient by the extended Debye-Hückel equation at 25 °C: log γ = −A z² √I/(1 + B a √I).
 *
 * @param sizeAngstrom ion size a (Kielland 1937), Å
 * @param ionicStrength mol/L, 0 to 0.1
 * @throws Refusal `out-of-range`
 * @see Kielland, J. Am. Chem. Soc. 59 (1937) 1675; A = 0.509, B = 0.3286
 * @example extendedCoefficient(-1, 3, 0.01) // 0.899
 */
export function extendedCoefficient(charge: number, sizeAngstrom: number, ionicStrength: number): number {
  requireCharge(charge);
  requireWithin(sizeAngstrom, 1, 15, 'ion size', 'Å', 'Kielland’s sizes run from 2.5 to 11.');
  const i = requireWithin(ionicStrength, 0, EXTENDED_LIMIT, 'ionic strength', 'mol/L', 'Use Davies above that.');
  const root = Math.sqrt(i);
  return 10 ** ((-0.509 * charge * charge * root) / (1 + 0.3286 * sizeAngstrom * root));
}

function requireCharge(charge: number): void {
  if (Number.isInteger(charge) && charge !== 0 && Math.abs(charge) <= 4) return;
  throw new Refusal('charge-unknown', `An ion’s charge is a whole number from −4 to 4, not ${charge}. Pick the ion.`, {
    value: Number.isFinite(charge) ? charge : null,
  });
}

/** How many of which ion, and how strongly charged. */
interface IonShare {
  /** mol/L */
  readonly concentration: number;
  readonly charge: number;
}

/**
 * Ionic strength, ½ Σ c z².
 *
 * @returns mol/L
 * @throws Refusal `out-of-range` for a negative concentration
 * @example ionicStrength([{ concentration: 0.01, charge: 2 }, { concentration: 0.02, charge: -1 }]) // 0.03
 */
export function ionicStrength(ions: readonly IonShare[]): number {
  let sum = 0;
  for (const { concentration, charge } of ions) {
    requireWithin(concentration, 0, 60, 'concentration', 'mol/L', 'Check figure and unit.');
    requireWithin(charge, -10, 10, 'charge', '', 'Enter that of the ion.');
    sum += (concentration * charge * charge) / 2;
  }
  return sum;
}
