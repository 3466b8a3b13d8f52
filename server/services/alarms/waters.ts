import {
  dailyCourse,
  familyOf,
  modelOf,
  MS_PER_DAY,
  NO_ALARM_LIMITS,
  reckonsWith,
  replay,
  resolutionOf,
  signalOf,
  stillInCup,
  unlessRefused,
  waterFindings,
  writtenIn,
  type AlarmCause,
  type AlarmLimits,
  type DailyCourse,
  type HouseKnowledge,
  type ShownMinute,
  type WaterNow,
} from '@frustum/core';
import type { Context } from '../../context.ts';
import type { AlarmRecord } from '../../store/commands/alarms.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { shownMinutes } from '../channels/shown.ts';
import { readHouse } from '../house/read-house.ts';
import { backInWater } from '../sensors/readings-say.ts';

const MINUTE_MS = 60_000;
const HOUR_MS = 3_600_000;
/** So many days make a usual course. */
export const USUAL_RANGE_DAYS = 14;
/** A rate is that of the last hour; what is looked at reaches a little further back than what is asked. */
const LEAST_MINUTES = 75;
/** Minutes that are older say nothing of now: what stands, stands on. A display that is read by eye may wait for a day. */
const FRESH_MS = 10 * MINUTE_MS;
const FRESH_TYPED_MS = MS_PER_DAY;

/** The limits of a loop, with what was not said. */
export const alarmLimitsOf = ({ loop }: Pick<FittedLoop, 'loop'>): AlarmLimits => ({
  ...NO_ALARM_LIMITS,
  ...loop.alarmLimits,
});

/** Did anybody ask to know of its water? */
const isWatched = ({ loop }: FittedLoop) => Object.keys(loop.alarmLimits).length > 0;

/** Smallest step of what a loop shows, in its own unit. */
export function stepShown(fitted: FittedLoop): number {
  const { loop } = fitted;
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  if (loop.shownAs.step !== null) return writtenIn(family, model, loop).ownSize(loop.shownAs.step);
  const at = { temperatureC: loop.workingC };
  const one = unlessRefused(() =>
    Math.abs(model.valueOf(model.ideal(loop.workingValue, at) + resolutionOf(fitted), at) - loop.workingValue),
  );
  return one ?? 0;
}

/** What the water of a loop does, and how long nobody has read its display, s: 0 for one that a wire reads. */
type WaterOf = WaterNow & {
  readonly unreadSeconds: number;
  /** the cup that its probe was left in when its run was abandoned, and how long ago, s; null = none */
  readonly leftIn: { readonly cup: string; readonly seconds: number } | null;
};

/** The course of a day is worked out once an hour, since it rests on days. */
const courses = new WeakMap<Context['store'], Map<string, { readonly hour: number; readonly course: DailyCourse }>>();

async function courseOf(context: Context, house: HouseKnowledge<FittedLoop>, fitted: FittedLoop): Promise<DailyCourse> {
  const nowMs = context.now();
  const hour = Math.floor(nowMs / HOUR_MS);
  const known = courses.get(context.store) ?? new Map<string, { hour: number; course: DailyCourse }>();
  courses.set(context.store, known);
  const before = known.get(fitted.channel.id);
  if (before?.hour === hour) return before.course;
  const course = dailyCourse(await shownMinutes(context, house, fitted, nowMs - USUAL_RANGE_DAYS * MS_PER_DAY, nowMs));
  known.set(fitted.channel.id, { hour, course });
  return course;
}

/**
 * What the waters do that somebody asked to know. Of a sensor that is at the bench, alone or with its body, nothing is said; what
 * stands of it stands on, as it does while nothing new is known.
 */
