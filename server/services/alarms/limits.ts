import {
  callsOf,
  dailyCourse,
  digitsFor,
  familyOf,
  modelOf,
  MS_PER_DAY,
  NO_ALARM_LIMITS,
  proposedLimits,
  Refusal,
  withoutCourse,
  type AlarmLimits,
  type LoopId,
  type ShownMinute,
} from '@frustum/core';
import type { KeepLimits, LimitsView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { shownMinutes } from '../channels/shown.ts';
import { changeBy, requireLimits } from '../house/set-up.ts';
import { readHouse } from '../house/read-house.ts';
import { USUAL_RANGE_DAYS } from './waters.ts';

const BUCKET_MS = 2 * 3_600_000;
/** Proposed limits leave at least so many tolerances of room. Our own choice. */
const LEAST_ROOM = 2;
/** A course of the day that is smaller than this share of all that the water does is left in. Our own choice. */
const COURSE_SHARE = 0.3;

/** What a loop has shown over two weeks, and which limits would fit. @throws Refusal `loop-unknown` */
export async function readLimits(context: Context, loopId: LoopId): Promise<LimitsView> {
  const house = await readHouse(context);
  const fitted = house.all.find((f) => f.loop.id === loopId);
  if (!fitted) throw new Refusal('loop-unknown', 'There is no such loop in use. Go back to Margins.', { loopId });
  const { loop } = fitted;
  const nowMs = context.now();
  const minutes = await shownMinutes(context, house, fitted, nowMs - USUAL_RANGE_DAYS * MS_PER_DAY, nowMs + 60_000);
  const course = dailyCourse(minutes);
  const proposed = proposalOf(fitted, minutes, course);
  return {
    loopId,
    version: loop.version,
    kept: loop.alarmLimits,
    proposed,
    calls: proposed ? callsOf({ ...NO_ALARM_LIMITS, ...proposed }, minutes, course) : 0,
    course,
    days: USUAL_RANGE_DAYS,
    buckets: bucketsOf(minutes),
    now: minutes.at(-1)?.value ?? null,
  };
}

/** Room about what is usual; the course of the day comes off where it is much of what the water does. */
function proposalOf({ loop }: FittedLoop, minutes: readonly ShownMinute[], course: readonly number[]) {
  const swing = Math.max(...course) - Math.min(...course);
  const values = minutes.map((m) => m.value).sort((a, b) => a - b);
  const spread = values.length
    ? values[Math.floor(0.995 * (values.length - 1))]! - values[Math.floor(0.005 * values.length)]!
    : 0;
  const daily = swing > Math.max(COURSE_SHARE * spread, loop.tolerance / 2);
  const found = proposedLimits(daily ? withoutCourse(minutes, course) : minutes, LEAST_ROOM * loop.tolerance);
  if (!found) return null;
  const { low, high } = modelOf(familyOf(loop.family), loop.settings).range;
  const digits = digitsFor(loop.tolerance);
  // A limit that no sensor could pass is none.
  const inside = (value: number | null) =>
    value === null || value <= low || value >= high ? null : Number(value.toFixed(digits));
  return {
    warnLow: inside(found.warnLow),
    warnHigh: inside(found.warnHigh),
    actLow: inside(found.actLow),
    actHigh: inside(found.actHigh),
    forMinutes: NO_ALARM_LIMITS.forMinutes,
    daily,
  };
}

function bucketsOf(minutes: readonly ShownMinute[]): LimitsView['buckets'] {
  const buckets = new Map<number, { n: number; sum: number; low: number; high: number }>();
  for (const { ms, value } of minutes) {
    const at = Math.floor(ms / BUCKET_MS) * BUCKET_MS;
    const b = buckets.get(at) ?? { n: 0, sum: 0, low: Infinity, high: -Infinity };
    b.n++;
    b.sum += value;
    b.low = Math.min(b.low, value);
    b.high = Math.max(b.high, value);
    buckets.set(at, b);
  }
  const round = (value: number) => Number(value.toPrecision(7));
  return [...buckets].map(([at, b]) => [at, round(b.low), round(b.sum / b.n), round(b.high)] as const);
}

/** Only what is watched: nothing is kept of what was left empty. */
const watched = (limits: Partial<AlarmLimits>): Partial<AlarmLimits> => {
  const some = (['warnLow', 'warnHigh', 'actLow', 'actHigh', 'perHour', 'frozenMinutes', 'silentMinutes'] as const).some((key) => limits[key] != null); // prettier-ignore
  return some ? limits : {};
};

/** Of several loops it is said which one cannot have its limits. */
function named(loopName: string, check: () => void): void {
  try {
    check();
  } catch (error) {
    if (error instanceof Refusal) throw new Refusal(error.code, `${loopName}: ${error.message}`, error.facts);
    throw error;
  }
}

/**
 * Limits of several loops at once: all of them, or none.
 *
 * @throws Refusal `loop-unknown`, `set-up-moved`, `out-of-range`, `limits-turned`
 */
export async function keepLimits(context: Context, { loops, why }: KeepLimits, by: string): Promise<null> {
  const all = await context.store.readFittedLoops();
  const changeLoops = loops.map(({ loopId, version, alarmLimits }) => {
    const fitted = all.find((f) => f.loop.id === loopId);
    if (!fitted) throw new Refusal('loop-unknown', 'There is no such loop in use. Look at Set-up again.', { loopId });
    named(fitted.loop.name, () => requireLimits(fitted.loop, alarmLimits));
    const to = { alarmLimits: watched(alarmLimits) };
    return { loopId, asked: { version, to, change: changeBy(context, by, why) } };
  });
  await context.store.changeAtOnce({ add: [], changeLoops, changeSensors: [], spares: [], backups: [] });
  context.changed();
  return null;
}
