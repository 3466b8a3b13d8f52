import type { Coefficients } from '../sensor/coefficients.ts';
import { errorHere } from '../sensor/working-error.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { carried } from './course.ts';
import { merged } from './branches.ts';
import { asStanding, errorFrom, parametersIn, spreadAlong, type Standing } from './error-from.ts';
import { priorState } from './state.ts';
import type { Observation, ServiceEvent } from './history.ts';
import { filteredAtPaces } from './pace.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import type { AtOnePace, ErrorAt, ExpectedAt, Explanation, Working } from './working.ts';

/** Counts up whenever a stored prediction would come out differently. */
export const DRIFT_VERSION = 10;

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

export interface Cone {
  readonly segments: readonly Segment[];
  readonly marks: readonly FoundMark[];
  /** forecast from the last run on; null before the first run */
  readonly errorAt: ((atMs: number) => ErrorAt) | null;
  /** what the bench holds a new reading against */
  readonly expectedAt: (atMs: number) => ExpectedAt;
  /** ways in which it may stand now, the likeliest first, each with the error that it would make; none before the first run */
  readonly branches: readonly ConeBranch[];
}

/** One way in which a sensor may stand: the error that it shows if that is so. */
export interface ConeBranch {
  /** id of a cause; null = what its runs say, whatever the cause */
  readonly cause: string | null;
  readonly chance: number;
  readonly sinceMs: number | null;
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

/**
 * `cone` from what is known along the way, however it was learned.
 *
 * @param lines one or more, of the same moments
 * @param atFit where the sensor came to another instrument: what it showed before is an error of another place, and is left out
 * @param explained ways in which it may stand since its last run; absent = as `lines` say.
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
  if (way.length === 0) {
    const expectedAt = (atMs: number) => {
      const fresh = parametersIn(priorState(lines[0]!.prior, atMs));
      return { ...fresh, each: [{ ...fresh, chance: 1 }] };
    };
    return { segments: [], marks: [], errorAt: null, expectedAt, branches: [] };
  }
  // What is explained otherwise is explained from the last run on.
  const asSaid: Explanation = { cause: null, chance: 1, lines, beyond: [] };
  const ways = explained ?? [asSaid];
  const lastRun = way.findLastIndex((k) => k.observation !== null);
  let inForce: Coefficients | null = inForceBefore;
  let byThermometer: Coefficients | undefined;
  const segments: Segment[] = [];
  const marks: FoundMark[] = [];
  way.forEach(({ observation, state: { atMs } }, i) => {
    const beforeFit = atFit !== undefined && atMs <= atFit.atMs;
    if (observation) {
      if (!beforeFit) {
        const jumped = lines.reduce((sum, l) => sum + l.chances[i]! * l.known[i]!.jumped, 0);
        marks.push({ ...foundBy(observation, working, inForce ?? inForceBefore), jumped });
      }
      inForce = observation.inForceAfter;
      byThermometer = observation.byThermometer;
    }
    if (beforeFit) inForce = atFit.inForce;
    const beginMs = beforeFit ? atFit.atMs : atMs;
    const toMs = way[i + 1]?.state.atMs ?? Math.max(untilMs, beginMs + MS_PER_DAY);
    if (toMs < fromMs || toMs <= beginMs || inForce === null) return;
    const there = (i < lastRun ? [asSaid] : ways).map((w) => asStanding(w, i));
    // What is drawn small and is past has half as many points.
    const points = i < way.length - 1 && fromMs > Number.NEGATIVE_INFINITY ? POINTS_A_SEGMENT / 2 : POINTS_A_SEGMENT;
    segments.push(segmentOf(beginMs, toMs, points, errorFrom(there, inForce, working, services, byThermometer)));
  });
  const errorOf = (some: readonly Explanation[]) => {
    const there = some.map((w) => asStanding(w));
    return inForce && errorFrom(there, inForce, working, services, byThermometer);
  };
  return {
    segments,
    marks,
    errorAt: errorOf(ways),
    branches: [...ways]
      .sort((a, b) => b.chance - a.chance)
      .flatMap(({ cause, chance, ...way }) => {
        const errorAt = errorOf([{ ...way, cause, chance: 1 }]);
        return errorAt ? [{ cause, chance, sinceMs: way.sinceMs ?? null, errorAt }] : [];
      }),
    expectedAt: expectedFrom(asStanding(asSaid).standing, services),
  };
}

const segmentOf = (fromMs: number, toMs: number, points: number, at: (atMs: number) => ErrorAt): Segment => ({
  fromMs,
  toMs,
  points: Array.from({ length: points + 1 }, (_, k) => at(fromMs + ((toMs - fromMs) * k) / points)),
});

/** What a run found, against what the channel reckoned with. */
function foundBy(
  { atMs, kind, found, covariance, byThermometer }: Observation,
  working: Working,
  inForce: Coefficients,
): Omit<FoundMark, 'jumped'> {
  const here = errorHere(working.model, working, found, inForce);
  const rest = working.rest?.(inForce, byThermometer) ?? 0;
  return { atMs, kind, error: here.error, sd: Math.hypot(spreadAlong(here, covariance), rest) };
}

/**
 * The expected course, and what it is made up of: the paces at which the sensor may live, each as likely as its runs say. A slow
 * sensor may turn fast, as glass does when it begins to age: what a run may find counts all of them alike.
 */
const expectedFrom =
  (last: readonly Standing[], services: readonly ServiceEvent[]) =>
  (atMs: number): ExpectedAt => {
    const there = last.map(({ state, prior, chance }) => ({
      chance,
      belief: carried(state, prior, services, atMs).belief,
    }));
    return {
      ...parametersIn({ atMs, belief: merged(there.map(({ belief }) => ({ belief, chance: 1 / there.length }))) }),
      each: there.map(({ chance, belief }) => ({ chance, ...parametersIn({ atMs, belief }) })),
    };
  };
