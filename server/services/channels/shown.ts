import {
  coefficientsInForce,
  conditionIn,
  familyOf,
  modelOf,
  ofSensor,
  Refusal,
  unlessRefused,
  valueOfReading,
  type Coefficients,
  type ConditionName,
  type HouseKnowledge,
  type LoopId,
  type SensorId,
  type ShownMinute,
  type Surrounded,
} from '@frustum/core';
import { unitOf } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { MinuteRecord } from '../../store/commands/readings.ts';
import { Slices } from '../../slices.ts';
import { readHouse } from '../house/read-house.ts';

/** A fitted sensor in its house. @throws Refusal `sensor-unknown` */
export async function inHouse(context: Context, sensorId: SensorId) {
  const house = await readHouse(context);
  const fitted = house.all.find((f) => f.sensor.id === sensorId);
  if (fitted) return { house, fitted };
  throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
}

/** Since when a channel gives this sensor's readings, epoch ms. */
export const sinceOf = ({ sensor }: FittedLoop) => sensor.fittedMs ?? -Infinity;

/** What a channel reckoned with at a moment. */
export function inForceAtOf(house: HouseKnowledge<FittedLoop>, fitted: FittedLoop): (ms: number) => Coefficients {
  const { finished, atFit } = house.pastOf(fitted);
  return coefficientsInForce(ofSensor(finished), atFit);
}

/** What other loops showed of a loop's conditions, minute by minute; nothing where the set-up's figures hold. */
export async function conditionsOver(
  store: Context['store'],
  house: HouseKnowledge<FittedLoop>,
  { loop }: FittedLoop,
  from: string,
  to: string,
): Promise<(minute: string) => Surrounded> {
  const takes = Object.entries(loop.takes) as [ConditionName, LoopId][];
  if (!takes.length) return () => ({});
  const given = await Promise.all(
    takes.flatMap(([name, loopId]) => {
      const giver = house.all.find((f) => f.loop.id === loopId);
      return giver ? [shownOver(store, house, giver, name, from, to)] : [];
    }),
  );
  return (minute) => Object.assign({}, ...given.map((of) => of(minute))) as Surrounded;
}

async function shownOver(
  store: Context['store'],
  house: HouseKnowledge<FittedLoop>,
  giver: FittedLoop,
  name: ConditionName,
  from: string,
  to: string,
): Promise<(minute: string) => Surrounded> {
  const { loop, channel } = giver;
  const minutes = await store.readMinutes(channel.id, from, to);
  const model = modelOf(familyOf(loop.family), loop.settings);
  const inForceAt = inForceAtOf(house, giver);
  const byMinute = new Map(
    minutes.flatMap((m) => (m.onBench || Date.parse(m.minute) < sinceOf(giver) ? [] : [[m.minute, m] as const])),
  );
  return (minute) => {
    const m = byMinute.get(minute);
    const { temperatureC, mean } = m ?? { temperatureC: NaN, mean: NaN };
    const value = m && unlessRefused(() => valueOfReading(model, mean, unitOf(channel.config), { temperatureC }, inForceAt(Date.parse(minute)))); // prettier-ignore
    const own = value == null ? null : conditionIn(value, model.valueUnit, name);
    return own === null ? {} : { [name]: own };
  };
}

/** What a loop showed, by the coefficients of the time, in its family's unit; null where it showed nothing that has a value. */
export async function shownBy(
  { store }: Pick<Context, 'store'>,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  fromMs: number,
  toMs: number,
): Promise<(reading: number, minute: MinuteRecord) => number | null> {
  const inForceAt = inForceAtOf(house, fitted);
  const model = modelOf(familyOf(fitted.loop.family), fitted.loop.settings);
  const unit = unitOf(fitted.channel.config);
  const given = await conditionsOver(
    store,
    house,
    fitted,
    new Date(fromMs).toISOString(),
    new Date(toMs).toISOString(),
  );
  return (reading, { temperatureC, minute }) =>
    unlessRefused(() => valueOfReading(model, reading, unit, { temperatureC, ...given(minute) }, inForceAt(Date.parse(minute)))); // prettier-ignore
}

/** Minutes in which its sensor was in the water, as they were shown, oldest first. */
export async function shownMinutes(
  context: Pick<Context, 'store'>,
  house: HouseKnowledge<FittedLoop>,
  fitted: FittedLoop,
  fromMs: number,
  toMs: number,
): Promise<ShownMinute[]> {
  const ownMs = Math.max(fromMs, sinceOf(fitted));
  if (ownMs >= toMs) return [];
  const [minutes, shown] = await Promise.all([
    context.store.readMinutes(fitted.channel.id, new Date(ownMs).toISOString(), new Date(toMs).toISOString()),
    shownBy(context, house, fitted, ownMs, toMs),
  ]);
  const made: ShownMinute[] = [];
  const slices = new Slices();
  for (const m of minutes) {
    if (slices.isOver) await slices.next();
    const value = m.onBench ? null : shown(m.mean, m);
    if (value !== null) made.push({ ms: Date.parse(m.minute), value });
  }
  return made;
}
