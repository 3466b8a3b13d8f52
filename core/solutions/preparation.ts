import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { molarMass } from './salts.ts';

const positive = (value: number, high: number, what: string, unit: string) => {
  const ok = requireWithin(value, 0, high, what, unit, 'Check figure and unit.');
  if (ok > 0) return ok;
  throw new Refusal('out-of-range', `${what} 0 ${unit} makes nothing. Enter a figure above 0.`, {
    value,
    low: 0,
    high,
  });
};

/** A salt to be weighed in. */
export interface Weighing {
  /** as it stands on the jar, water of crystallisation included: "CaCl2·2H2O" */
  readonly formula: string;
  /** share of the salt in the jar, % */
  readonly purityPercent: number;
}

/**
 * How much salt makes a solution.
 *
 * @param molPerL wanted, above 0
 * @param volumeMl of the finished solution, above 0
 * @returns grams to weigh
 * @throws Refusal `out-of-range`, `formula-unreadable`
 * @example massFor(0.01, 1000, { formula: 'KCl', purityPercent: 99.5 }) // 0.7492
 */
export function massFor(molPerL: number, volumeMl: number, { formula, purityPercent }: Weighing): number {
  positive(molPerL, 20, 'concentration', 'mol/L');
  positive(volumeMl, 1e6, 'volume', 'mL');
  positive(purityPercent, 100, 'purity', '%');
  return (molPerL * (volumeMl / 1000) * molarMass(formula)) / (purityPercent / 100);
}

/**
 * What a weighed mass makes: the same read backwards.
 *
 * @returns mol/L
 * @example concentrationOf(0.7455, 1000, { formula: 'KCl', purityPercent: 100 }) // 0.01
 */
export function concentrationOf(massG: number, volumeMl: number, { formula, purityPercent }: Weighing): number {
  positive(massG, 1e6, 'mass', 'g');
  positive(volumeMl, 1e6, 'volume', 'mL');
  positive(purityPercent, 100, 'purity', '%');
  return ((massG * purityPercent) / 100 / molarMass(formula) / volumeMl) * 1000;
}

/** Stock and water for a diluted standard; all concentrations in one unit, all volumes in one unit. */
export interface Dilution {
  readonly stockVolume: number;
  readonly waterVolume: number;
}

/**
 * How much stock makes a diluted standard: c1 V1 = c2 V2.
 *
 * @param stock concentration of the stock
 * @param wanted concentration of the result, above 0 and not above the stock's
 * @param volume of the result, mL
 * @throws Refusal `stock-too-weak`, `out-of-range`
 * @example dilute(1000, 50, 200) // { stockVolume: 10, waterVolume: 190 }
 */
export function dilute(stock: number, wanted: number, volume: number): Dilution {
  positive(stock, 1e9, 'concentration of the stock', '');
  positive(wanted, 1e9, 'wanted concentration', '');
  positive(volume, 1e6, 'volume', 'mL');
  if (wanted > stock) {
    throw new Refusal(
      'stock-too-weak',
      `A stock of ${stock} cannot make ${wanted}. Use a stronger stock, or weigh salt in.`,
      { value: wanted, high: stock },
    );
  }
  const stockVolume = (volume * wanted) / stock;
  return { stockVolume, waterVolume: volume - stockVolume };
}
