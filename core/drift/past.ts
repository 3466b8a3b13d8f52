import { predict, smoothed, type Motion } from '../statistics/kalman.ts';
import { jumpSize } from './branches.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { ParametersAt } from './working.ts';
import { parametersIn } from './error-from.ts';
import type { Course } from './course.ts';
import { motionOver, SENSITIVITY, ZERO, type Lessons } from './state.ts';
import { cleaningOf } from './taught.ts';
import type { ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** One run of a sensor's past, with what all its runs say together. */
export interface PastRun {
  readonly atMs: number;
  /** what this run alone has found */
  readonly found: ParametersAt;
  /** what earlier runs had led one to expect of it, and what all runs together say now */
  readonly known: ParametersAt;
  /** found less expected, over its expected spread; they are independent of each other where the engine is right */
  readonly standardised: readonly [zero: number, sensitivity: number];
  /** chance that the sensor has jumped since the run before */
  readonly jumped: number;
}

/**
 * A sensor's zero and sensitivity through all its runs, each known from what came before and after it.
 *
 * Where the sensor may have jumped or was serviced, later runs say less about the time before: the less, the likelier the
 * jump is.
 *
 * @param services outside of runs, oldest first
 * @example pastOf(filtered(falling, phPrior), phPrior)[2].known.zero // -17
 */
export function pastOf(course: Course, prior: FamilyPrior, services: readonly ServiceEvent[] = []): readonly PastRun[] {
  const motions = course.slice(1).map((to, i): Motion => {
    const from = course[i]!;
    const motion = motionOver(prior, (to.observation.atMs - from.observation.atMs) / MS_PER_DAY);
    const between = services.filter((s) => s.atMs > from.observation.atMs && s.atMs <= to.observation.atMs);
    if (to.observation.cleaned) between.push({ atMs: to.observation.atMs, kind: 'cleaned' });
    return widenedBy(motion, prior, jumpAt(from, to, prior, motion), between, from.state.lessons);
  });
  const beliefs = smoothed(
    course.map((c) => c.state.belief),
    motions,
  );
  return course.map(({ observation, standardised, jumped }, i) => ({
    atMs: observation.atMs,
    found: {
      zero: observation.found.zero,
      zeroSd: Math.sqrt(observation.covariance[0][0]),
      sensitivity: observation.found.sensitivity,
      sensitivitySd: Math.sqrt(observation.covariance[1][1]),
    },
    known: parametersIn({ atMs: observation.atMs, belief: beliefs[i]! }),
    standardised,
    jumped,
  }));
}

/** A jump that may have come between two runs. */
export interface MayHaveJumped {
  /** chance that it came, 0 to 1 */
  readonly chance: number;
  /** how far zero and sensitivity then go, standard deviations */
  readonly sizes: readonly [zero: number, sensitivity: number];
}

/** The jump that may have come before a run. */
export function jumpAt(from: Course[number], to: Course[number], prior: FamilyPrior, motion: Motion): MayHaveJumped {
  const { mean } = predict(from.state.belief, motion);
  const { found } = to.observation;
  return {
    chance: to.jumped,
    sizes: [
      jumpSize(prior.zero.jumpSd, mean[ZERO]!, found.zero),
      jumpSize(prior.sensitivity.jumpSd, mean[SENSITIVITY]!, found.sensitivity),
    ],
  };
}

/**
 * A motion in which a sensor may have jumped as well, and was serviced.
 *
 * @param lessons what such services had taught by then
 */
export function widenedBy(
  motion: Motion,
  prior: FamilyPrior,
  { chance, sizes }: MayHaveJumped,
  services: readonly Pick<ServiceEvent, 'kind'>[],
  lessons?: Lessons,
): Motion {
  const noise = motion.noise.slice();
  const shift = motion.shift?.slice();
  const widens = (at: number, variance: number) => (noise[at * 4 + at]! += variance);
  widens(ZERO, chance * sizes[0] ** 2);
  widens(SENSITIVITY, chance * sizes[1] ** 2);
  for (const { kind } of services) {
    if (kind === 'cleaned' || kind === 'plug dried') {
      const by = cleaningOf(prior, lessons);
      [ZERO, SENSITIVITY].forEach((at, i) => {
        widens(at, by[i]!.sd ** 2);
        if (shift) shift[at]! += by[i]!.value;
      });
    }
    if (kind === 'refilled' || kind === 'tip replaced' || kind === 'stored dry') widens(ZERO, prior.zero.sd ** 2);
    if (kind === 'tip replaced' || kind === 'stored dry') widens(SENSITIVITY, prior.sensitivity.sd ** 2);
  }
  return { ...motion, noise, ...(shift ? { shift } : {}) };
}

/** A change of a figure, with its spread. */
export interface Change {
  readonly by: number;
  readonly sd: number;
}

/** What the last run before something and the first one after it found. */
export interface Around {
  readonly before: PastRun | null;
  readonly after: PastRun | null;
  /** null without a run on either side */
  readonly zero: Change | null;
  readonly sensitivity: Change | null;
}

/**
 * The runs about a moment (a service, say), and what changed from one to the other. What the sensor drifted by meanwhile is in it.
 *
 * @param past rising time
 * @example around(pastOf(filtered(falling, phPrior), phPrior), 45 * day).zero.by // -8
 */
export function around(past: readonly PastRun[], atMs: number): Around {
  const before = past.findLast((p) => p.atMs <= atMs) ?? null;
  const after = past.find((p) => p.atMs > atMs) ?? null;
  const change = (of: 'zero' | 'sensitivity'): Change | null =>
    before && after
      ? { by: after.found[of] - before.found[of], sd: Math.hypot(before.found[`${of}Sd`], after.found[`${of}Sd`]) }
      : null;
  return { before, after, zero: change('zero'), sensitivity: change('sensitivity') };
}
