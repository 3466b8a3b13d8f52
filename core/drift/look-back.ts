import { errorHere } from '../sensor/working-error.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { predict, smoothed, type Belief } from '../statistics/kalman.ts';
import { normalCdf } from '../statistics/normal.ts';
import { chanceBeyond } from '../statistics/mixture.ts';
import { cone, type Cone } from './cone.ts';
import type { Working } from './working.ts';
import { filtered, type Course } from './course.ts';
import { atLikeliestPace } from './pace.ts';
import { motionOver, SENSITIVITY, ZERO } from './state.ts';
import type { Observation, ServiceEvent } from './history.ts';
import { jumpAt, widenedBy } from './past.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** The error that was shown at a moment of the past, as all that is known now says. */
export interface ErrorThen {
  readonly atMs: number;
  readonly mean: number;
  readonly sd: number;
  readonly chanceOutside: number;
}

/** A stretch of time in which a sensor was probably outside its tolerance. */
export interface LookBack {
  readonly fromMs: number;
  /** the run that found it, or now while nobody has put it right */
  readonly toMs: number;
  /** end of the run that found it outside; null = it is outside still */
  readonly foundMs: number | null;
  /** error at the end of that time */
  readonly error: number;
  readonly sd: number;
  /** from `fromMs` to `toMs`, rising time */
  readonly course: readonly ErrorThen[];
}

const STEPS = 24;
/** Outside is likelier than inside. */
const PROBABLY = 0.5;

/**
 * The times in which a sensor was probably wrong by more than its tolerance: before each run that found it outside, and since the
 * last run where it is outside now.
 *
 * Between two runs the error is known from both ends: the filter carries what the first left, and the smoother brings back what
 * the second found. What may have jumped, may have done so at any moment of that time.
 *
 * @param history finished runs, rising time
 * @param tolerance half width, in the unit of the error, above 0
 * @param inForceBefore what the channel believed before the first run
 * @param nowBy the error since the last run, where more is known of it than the runs say
 * @example lookBacks(falling, phPrior, atWork, 0.1, 61 * day).length // 2
 */
export function lookBacks(
  history: readonly Observation[],
  prior: FamilyPrior,
  working: Working,
  tolerance: number,
  nowMs: number,
  inForceBefore: Coefficients = { zero: 0, sensitivity: 1 },
  services: readonly ServiceEvent[] = [],
  nowBy?: Cone['errorAt'],
): readonly LookBack[] {
  const course = filtered(history, atLikeliestPace(prior, history, services), services);
  const between = course.slice(1).flatMap((to, i): LookBack[] => {
    const { inForceAfter, byThermometer, atMs: fromMs } = course[i]!.observation;
    const rest = working.rest?.(inForceAfter, byThermometer) ?? 0;
    const { found, atMs: toMs } = to.observation;
    if (Math.abs(errorHere(working.model, working, found, inForceAfter).error) <= tolerance) return [];
    const then = betweenRuns(course, i, prior, services).map(({ atMs, belief }) =>
      errorThen(atMs, belief, inForceAfter, working, tolerance, rest),
    );
    return lastStretch(then, fromMs, toMs, toMs);
  });
  const errorAt = nowBy ?? cone(history, prior, working, nowMs, inForceBefore, services, nowMs).errorAt;
  const lastMs = history.at(-1)?.atMs ?? nowMs;
  if (!errorAt || nowMs <= lastMs) return joined(between);
  const since = Array.from({ length: STEPS + 1 }, (_, k): ErrorThen => {
    const at = errorAt(lastMs + ((nowMs - lastMs) * k) / STEPS);
    return { atMs: at.atMs, mean: at.mean, sd: at.sd, chanceOutside: chanceBeyond(at, tolerance) };
  });
  // Wide open is not wrong: only an error that lies outside is one to look back at.
  const isOutside = Math.abs(since.at(-1)!.mean) > tolerance;
  return joined(isOutside ? [...between, ...lastStretch(since, lastMs, nowMs, null)] : between);
}

/** A sensor that was left as it was is outside without a break, however often somebody looked. */
function joined(all: readonly LookBack[]): readonly LookBack[] {
  const made: LookBack[] = [];
  for (const next of all) {
    const before = made.at(-1);
    if (before?.toMs === next.fromMs)
      made[made.length - 1] = { ...next, fromMs: before.fromMs, course: [...before.course, ...next.course] };
    else made.push(next);
  }
  return made;
}

/** The beliefs between a run and the next one, from both ends. */
function betweenRuns(course: Course, i: number, prior: FamilyPrior, services: readonly ServiceEvent[]) {
  const [from, to] = [course[i]!, course[i + 1]!];
  const stepMs = (to.observation.atMs - from.observation.atMs) / STEPS;
  const times = Array.from({ length: STEPS + 1 }, (_, k) => from.observation.atMs + k * stepMs);
  const jump = jumpAt(from, to, prior, motionOver(prior, (STEPS * stepMs) / MS_PER_DAY));
  const motions = times.slice(1).map((atMs, k) => {
    const motion = motionOver(prior, stepMs / MS_PER_DAY);
    const done = services.filter((s) => s.atMs > times[k]! && s.atMs <= atMs);
    return widenedBy(motion, prior, { ...jump, chance: jump.chance / STEPS }, done, from.state.lessons);
  });
  const forward: Belief[] = [from.state.belief];
  for (const motion of motions) forward.push(predict(forward.at(-1)!, motion));
  forward[STEPS] = to.state.belief;
  return smoothed(forward, motions).map((belief, k) => ({ atMs: times[k]!, belief }));
}

function errorThen(
  atMs: number,
  { mean: m, covariance: c }: Belief,
  inForce: Coefficients,
  working: Working,
  tolerance: number,
  rest: number,
): ErrorThen {
  const actual = { zero: m[ZERO]!, sensitivity: m[SENSITIVITY]! };
  const { error: mean, perZero: z, perSensitivity: s } = errorHere(working.model, working, actual, inForce);
  const variance =
    z * z * c[ZERO * 4 + ZERO]! + 2 * z * s * c[ZERO * 4 + SENSITIVITY]! + s * s * c[SENSITIVITY * 4 + SENSITIVITY]!;
  const sd = Math.sqrt(Math.max(variance + rest ** 2, 1e-24));
  const chanceOutside = normalCdf((mean - tolerance) / sd) + normalCdf((-mean - tolerance) / sd);
  return { atMs, mean, sd, chanceOutside };
}

/** The last stretch in which the channel was probably outside without a break; empty if it is inside at the end. */
function lastStretch(then: readonly ErrorThen[], fromMs: number, toMs: number, foundMs: number | null): LookBack[] {
  const lastInside = then.findLastIndex((t) => t.chanceOutside <= PROBABLY);
  const stretch = then.slice(lastInside + 1);
  const end = stretch.at(-1);
  if (!end) return [];
  return [{ fromMs: stretch[0]?.atMs ?? fromMs, toMs, foundMs, error: end.mean, sd: end.sd, course: stretch }];
}
