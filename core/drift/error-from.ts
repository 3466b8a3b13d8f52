import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import { errorHere, type Covariance2, type ErrorHere } from '../sensor/working-error.ts';
import { halfWidth, mixtureOf, sdOf, type MixturePiece } from '../statistics/mixture.ts';
import { Z50, Z95 } from '../statistics/normal.ts';
import { mayHaveJumped } from './branches.ts';
import { carried } from './course.ts';
import type { ServiceEvent } from './history.ts';
import { SENSITIVITY, ZERO, type DriftState } from './state.ts';
import type { ErrorAt, Explanation, ParametersAt, Working } from './working.ts';

/** How a sensor may stand at a moment. */
export interface Standing {
  readonly prior: FamilyPrior;
  readonly state: DriftState;
  readonly chance: number;
}

/** A way in which it may stand, with what the zero has at work beyond it. */
export interface Way {
  readonly standing: readonly Standing[];
  readonly beyond?: readonly MixturePiece[];
}

/** An explanation at a moment of its way; its last one where it has no such moment. */
export const asStanding = ({ chance: weight, lines, beyond }: Explanation, at = Infinity): Way => ({
  standing: lines.map(({ prior, known, chances }) => {
    const i = Math.min(at, known.length - 1);
    return { prior, state: known[i]!.state, chance: weight * chances[i]! };
  }),
  beyond,
});

const NOTHING_BEYOND: readonly MixturePiece[] = [{ chance: 1, mean: 0, sd: 0 }];

/** The forecast of the shown error from a moment on. */
export function errorFrom(
  ways: readonly Way[],
  inForce: Coefficients,
  working: Working,
  services: readonly ServiceEvent[],
  byThermometer?: Coefficients,
): (atMs: number) => ErrorAt {
  const rest = working.rest?.(inForce, byThermometer) ?? 0;
  return (atMs) => {
    const spread = mixtureOf(
      ways.flatMap(({ standing, beyond = [] }) =>
        standing.flatMap(({ prior, state, chance }) => {
          const there = carried(state, prior, services, atMs);
          const jumps = mayHaveJumped(there, prior, (atMs - state.atMs) / MS_PER_DAY);
          const { mean } = there.belief;
          return (beyond.length ? beyond : NOTHING_BEYOND).flatMap((more) => {
            const is = { zero: mean[ZERO]! + more.mean, sensitivity: mean[SENSITIVITY]! };
            const here = errorHere(working.model, working, is, inForce);
            const unseen = here.perZero * more.sd;
            return jumps.map((branch): MixturePiece => {
              const c = branch.belief.covariance;
              const both: Covariance2 = [
                [c[ZERO * 4 + ZERO]!, c[ZERO * 4 + SENSITIVITY]!],
                [c[SENSITIVITY * 4 + ZERO]!, c[SENSITIVITY * 4 + SENSITIVITY]!],
              ];
              return {
                chance: chance * more.chance * branch.chance,
                mean: here.error,
                sd: Math.hypot(spreadAlong(here, both), unseen, rest),
              };
            });
          });
        }),
      ),
    );
    return {
      ...spread,
      atMs,
      sd: sdOf(spread),
      half50: halfWidth(spread, 0.5, Z50),
      half95: halfWidth(spread, 0.95, Z95),
    };
  };
}

/** What an error is spread by: exact where it is linear in zero and sensitivity (glass, cells), to first order where it is not (ion tips). */
export const spreadAlong = ({ perZero: z, perSensitivity: s }: ErrorHere, [[zz, zs], [, ss]]: Covariance2): number =>
  Math.sqrt(Math.max(0, z * z * zz + 2 * z * s * zs + s * s * ss));

/** Both parameters as a state has them; jumps that may come are not in their spread. */
export function parametersIn({ belief: { mean, covariance } }: DriftState): ParametersAt {
  const sd = (at: number) => Math.sqrt(Math.max(0, covariance[at * 4 + at]!));
  return {
    zero: mean[ZERO]!,
    zeroSd: sd(ZERO),
    sensitivity: mean[SENSITIVITY]!,
    sensitivitySd: sd(SENSITIVITY),
  };
}
