import { errorGradientOf } from '../sensor/working-error.ts';
import { shownValue } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { predict, type Belief, type Motion, type Measurement } from '../statistics/kalman.ts';
import type { Working } from './working.ts';
import { filtered, type Known } from './course.ts';
import { anyMayHaveJumped, weighedBranches, type Branch } from './branches.ts';
import { afterService, measurementsOf } from './filter.ts';
import { forgotten, motionOver, priorState, SENSITIVITY, widened, ZERO, type Lessons } from './state.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** A sensor that hangs in the same water as another. */
export interface CoLocatedSensor {
  readonly prior: FamilyPrior;
  readonly working: Working;
  /** change that counts at the working value, in the unit of the signal */
  readonly step: number;
  /** finished runs, rising time, one at least */
  readonly history: readonly Observation[];
  /** what was done to it outside of runs, rising time */
  readonly services: readonly ServiceEvent[];
}

/** What all sensors in the same water gave over the same time, in their order. */
export interface Comparison {
  readonly atMs: number;
  readonly given: readonly { readonly signal: number; readonly temperatureC: number }[];
}

/** Comparisons over a whole week: the water of one day is like that of the day before. */
const TOGETHER_MS = 7 * MS_PER_DAY;

/**
 * Weekly means of daily comparisons. A run or a service ends the week early: no mean is taken across it.
 *
 * @param days rising time
 * @param breaks moments that may not be averaged over, epoch ms
 * @example weekly([{ atMs: 0, given: [{ signal: 1, temperatureC: 20 }] }, { atMs: day, given: [{ signal: 4, temperatureC: 20 }] }], [])[0].given[0].signal // 2.5
 */
export function weekly(days: readonly Comparison[], breaks: readonly number[]): readonly Comparison[] {
  const weeks = new Map<string, Comparison[]>();
  for (const day of days) {
    const key = `${Math.floor(day.atMs / TOGETHER_MS)}/${breaks.filter((b) => b < day.atMs).length}`;
    const same = weeks.get(key);
    if (same) same.push(day);
    else weeks.set(key, [day]);
  }
  const mean = (of: readonly number[]) => of.reduce((sum, x) => sum + x, 0) / of.length;
  return [...weeks.values()].map((week) => ({
    atMs: mean(week.map((d) => d.atMs)),
    given: week[0]!.given.map((_, i) => ({
      signal: mean(week.map((d) => d.given[i]!.signal)),
      temperatureC: mean(week.map((d) => d.given[i]!.temperatureC)),
    })),
  }));
}

/**
 * How much what a sensor gives in its water differs from what its runs in standards say, in steps: it hangs at a spot of its
 * own, and its junction makes a potential in this water that it does not make in a buffer. So much at first, and so much
 * more a √day, without a bound: a junction that clogs goes on. Our own choice; common practice has no figures.
 */
export const PLACE_STEPS = 6;
const PLACE_WALK_STEPS = 0.3;
/** What one comparison leaves open of each sensor, in steps. Our own choice. */
const COMPARED_STEPS = 1;
/** The water may be anything: so many steps. */
const WATER_STEPS = 1e4;

/** Figures of each sensor in the joint belief: zero, its rate, sensitivity, its rate, and what its place adds to the zero. */
const EACH = 5;
const PLACE = 4;

type Event =
  | { readonly kind: 'run'; readonly atMs: number; readonly of: number; readonly run: Observation }
  | { readonly kind: 'service'; readonly atMs: number; readonly of: number; readonly service: ServiceEvent['kind'] }
  | { readonly kind: 'compared'; readonly atMs: number; readonly given: Comparison['given'] };

/**
 * Sensors in the same water, by one joint filter: what each was found to be in its runs, and what they gave beside each
 * other between them.
 *
 * The water itself is anybody's guess at each comparison, so that only differences tell, and each tells once. A run of one
 * sensor makes the other's error better known, as far as their difference has stayed what it was. What only shows in the
 * water (a spot of its own, a clogged junction) is a figure of its own for each sensor, and no error of its zero.
 *
 * @param comparisons rising time; those before each sensor has had its first run are left out
 * @returns for each sensor what is known of it at each of its runs and each comparison, rising time
 * @example filteredTogether([coLocated, coLocated], []).map((known) => known.length) // [3, 3]
 */
