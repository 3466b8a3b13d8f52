import type { Conditions } from '../sensor/conditions.ts';
import type { Model } from '../sensor/family.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { errorHere, type Covariance2, type ErrorHere } from '../sensor/working-error.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { Z50, Z95 } from '../statistics/normal.ts';
import { halfWidth, sdOf, mixtureOf, type MixturePiece, type Mixture } from '../statistics/mixture.ts';
import { carried, type Known } from './course.ts';
import { merged, mayHaveJumped } from './branches.ts';
import { priorState, SENSITIVITY, ZERO, type DriftState } from './state.ts';
import type { Observation, ServiceEvent } from './history.ts';
import { filteredAtPaces } from './pace.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** Counts up whenever a stored prediction would come out differently. */
export const DRIFT_VERSION = 9;

/** Where the sensor works: the error that counts is the one shown here. */
export interface Working extends Conditions {
  readonly model: Model;
  readonly value: number;
  /**
   * standard uncertainty of the shown error that no run of the sensor takes away (junction, water, thermometer), in the
   * unit of the value: see `standingRowsOf`; absent = the sensor alone is looked at
   */
  readonly rest?: (inForce: Coefficients, byThermometer?: Coefficients) => number;
}

/** Error that the channel shows at the working value, in its unit, at one moment. */
export interface ErrorAt extends Mixture {
  readonly atMs: number;
  readonly sd: number;
  /** half widths of the bands that hold it with 50 and 95 % */
  readonly half50: number;
  readonly half95: number;
}

/** A found error, as a mark on the cone. */
export interface FoundMark {
  readonly atMs: number;
  readonly kind: Observation['kind'];
  readonly error: number;
  readonly sd: number;
  /** chance that the sensor has jumped since the run before */
  readonly jumped: number;
}

/** From one run to the next (or to the horizon): narrow at its run, widening since. */
export interface Segment {
  readonly fromMs: number;
  readonly toMs: number;
  readonly points: readonly ErrorAt[];
}

/** Zero and sensitivity expected at a moment, with standard deviations. */
export interface ParametersAt {
  readonly zero: number;
  readonly zeroSd: number;
  readonly sensitivity: number;
  readonly sensitivitySd: number;
}

export interface Cone {
  readonly segments: readonly Segment[];
  readonly marks: readonly FoundMark[];
  /** forecast from the last run on; null before the first run */
  readonly errorAt: ((atMs: number) => ErrorAt) | null;
  /** what the bench holds a new reading against */
  readonly expectedAt: (atMs: number) => ParametersAt;
  /** ways in which it may stand now, the likeliest first, each with the error that it would make; none before the first run */
  readonly branches: readonly ConeBranch[];
}

/** One way in which a sensor may stand: the error that it shows if that is so. */
export interface ConeBranch {
  /** id of a cause; null = what its runs say, whatever the cause */
  readonly cause: string | null;
  readonly chance: number;
  readonly errorAt: (atMs: number) => ErrorAt;
}

const POINTS_A_SEGMENT = 12;

/** A sensor that was put onto an instrument which reckons with the coefficients of another sensor. */
export interface AtFit {
  readonly atMs: number;
  /** what the instrument reckons with; null when it was never calibrated here */
  readonly inForce: Coefficients | null;
}

/**
 * How wrong a sensor is shown to be, and how sure that is, from its runs on.
 *
 * History and prior in, `errorAt(t)` with its spread out. Each run narrows the cone; the time since widens it.
 *
 * @param history finished runs, rising time
 * @param untilMs horizon of the last segment
 * @param inForceBefore what the channel believed before the first run
 * @param services what was done to the sensor outside of runs, rising time
 * @param fromMs segments that ended before are left out: no chart shows them
 * @example cone(falling, phPrior, atWork, 90 * day).segments.length // 3
 */
export const cone = (
  history: readonly Observation[],
  prior: FamilyPrior,
  working: Working,
  untilMs: number,
  inForceBefore?: Coefficients,
  services?: readonly ServiceEvent[],
  fromMs?: number,
): Cone => coneAlong(filteredAtPaces(history, prior, services), working, untilMs, inForceBefore, services, fromMs);

/** What is known of a sensor along its way if it lives at one pace, and how likely that is at each moment. */
export interface AtOnePace {
  readonly prior: FamilyPrior;
  readonly known: readonly Known[];
  readonly chances: readonly number[];
}

/** One way in which a sensor may stand, and what that makes of the error at work. */
export interface Explanation {
  /** id of the cause; null = nothing, or what runs in standards see as they see the sensor itself */
  readonly cause: string | null;
  readonly chance: number;
  /** what is known of it along its way, if that is so */
  readonly lines: readonly AtOnePace[];
  /** what its zero has at work beyond what runs find, in the unit of the signal; empty = nothing */
  readonly beyond: readonly MixturePiece[];
}

