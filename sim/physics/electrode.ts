import { activityOf, ehOf, phOf, poiseOf, type IonName, type Mixture } from './liquids.ts';
import { referenceMv, FRESH_REFERENCE } from './reference.ts';
import { shareGone, slownessAt, thermalMv } from './thermal.ts';

/** Hidden truth of one electrode at one age. */
export interface ElectrodeTruth {
  /** mV in pH 7, at 1 mmol/L, or beyond the redox standard, against a fresh reference */
  readonly zeroMv: number;
  /** share of the ideal slope */
  readonly slope: number;
  /** fast response, s at 25 °C */
  readonly fastSeconds: number;
  /** slow response of gel layer, tip or platinum, s at 25 °C */
  readonly slowSeconds: number;
  /** share of a step that goes the slow way */
  readonly slowShare: number;
  /** how far the slow way spreads over other time constants, standard deviation of their logarithm; none by itself */
  readonly slowSpread?: number;
  /** white noise of one sample, mV */
  readonly noiseMv: number;
  /** resistance of the membrane at 25 °C, MΩ */
  readonly megohm: number;
  /** what it is under a film that can be cleaned off; absent = there is none */
  readonly bare?: ElectrodeTruth;
}

export type Sense =
  | { readonly of: 'ph' }
  | { readonly of: 'orp' }
  /** `disturbs`: how much of another ion counts as this one */
  | { readonly of: IonName; readonly disturbs?: Partial<Record<IonName, number>> };

const CHARGE: Record<IonName, number> = { nitrate: -1, potassium: 1, chloride: -1 };
/** An ion tip sees this much where there is nothing, mmol/L. Common practice, no source. */
const FLOOR = 2e-3;

/**
 * Potential at rest against a fresh reference. The slope is reached by kT/e and natural logarithms; shares with the core
 * that glass is linear in pH about 7, and a tip in the logarithm of activities that add up.
 */
export function potentialAtRest(sense: Sense, truth: ElectrodeTruth, mix: Mixture, temperatureC: number): number {
  const thermal = thermalMv(temperatureC);
  if (sense.of === 'ph') return truth.zeroMv - truth.slope * thermal * Math.LN10 * (phOf(mix, temperatureC) - 7);
  if (sense.of === 'orp') return truth.zeroMv + ehOf(mix, temperatureC) - referenceMv(FRESH_REFERENCE, temperatureC);
  let seen = FLOOR + activityOf(mix, sense.of);
  for (const [other, share] of Object.entries(sense.disturbs ?? {})) seen += share * activityOf(mix, other as IonName);
  return truth.zeroMv + (truth.slope * thermal * Math.log(seen)) / CHARGE[sense.of];
}

/** Platinum waits for a couple to speak: in weakly poised water up to this much slower. Common practice, no source. */
const WEAK_WATER = 25;

/** How much slower than in a buffer at 25 °C. */
export const slowness = (sense: Sense, mix: Mixture, temperatureC: number) =>
  slownessAt(temperatureC) * (sense.of === 'orp' ? 1 + WEAK_WATER * (1 - Math.min(1, poiseOf(mix))) : 1);

/**
 * Five-point Gauss-Hermite rule for a normal distribution: where, and how much. Abramowitz and Stegun, table 25.10, with
 * the abscissas times √2 and the weights over √π.
 */
const HERMITE = [
  [-2.8569700138728, 0.0112574113277],
  [-1.3556261799743, 0.2220759220056],
  [0, 0.5333333333333],
  [1.3556261799743, 0.2220759220056],
  [2.8569700138728, 0.0112574113277],
] as const;
const CENTRE = 2;

/**
 * The ways in which an electrode follows its rest: a fast one, and a slow one that may be spread over many time constants
 * (a gel layer is no single vessel), and then is no exponential.
 */
export class Follower {
  fast: number;
  private readonly slow: number[];

  constructor(at: number) {
    this.fast = at;
    this.slow = HERMITE.map(() => at);
  }

  step(rest: number, seconds: number, slower: number, truth: ElectrodeTruth): void {
    const { fastSeconds, slowSeconds, slowSpread = 0 } = truth;
    this.fast += (rest - this.fast) * shareGone(seconds, fastSeconds * slower);
    if (slowSpread === 0) {
      this.slow.fill(this.slow[CENTRE]! + (rest - this.slow[CENTRE]!) * shareGone(seconds, slowSeconds * slower));
      return;
    }
    HERMITE.forEach(([z], i) => {
      const tau = slowSeconds * slower * Math.exp(slowSpread * z);
      this.slow[i]! += (rest - this.slow[i]!) * shareGone(seconds, tau);
    });
  }

  at(slowShare: number): number {
    const slow = HERMITE.reduce((sum, [, weight], i) => sum + weight * this.slow[i]!, 0);
    return this.fast * (1 - slowShare) + slow * slowShare;
  }
}
