import { Refusal } from '../../quantities/refusal.ts';

/** An ion that the tip also answers to. */
export interface Interferent {
  /** mg/L activity */
  readonly activity: number;
  readonly charge: number;
  /** selectivity coefficient of the tip for it, for activities in mg/L */
  readonly selectivity: number;
}

/**
 * Interfering ions as activity of the measured one: Σ K a^(zi/zj).
 *
 * @param charge of the measured ion
 * @returns mg/L activity
 * @throws Refusal `out-of-range` for a negative activity or coefficient, and for a charge of 0
 * @see Nikolsky-Eisenman, IUPAC recommendation, Buck & Lindner, Pure Appl. Chem. 66 (1994) 2527
 * @example interference(-1, [{ activity: 100, charge: -1, selectivity: 0.01 }]) // 1
 */
export function interference(charge: number, others: readonly Interferent[]): number {
  let sum = 0;
  for (const { activity, charge: other, selectivity } of others) {
    if (!(activity >= 0 && activity <= 1e6 && selectivity >= 0 && selectivity <= 1e6 && other !== 0)) {
      throw new Refusal(
        'out-of-range',
        `An interferent of ${activity} mg/L with coefficient ${selectivity} and charge ${other} cannot be. Check the three figures.`,
        { value: activity },
      );
    }
    sum += selectivity * activity ** (charge / other);
  }
  return sum;
}
