import {
  backInWaterAt,
  coefficientsInForce,
  isKnownHere,
  inSameWater,
  LIKE_HOURS,
  MAX_LIVE,
  movedNow,
  MS_PER_DAY,
  NOW_MS,
  ofSensor,
  USUAL_DAYS,
  type HealthChecks,
  type HouseKnowledge,
  type SensorId,
} from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';

/** Since when each sensor hangs in its water again, epoch ms: never, for one that is at the bench. */
export async function backInWater({
  store,
  now,
}: Pick<Context, 'store' | 'now'>): Promise<(sensorId: SensorId) => number> {
  const benched = await store.readBenchedSince(new Date(now() - NOW_MS).toISOString());
  return (sensorId) => backInWaterAt(benched.get(sensorId));
}

/** Samples that a channel has just given, since its sensor is back in the water. */
export const livelyOf = (hub: Context['hub'], { channel }: FittedLoop, backMs: number) =>
  hub.lately(channel.id, MAX_LIVE, backMs);

/** What the readings say now, of a sensor and of those in the same water. */
export async function readingsSay(
  context: Pick<Context, 'store' | 'hub' | 'now'>,
  fitted: FittedLoop,
  house: Pick<HouseKnowledge<FittedLoop>, 'all' | 'pastOf'>,
): Promise<HealthChecks> {
  const { store, hub, now } = context;
  const nowMs = now();
  const from = new Date(nowMs - USUAL_DAYS * MS_PER_DAY).toISOString();
  const to = new Date(nowMs).toISOString();
  const beside = [fitted, ...house.all.filter((f) => inSameWater(fitted.loop, f.loop))].map((f) => ({
    f,
    past: house.pastOf(f),
  }));
  // All at once: each question by itself may wait behind others.
  const [backMs, ...minutes] = await Promise.all([
    backInWater(context),
    ...beside.map(({ f, past }) =>
      isKnownHere(past) ? store.readMinutesAlike(f.channel.id, from, to, LIKE_HOURS) : Promise.resolve([]),
    ),
  ]);
  const [readingMoved, ...twins] = beside.map(({ f, past }, i) => {
    if (!isKnownHere(past)) return null;
    const back = backMs(f.sensor.id);
    // What the channel gave before was another sensor's.
    const own = minutes[i]!.filter((m) => Date.parse(m.minute) >= (f.sensor.fittedMs ?? -Infinity));
    const inForceAt = coefficientsInForce(ofSensor(past.finished), past.atFit);
    return movedNow(f, own, livelyOf(hub, f, back), back, inForceAt, nowMs);
  });
  return {
    readingMoved: readingMoved ?? null,
    twins: twins.flatMap((t) => t ?? []),
  };
}