export function filteredTogether(
  sensors: readonly CoLocatedSensor[],
  comparisons: readonly Comparison[],
): readonly (readonly Known[])[] {
  const out: Known[][] = sensors.map(() => []);
  const events = eventsOf(sensors, comparisons);
  const lessonsOf = sensors.map(lessonsAlong);
  // A sensor is new at its own first run: until then it stands as it was delivered. From then on it may jump unseen.
  const seenMs: (number | null)[] = sensors.map(() => null);
  let atMs = events[0]?.atMs ?? 0;
  let belief = beforehand(sensors);
  for (const event of events) {
    belief = predict(belief, motionOf(sensors, seenMs, (event.atMs - atMs) / MS_PER_DAY));
    atMs = event.atMs;
    if (event.kind === 'service') {
      if (seenMs[event.of] !== null)
        belief = afterHands(belief, sensors[event.of]!, event.of, event.service, lessonsOf[event.of]!(atMs));
      continue;
    }
    if (event.kind === 'run' && event.run.cleaned)
      belief = afterHands(belief, sensors[event.of]!, event.of, 'cleaned', lessonsOf[event.of]!(atMs - 1));
    const looked = event.kind === 'run' ? [event.of] : sensors.map((_, i) => i);
    const branches = anyMayHaveJumped(
      belief,
      looked.map((i) => ({
        prior: sensors[i]!.prior,
        from: i * EACH,
        days: (atMs - (seenMs[i] ?? atMs)) / MS_PER_DAY,
        ...(event.kind === 'run' ? { found: event.run.found } : {}),
      })),
    );
    const made =
      event.kind === 'run'
        ? weighedBranches(
            branches,
            measurementsOf(event.run, rowOf(sensors, event.of, ZERO), rowOf(sensors, event.of, SENSITIVITY)),
          )
        : comparedBranches(branches, sensors, event.given);
    // In air, say, one of them shows nothing.
    if (!made) continue;
    belief = made.belief;
    for (const i of looked) {
      seenMs[i] = atMs;
      const mine = ({ jumped }: Branch) => jumped !== undefined && Math.floor(jumped / EACH) === i;
      const lessons = lessonsOf[i]!(atMs);
      out[i]!.push({
        state: { atMs, belief: onlyOf(belief, i), ...(lessons ? { lessons } : {}) },
        observation: event.kind === 'run' ? event.run : null,
        jumped: made.chances.reduce((sum, c, w) => (mine(branches[w]!) ? sum + c : sum), 0),
      });
    }
  }
  return out;
}

/** What services had taught of a sensor at a moment: by its own runs, partners know nothing of its tips. */
function lessonsAlong({ history, prior, services }: CoLocatedSensor): (atMs: number) => Lessons | undefined {
  if (!services.length && !history.some((o) => o.cleaned)) return () => undefined;
  const course = filtered(history, prior, services);
  return (atMs) => course.findLast((k) => k.observation.atMs <= atMs)?.state.lessons;
}

/** All that has happened, in its order; comparisons only from when all have begun. */
function eventsOf(sensors: readonly CoLocatedSensor[], comparisons: readonly Comparison[]): readonly Event[] {
  const all = Math.max(...sensors.map((h) => h.history[0]?.atMs ?? Infinity));
  return [
    ...sensors.flatMap((h, of): Event[] => [
      ...h.services.map(({ atMs, kind }) => ({ kind: 'service' as const, atMs, of, service: kind })),
      ...h.history.map((run) => ({ kind: 'run' as const, atMs: run.atMs, of, run })),
    ]),
    ...comparisons.filter((c) => c.atMs > all).map((c): Event => ({ kind: 'compared', ...c })),
  ].sort((a, b) => a.atMs - b.atMs);
}

/** What is known before anything was found. */
function beforehand(sensors: readonly CoLocatedSensor[]): Belief {
  const n = sensors.length * EACH;
  const mean = new Array<number>(n).fill(0);
  const covariance = new Array<number>(n * n).fill(0);
  sensors.forEach(({ prior, step }, i) => {
    const own = priorState(prior, 0).belief;
    const from = i * EACH;
    for (let k = 0; k < PLACE; k++) {
      mean[from + k] = own.mean[k]!;
      covariance[(from + k) * n + from + k] = own.covariance[k * PLACE + k]!;
    }
    covariance[(from + PLACE) * n + from + PLACE] = (PLACE_STEPS * step) ** 2;
  });
  return { mean, covariance };
}

/** How all of them move over so many days. @param seenMs null for those that are not yet there: they do not move */
function motionOf(sensors: readonly CoLocatedSensor[], seenMs: readonly (number | null)[], days: number): Motion {
  const n = sensors.length * EACH;
  const transition = new Array<number>(n * n).fill(0);
  const noise = new Array<number>(n * n).fill(0);
  const shift = new Array<number>(n).fill(0);
  sensors.forEach(({ prior, step }, i) => {
    const from = i * EACH;
    if (seenMs[i] === null) {
      for (let k = from; k < from + EACH; k++) transition[k * n + k] = 1;
      return;
    }
    const own = motionOver(prior, days);
    for (let r = 0; r < PLACE; r++) {
      shift[from + r] = own.shift![r]!;
      for (let c = 0; c < PLACE; c++) {
        transition[(from + r) * n + from + c] = own.transition[r * PLACE + c]!;
        noise[(from + r) * n + from + c] = own.noise[r * PLACE + c]!;
      }
    }
    const place = (from + PLACE) * n + from + PLACE;
    transition[place] = 1;
    noise[place] = (PLACE_WALK_STEPS * step) ** 2 * days;
  });
  return { transition, noise, shift };
}