export async function watersNow(
  context: Context,
  standing: readonly AlarmRecord[],
): Promise<{ readonly of: (sensorId: string) => WaterOf | undefined; readonly kept: readonly AlarmCause[] }> {
  const house = await readHouse(context);
  const watched = house.all.filter(isWatched);
  const made = new Map<string, WaterOf>();
  const kept: AlarmCause[] = [];
  if (!watched.length) return { of: () => undefined, kept };
  const backMs = await backInWater(context);
  for (const fitted of watched) {
    const mine = standing.filter(
      (a) => a.sensorId === fitted.sensor.id && ['water', 'rate', 'frozen'].includes(a.kind),
    );
    const water = await waterOf(context, house, fitted, backMs(fitted.sensor.id), mine);
    if (water) made.set(fitted.sensor.id, water);
    if (!water || water.unknown)
      kept.push(...mine.map(({ key, kind, level, sensorId, text }) => ({ key, kind, level, sensorId, text })));
  }
  return { of: (sensorId) => made.get(sensorId), kept };
}

/** @param back since when it hangs in its water, epoch ms; never, for one at the bench */
async function waterOf(
  context: Context,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  back: number,
  standing: readonly AlarmRecord[],
): Promise<(WaterOf & { readonly unknown: boolean }) | null> {
  const nowMs = context.now();
  if (back > nowMs) return null;
  const { loop, channel, timeZone } = fitted;
  const limits = alarmLimitsOf(fitted);
  const typed = channel.config.kind === 'hand';
  const minutes = await minutesFor(context, house, fitted, limits, typed);
  const inWater = minutes.filter((m) => m.ms >= back);
  const lastMs = inWater.at(-1)?.ms ?? null;
  const fresh = lastMs !== null && nowMs - lastMs <= (typed ? FRESH_TYPED_MS : FRESH_MS);
  const family = familyOf(loop.family);
  const leftIn = fresh ? await leftInCup(context, house, fitted, inWater.at(-1)!.value) : null;
  return {
    leftIn,
    // Nobody reads a display twice to be sure: what is typed counts at once.
    findings:
      fresh && !leftIn
        ? waterFindings(
            typed ? { ...limits, forMinutes: 0, frozenMinutes: null } : limits,
            inWater,
            stepShown(fitted),
            new Set(standing.map((a) => `water ${a.key.split(' ').at(-1)}`)),
            limits.daily ? await courseOf(context, house, fitted) : [],
          )
        : [],
    unknown: !fresh,
    written: writtenIn(family, modelOf(family, loop.settings), loop),
    timeZone,
    unreadSeconds: typed && limits.silentMinutes !== null ? (nowMs - (lastMs ?? 0)) / 1000 : 0,
  };
}

/** So long after a run was abandoned its probe may still hang where it was. Our own choice. */
const LEFT_MS = MS_PER_DAY / 2;

/**
 * A run that was abandoned puts no probe back: one that still shows its last cup hangs there, and says nothing of its water.
 *
 * @param value that it shows, in the own unit of its family
 */
async function leftInCup(
  { store, now }: Context,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  value: number,
): Promise<WaterOf['leftIn']> {
  const { loop, sensor } = fitted;
  const ended = (await store.readBenchedSince(new Date(now() - LEFT_MS).toISOString())).get(sensor.id);
  if (ended === undefined || ended === 'now') return null;
  const last = (await store.readRunsOf(sensor.id)).find((r) => r.endedAt === ended);
  if (last?.status !== 'abandoned') return null;
  const at = { temperatureC: loop.workingC };
  const model = modelOf(familyOf(loop.family), loop.settings);
  const signal = unlessRefused(() => signalOf(model, value, at, reckonsWith(house.pastOf(fitted)).inForce));
  if (signal === null) return null;
  const state = replay(await store.readEvents([last.id]));
  const still = stillInCup(state, { signal, ...at });
  const cup = still && state.plan.points[still.cup.pointIndex]!.standard.name;
  return cup ? { cup, seconds: (now() - Date.parse(ended)) / 1000 } : null;
}

async function minutesFor(
  context: Context,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  { forMinutes, frozenMinutes }: AlarmLimits,
  typed: boolean,
): Promise<ShownMinute[]> {
  const nowMs = context.now();
  const ms = typed ? 2 * MS_PER_DAY : MINUTE_MS * (Math.max(LEAST_MINUTES, forMinutes, frozenMinutes ?? 0) + 30);
  return shownMinutes(context, house, fitted, nowMs - ms, nowMs + MINUTE_MS);
}
