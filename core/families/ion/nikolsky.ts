import { Refusal } from '../../quantities/refusal.ts';

/** An ion that the tip also answers to. */
export interface Interferent {
  /** mg/L activity */
  readonly activity: number;
  /** −4 to 4, not 0; of the same sign as the measured ion's */
  readonly charge: number;
  /** g/mol */
  readonly molarMass: number;
  /** selectivity coefficient of the tip for it, as tables and data sheets print it: for activities in mol/L */
  readonly selectivity: number;
}

/** The measured ion, as far as this matters. */
export type Measured = Pick<Interferent, 'charge' | 'molarMass'>;

/** More than any liquid holds, mg/L. */
const MOST = 1e6;

/**
 * Interfering ions as activity of the measured one: Σ K a^(zi/zj), reckoned in mol/L, since that is what the coefficients
 * are for.
 *
 * @returns mg/L activity of the measured ion
 * @throws Refusal `out-of-range` for a negative activity or coefficient, a charge that is none or of the other sign, a
 *   molar mass that is none, and a sum that no liquid has
 * @see Nikolsky-Eisenman, IUPAC recommendation, Buck & Lindner, Pure Appl. Chem. 66 (1994) 2527
 * @example interference({ charge: -1, molarMass: 62.004 }, [{ activity: 354.5, charge: -1, molarMass: 35.45, selectivity: 0.01 }]) // 6.2004
 */
export function interference(measured: Measured, others: readonly Interferent[]): number {
  const { charge, molarMass } = requireIon(measured);
  let sum = 0;
  for (const other of others) {
    requireIon(other);
    const { activity, selectivity } = other;
    const fits = activity >= 0 && activity <= MOST && selectivity >= 0 && selectivity <= 1e6;
    if (!fits || Math.sign(other.charge) !== Math.sign(charge)) {
      throw new Refusal(
        'out-of-range',
        `An interferent of ${activity} mg/L with coefficient ${selectivity} and charge ${other.charge} cannot be. Check the three figures.`,
        { value: activity },
      );
    }
    sum += selectivity * (activity / other.molarMass / 1000) ** (charge / other.charge);
  }
  const seen = sum * molarMass * 1000;
  if (seen <= MOST) return seen;
  throw new Refusal('out-of-range', 'These interferents add up to more than a liquid holds. Check the coefficients.', {
    value: Number.isFinite(seen) ? seen : null,
  });
}

function requireIon<T extends Measured>(ion: T): T {
  const { charge, molarMass } = ion;
  const known = Number.isInteger(charge) && charge !== 0 && Math.abs(charge) <= 4;
  if (known && molarMass >= 1 && molarMass <= 1000) return ion;
  throw new Refusal(
    'out-of-range',
    `An ion of charge ${charge} with ${molarMass} g/mol cannot be. Check both figures.`,
    { value: Number.isFinite(charge) ? charge : null },
  );
}