/** What hands do to a sensor, and to what its junction makes of the water. */
function afterHands(
  belief: Belief,
  { prior, step }: CoLocatedSensor,
  i: number,
  kind: ServiceEvent['kind'],
  lessons: Lessons | undefined,
): Belief {
  const place = i * EACH + PLACE;
  const variance = (PLACE_STEPS * step) ** 2;
  const after = afterService(belief, { prior, from: i * EACH }, kind, lessons);
  if (kind === 'tip replaced' || kind === 'stored dry') return forgotten(after, [{ at: place, mean: 0, variance }]);
  return kind === 'other' ? after : widened(after, [{ at: place, variance }]);
}

/** One figure of one sensor. */
function rowOf(sensors: readonly CoLocatedSensor[], i: number, at: number): readonly number[] {
  const row = new Array<number>(sensors.length * EACH).fill(0);
  row[i * EACH + at] = 1;
  return row;
}

/**
 * Takes in a comparison: the water is one more figure, of which nothing is known, and each sensor shows it with its own
 * error. To first order about what each sensor is believed to be.
 *
 * @returns null where one of them gives no value
 */
function comparedBranches(
  branches: readonly Branch[],
  sensors: readonly CoLocatedSensor[],
  given: Comparison['given'],
) {
  const n = sensors.length * EACH;
  const { mean } = branches[0]!.belief;
  const look = ({ working: { model }, step }: CoLocatedSensor, i: number) => {
    const from = i * EACH;
    const { signal, temperatureC } = given[i]!;
    const is: Coefficients = { zero: mean[from + ZERO]! + mean[from + PLACE]!, sensitivity: mean[from + SENSITIVITY]! };
    const value = shownValue(model, signal, { temperatureC }, is);
    const { perZero, perSensitivity } = errorGradientOf(model, { value, temperatureC }, is, is);
    const row = new Array<number>(n + 1).fill(0);
    row[from + ZERO] = row[from + PLACE] = perZero;
    row[from + SENSITIVITY] = perSensitivity;
    row[n] = 1;
    const about = row.reduce((sum, r, k) => (k < n ? sum + r * mean[k]! : sum), 0);
    return { value, valueStep: Math.abs(perZero) * step, row, about };
  };
  const looked = unlessRefused(() => sensors.map(look));
  if (!looked) return null;
  const water = looked.reduce((sum, l) => sum + l.value, 0) / looked.length;
  const widest = WATER_STEPS * Math.max(...looked.map((l) => l.valueStep));
  const measurements = looked.map(({ value, valueStep, row, about }): Measurement => ({
    row,
    value: value + about,
    variance: (COMPARED_STEPS * valueStep) ** 2,
  }));
  const { belief, ...made } = weighedBranches(
    branches.map((w) => ({ ...w, belief: withWater(w.belief, water, widest ** 2) })),
    measurements,
  );
  return { ...made, belief: resized(belief, n, 0) };
}

/** A belief with one more figure at its end. */
function withWater(belief: Belief, mean: number, variance: number): Belief {
  const n = belief.mean.length + 1;
  const wider = resized(belief, n, mean);
  const covariance = wider.covariance.slice();
  covariance[n * n - 1] = variance;
  return { mean: wider.mean, covariance };
}

/** The first so many figures of a belief, or with so many more that are certain. */
function resized({ mean, covariance }: Belief, size: number, filling: number): Belief {
  const n = mean.length;
  const c = new Array<number>(size * size).fill(0);
  const both = Math.min(n, size);
  for (let i = 0; i < both; i++) for (let j = 0; j < both; j++) c[i * size + j] = covariance[i * n + j]!;
  return { mean: Array.from({ length: size }, (_, i) => mean[i] ?? filling), covariance: c };
}

/** What a joint belief says of one sensor. */
function onlyOf({ mean, covariance }: Belief, i: number): Belief {
  const n = mean.length;
  const from = i * EACH;
  const c: number[] = [];
  for (let r = 0; r < PLACE; r++) for (let k = 0; k < PLACE; k++) c.push(covariance[(from + r) * n + from + k]!);
  return { mean: mean.slice(from, from + PLACE), covariance: c };
}