/**
 * `cone` from what is known along the way, however it was learned.
 *
 * @param lines one or more, of the same moments
 * @param atFit where the sensor came to another instrument: what it showed before is an error of another place, and is left out
 * @param explained ways in which it may stand since its last run, of the same moments as `lines`; absent = as `lines` say.
 *   The forecast is over all of them
 */
export function coneAlong(
  lines: readonly AtOnePace[],
  working: Working,
  untilMs: number,
  inForceBefore: Coefficients = { zero: 0, sensitivity: 1 },
  services: readonly ServiceEvent[] = [],
  fromMs = Number.NEGATIVE_INFINITY,
  atFit?: AtFit,
  explained?: readonly Explanation[],
): Cone {
  const way = lines[0]!.known;
  const standing = (i: number): readonly Standing[] =>
    lines.map(({ prior, known, chances }) => ({ prior, state: known[i]!.state, chance: chances[i]! }));
  if (way.length === 0) {
    const expectedAt = (atMs: number) => parametersIn(priorState(lines[0]!.prior, atMs));
    return { segments: [], marks: [], errorAt: null, expectedAt, branches: [] };
  }
  // The last moment of every line is the same: what is explained otherwise is explained from there on.
  const ways: readonly Explanation[] = explained ?? [{ cause: null, chance: 1, lines, beyond: [] }];
  let inForce: Coefficients | null = inForceBefore;
  let byThermometer: Coefficients | undefined;
  const segments: Segment[] = [];
  const marks: FoundMark[] = [];
  way.forEach(({ observation, state: { atMs } }, i) => {
    const beforeFit = atFit !== undefined && atMs <= atFit.atMs;
    if (observation) {
      if (!beforeFit) {
        const found = errorHere(working.model, working, observation.found, inForce ?? inForceBefore);
        const rest = working.rest?.(inForce ?? inForceBefore, observation.byThermometer) ?? 0;
        const sd = Math.hypot(spreadAlong(found, observation.covariance), rest);
        const jumped = lines.reduce((sum, l) => sum + l.chances[i]! * l.known[i]!.jumped, 0);
        marks.push({ atMs, kind: observation.kind, error: found.error, sd, jumped });
      }
      inForce = observation.inForceAfter;
      byThermometer = observation.byThermometer;
    }
    if (beforeFit) inForce = atFit.inForce;
    const beginMs = beforeFit ? atFit.atMs : atMs;
    const toMs = way[i + 1]?.state.atMs ?? Math.max(untilMs, beginMs + MS_PER_DAY);
    if (toMs < fromMs || toMs <= beginMs || inForce === null) return;
    const at =
      i < way.length - 1
        ? errorFrom([{ standing: standing(i) }], inForce, working, services, byThermometer)
        : errorFrom(ways.map(asStanding), inForce, working, services, byThermometer);
    const points = Array.from({ length: POINTS_A_SEGMENT + 1 }, (_, k) =>
      at(beginMs + ((toMs - beginMs) * k) / POINTS_A_SEGMENT),
    );
    segments.push({ fromMs: beginMs, toMs, points });
  });
  const last = standing(way.length - 1);
  const errorOf = (some: readonly Explanation[], believed: Coefficients) =>
    errorFrom(some.map(asStanding), believed, working, services, byThermometer);
  const believed: Coefficients | null = inForce;
  return {
    segments,
    marks,
    errorAt: believed && errorOf(ways, believed),
    branches: believed
      ? [...ways]
          .sort((a, b) => b.chance - a.chance)
          .map((w) => ({ cause: w.cause, chance: w.chance, errorAt: errorOf([{ ...w, chance: 1 }], believed) }))
      : [],
    expectedAt: (atMs) => {
      // A slow sensor may turn fast, as glass does when it begins to age: the expected course counts all paces alike.
      const there = last.map(({ state, prior }) => ({
        chance: 1 / last.length,
        belief: carried(state, prior, services, atMs).belief,
      }));
      return parametersIn({ atMs, belief: merged(there) });
    },
  };
}

/** How a sensor may stand at a moment. */
interface Standing {
  readonly prior: FamilyPrior;
  readonly state: DriftState;
  readonly chance: number;
}

/** A way in which it may stand, with what the zero has at work beyond it. */
interface Way {
  readonly standing: readonly Standing[];
  readonly beyond?: readonly MixturePiece[];
}

/** An explanation at its last moment. */
const asStanding = ({ chance: weight, lines, beyond }: Explanation): Way => ({
  standing: lines.map(({ prior, known, chances }) => ({
    prior,
    state: known.at(-1)!.state,
    chance: weight * chances.at(-1)!,
  })),
  beyond,
});

const NOTHING_BEYOND: readonly MixturePiece[] = [{ chance: 1, mean: 0, sd: 0 }];

/** The forecast of the shown error from a moment on. */
function errorFrom(
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
const spreadAlong = ({ perZero: z, perSensitivity: s }: ErrorHere, [[zz, zs], [, ss]]: Covariance2): number =>
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
