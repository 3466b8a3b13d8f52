import {
  convertTo,
  familyOf,
  figure,
  isUnit,
  LIKE_HOURS,
  median,
  modelOf,
  MS_PER_DAY,
  reckonsWith,
  Refusal,
  requireWithin,
  scaleOf,
  signalOf,
  unlessRefused,
  valueOfReading,
  writtenIn,
  type HouseKnowledge,
} from '@frustum/core';
import { unitOf, type NewWalkReading, type WalkDone, type WalkStop, type WalkView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { WalkReading } from '../../store/commands/walks.ts';
import { readHouse } from '../house/read-house.ts';
import { backInWater } from '../sensors/readings-say.ts';
import { sinceOf } from '../channels/shown.ts';

/** So many days say what is usual at an hour; so few readings say nothing. */
const USUAL_DAYS = 14;
const LEAST_USUAL = 3;
/** Where nothing is known, a loop is where it should be, give or take so many tolerances. */
const TOLERANCES = 3;
const MINUTE_MS = 60_000;

/** A display that is read by eye. */
const isTyped = ({ channel }: FittedLoop) => channel.config.kind === 'hand';

const doneOf = ({ id, at, by, typed, unit, value, plusMinus, doubt }: WalkReading): WalkDone => ({
  id,
  at,
  by,
  typed,
  unit,
  value,
  plusMinus,
  doubt,
});

/** As people count: bed 2 comes before bed 10. */
const byName = new Intl.Collator('en', { numeric: true }).compare;

/** The walk that is under way, or the last one, with every display in the order of one's own. */
export async function readWalk(context: Context): Promise<WalkView> {
  const [house, kept, backMs] = await Promise.all([readHouse(context), context.store.readWalk(), backInWater(context)]);
  const nowMs = context.now();
  const stops = house.all
    .filter(isTyped)
    .sort(
      (a, b) => byName(a.siteName, b.siteName) || a.loop.position - b.loop.position || byName(a.loop.name, b.loop.name),
    );
  return {
    walk: kept && {
      walkId: kept.walk.id,
      begunAt: kept.walk.begunAt,
      by: kept.walk.by,
      endedAt: kept.walk.endedAt,
    },
    stops: await Promise.all(
      stops.map(async (fitted) => {
        const done = kept?.readings.findLast((r) => r.loopId === fitted.loop.id);
        return stopOf(fitted, done, backMs(fitted.sensor.id) > nowMs, await usualAt(context, house, fitted));
      }),
    ),
  };
}

function stopOf(
  { loop, sensor, siteName }: FittedLoop,
  done: WalkReading | undefined,
  atBench: boolean,
  usual: WalkStop['usual'],
): WalkStop {
  const { family, settings, workingValue, workingC, tolerance, shownAs } = loop;
  return {
    loopId: loop.id,
    sensorId: sensor.id,
    loopName: loop.name,
    place: loop.place,
    siteName,
    family,
    settings,
    workingValue,
    workingC,
    tolerance,
    shownAs,
    usual,
    atBench,
    done: done ? doneOf(done) : null,
  };
}

/** What a loop usually shows at this hour: the middle of the last days, and how they scatter. */
async function usualAt(
  { store, now }: Context,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
): Promise<WalkStop['usual']> {
  const { loop, channel } = fitted;
  const [from, to] = [now() - USUAL_DAYS * MS_PER_DAY, now()].map((ms) => new Date(ms).toISOString()) as [string, string]; // prettier-ignore
  const minutes = (await store.readMinutesAlike(channel.id, from, to, LIKE_HOURS)).filter(
    (m) => !m.onBench && Date.parse(m.minute) >= sinceOf(fitted),
  );
  const model = modelOf(familyOf(loop.family), loop.settings);
  const { inForce } = reckonsWith(house.pastOf(fitted));
  const values = minutes.flatMap((m) => unlessRefused(() => valueOfReading(model, m.mean, unitOf(channel.config), { temperatureC: m.temperatureC }, inForce)) ?? []); // prettier-ignore
  const wide = TOLERANCES * loop.tolerance;
  if (values.length < LEAST_USUAL) return { value: loop.workingValue, sd: wide, from: 'set-up' };
  const value = median(values);
  // A display that always shows the same is still read by people: half a tolerance is nothing odd.
  return { value, sd: Math.max(loop.tolerance / 2, spreadOf(values, value)), from: 'readings' };
}

const spreadOf = (values: readonly number[], middle: number) =>
  1.4826 * median(values.map((v) => Math.abs(v - middle)));

/** Begins a walk, or goes on with the one that is under way. */
export async function beginWalk(context: Context, by: string): Promise<WalkView> {
  const { store, newId, now } = context;
  await store.beginWalk({ id: newId(), begunAt: new Date(now()).toISOString(), by, endedAt: null });
  context.changed();
  return readWalk(context);
}

/** It is done. @throws Refusal `walk-unknown` */
export async function endWalk(context: Context, walkId: string): Promise<WalkView> {
  await context.store.endWalk(walkId, new Date(context.now()).toISOString());
  context.changed();
  return readWalk(context);
}

/**
 * Keeps what was read off a display, as a reading of its loop with the step of the display as its ±.
 *
 * @throws Refusal `not-on-walk`, `scale-unknown`, `out-of-range`, `walk-reading-there` when somebody has read it already,
 *   `walk-unknown`, `walk-ended`
 */
export async function keepWalkReading(
  context: Context,
  walkId: string,
  asked: NewWalkReading,
  by: string,
): Promise<WalkView> {
  const { store, now } = context;
  const house = await readHouse(context);
  const fitted = house.all.find((f) => f.loop.id === asked.loopId && isTyped(f));
  if (!fitted)
    throw new Refusal('not-on-walk', 'This display is not on the walk: it is read by a wire, or was put away.', {
      loopId: asked.loopId,
    });
  const kept = await store.readWalk();
  const there = kept?.walk.id === walkId ? kept.readings.findLast((r) => r.loopId === asked.loopId) : undefined;
  if (there && there.id !== asked.id && there.id !== asked.replaces)
    throw new Refusal(
      'walk-reading-there',
      `${there.by} has read ${there.typed} ${there.unit} there already, in this walk. Say that yours takes its place, or leave it.`,
      { id: there.id },
    );
  const { value, plusMinus } = readIn(fitted, asked);
  const at = new Date(now()).toISOString();
  const { id, typed, unit, doubt } = asked;
  const reading = { id, walkId, loopId: fitted.loop.id, channelId: fitted.channel.id, at, by, typed, unit, value, plusMinus, doubt }; // prettier-ignore
  const backMs = await backInWater(context);
  const minute = minuteOf(house, fitted, value, plusMinus, now(), backMs(fitted.sensor.id) > now());
  const replaces =
    there && there.id !== id ? { channelId: there.channelId, minute: minuteAt(Date.parse(there.at)) } : null;
  await store.keepWalkReading(reading, minute, replaces);
  context.changed();
  return readWalk(context);
}

const minuteAt = (ms: number) => new Date(Math.floor(ms / MINUTE_MS) * MINUTE_MS).toISOString();

/** What was typed, in the family's own unit, and one step of its display. */
function readIn({ loop }: FittedLoop, { typed, unit }: NewWalkReading) {
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const at = { temperatureC: loop.workingC };
  const read = figure(typed.trim());
  if (read === null)
    throw new Refusal('out-of-range', `“${typed}” is not a figure. Type it as the display shows it.`, { value: null, low: 0, high: 0 }); // prettier-ignore
  const scale = scaleOf(model, unit);
  const value = scale.own(read, at);
  const { low, high } = model.range;
  requireWithin(value, low, high, loop.name, model.valueUnit, 'Read the display once more, and its unit.');
  const said = unit === (loop.shownAs.scale || model.valueUnit) ? loop.shownAs.step : null;
  // Nobody has said its steps: the last digit that was typed is one.
  const step = said ?? 10 ** -decimalsTyped(typed);
  const written = writtenIn(family, model, { ...loop, workingValue: value, shownAs: { scale: unit, step: null } });
  return { value, plusMinus: written.ownSize(step) };
}

/** Decimals of a figure as it was typed: "7.20" has two. */
const decimalsTyped = (typed: string) => typed.trim().split(/[.,]/)[1]?.length ?? 0;

/** The reading as a minute of its channel, in the channel's unit. */
function minuteOf(
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  value: number,
  plusMinus: number,
  nowMs: number,
  onBench: boolean,
) {
  const { loop, channel } = fitted;
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const unit = unitOf(channel.config);
  const { inForce } = reckonsWith(house.pastOf(fitted));
  const temperatureC = family.thermometer ? value : loop.workingC;
  const inChannel = (own: number) => {
    if (unit === model.signalUnit) return signalOf(model, own, { temperatureC }, inForce);
    return (isUnit(unit) ? convertTo(own, model.valueUnit, unit) : null) ?? own;
  };
  const ends = [value - plusMinus, value + plusMinus].map((v) => unlessRefused(() => inChannel(v)) ?? inChannel(value));
  return {
    channelId: channel.id,
    minute: minuteAt(nowMs),
    count: 1,
    mean: inChannel(value),
    low: Math.min(...ends),
    high: Math.max(...ends),
    temperatureC,
    onBench,
  };
}
