import { update, zeros, type Belief, type Measurement } from '../statistics/kalman.ts';
import { chancesOf } from '../statistics/chances.ts';
import { SENSITIVITY, widened, ZERO, type DriftState, type Placed } from './state.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { FamilyPrior, FigurePrior } from '../sensor/prior.ts';

/** One possible past of the sensor since the last observation, with its chance and the belief that follows from it. */
export interface Branch {
  readonly chance: number;
  readonly belief: Belief;
  /** the figure that has jumped */
  readonly jumped?: number;
}

/** A sensor that may have jumped in so many days. */
interface Unwatched extends Placed {
  readonly days: number;
  /** what a run has found of it; absent where it is not known yet, or seen otherwise */
  readonly found?: Coefficients;
}

/** A jump of so many times its usual size is of another kind: a crack, a short. It is believed as it was found. */
const OF_ANOTHER_KIND = 4;

/** How large a jump may be, of something that was expected at one place and found at another. */
export function jumpSize(jumpSd: number, expected: number, found: number | undefined): number {
  const off = found === undefined ? 0 : Math.abs(found - expected);
  return off > OF_ANOTHER_KIND * jumpSd ? off : jumpSd;
}

const DAYS_PER_YEAR = 365.25;

/**
 * A carried state with the jumps that may have come meanwhile: none, one of the zero, or one of the sensitivity, each as
 * often as it comes by itself. Two in one stretch are taken as one.
 *
 * @param days since the last observation
 * @param found by the run that came then: a jump far beyond the usual ones is as large as it was found
 */
export const mayHaveJumped = (
  { belief }: DriftState,
  prior: FamilyPrior,
  days: number,
  found?: Coefficients,
): readonly Branch[] => anyMayHaveJumped(belief, [{ prior, from: 0, days, ...(found ? { found } : {}) }]);

/** `mayHaveJumped` for a belief about several sensors: one of them may have, each since it was last seen. */
export function anyMayHaveJumped(belief: Belief, sensors: readonly Unwatched[]): readonly Branch[] {
  const jumps: { readonly at: number; readonly sd: number; readonly expected: number }[] = [];
  let expected = 0;
  const come = (at: number, { jumpsPerYear, jumpSd }: FigurePrior, days: number, found?: number) => {
    const its = jumpSd > 0 && days > 0 ? (jumpsPerYear * days) / DAYS_PER_YEAR : 0;
    if (!(its > 0)) return;
    jumps.push({ at, sd: jumpSize(jumpSd, belief.mean[at]!, found), expected: its });
    expected += its;
  };
  for (const { prior, from, days, found } of sensors) {
    come(from + ZERO, prior.zero, days, found?.zero);
    come(from + SENSITIVITY, prior.sensitivity, days, found?.sensitivity);
  }
  const any = -Math.expm1(-expected);
  if (!(any > 0)) return [{ chance: 1, belief }];
  const branches: Branch[] = [{ chance: 1 - any, belief }];
  for (const { at, sd, expected: its } of jumps)
    branches.push({ chance: (any * its) / expected, belief: widened(belief, [{ at, variance: sd ** 2 }]), jumped: at });
  return branches;
}

/** Several branches after the same measurements: one belief, and the chance of each branch now. */
interface WeighedBranches {
  readonly belief: Belief;
  readonly logLikelihood: number;
  /** each measurement, by the first branch: seen less expected, over its expected standard deviation */
  readonly standardised: readonly number[];
  readonly chances: readonly number[];
}

/**
 * Updates each branch with the same measurements, weighs the branches by how well they predicted them, and merges them into
 * one belief of the same mean and covariance.
 *
 * @param branches the first branch is "no jump"
 * @param measurements independent of each other
 * @see Durbin & Koopman (2012), 4.3 and 6.4 (one figure after the other); Bar-Shalom, Li & Kirubarajan, Estimation with
 * Applications to Tracking and Navigation (2001), 11.6 (drawing together, "GPB1")
 */
export function weighedBranches(branches: readonly Branch[], measurements: readonly Measurement[]): WeighedBranches {
  const standardised: number[] = [];
  const logs: number[] = [];
  const beliefs: Belief[] = [];
  for (const branch of branches) {
    let { belief } = branch;
    let log = Math.log(branch.chance);
    for (const measurement of measurements) {
      const made = update(belief, measurement);
      if (beliefs.length === 0) standardised.push(made.variance > 0 ? made.innovation / Math.sqrt(made.variance) : 0);
      belief = made.belief;
      log += made.logLikelihood;
    }
    beliefs.push(belief);
    logs.push(log);
  }
  const { chances, log } = chancesOf(logs);
  const drawn = merged(beliefs.map((belief, i) => ({ chance: chances[i]!, belief })));
  return { belief: drawn, logLikelihood: log, standardised, chances };
}

/** One belief with the mean and the covariance of several. */
export function merged(branches: readonly Branch[]): Belief {
  const [first] = branches;
  if (branches.length === 1) return first!.belief;
  // About the first one: what all agree on stays exactly as it is.
  const from = first!.belief.mean;
  const mean = from.slice();
  const n = mean.length;
  for (const { chance, belief } of branches)
    for (let i = 0; i < n; i++) mean[i]! += chance * (belief.mean[i]! - from[i]!);
  const covariance = zeros(n * n);
  for (const { chance, belief } of branches)
    for (let i = 0; i < n; i++) {
      const off = belief.mean[i]! - mean[i]!;
      for (let j = 0; j <= i; j++)
        covariance[i * n + j]! += chance * (belief.covariance[i * n + j]! + off * (belief.mean[j]! - mean[j]!));
    }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) covariance[j * n + i] = covariance[i * n + j]!;
  return { mean, covariance };
}
