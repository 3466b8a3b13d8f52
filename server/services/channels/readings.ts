import {
  MS_PER_DAY,
  AS_OWN,
  familyOf,
  modelOf,
  Refusal,
  signalOfReading,
  type SensorId,
  bySensor,
  resolutionOf,
  writtenIn,
} from '@frustum/core';
import { isMoment, unitOf, type ReadingAt, type ReadingBucket, type ReadingsView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { MinuteRecord } from '../../store/commands/readings.ts';
import { Slices } from '../../slices.ts';
import { conditionsOver, inForceAtOf, inHouse, shownBy, sinceOf } from './shown.ts';

const MINUTE_MS = 60_000;
/** Buckets that a chart can show. */
const MAX_BUCKETS = 600;
const MAX_DAYS = 400;

/** Keeps finished minutes, and says of each whether its sensor was at the bench then. */
export async function keepReadings(
  { store }: Context,
  minutes: readonly Omit<MinuteRecord, 'onBench'>[],
): Promise<void> {
  const first = minutes.map((m) => m.minute).sort()[0];
  if (first === undefined) return;
  const [fitted, times] = await Promise.all([store.readFittedLoops(), store.readBenchTimes(first)]);
  const sensorOf = new Map(fitted.map((f) => [f.channel.id, f.sensor.id]));
  const timesOf = bySensor(times);
  const benched = (sensorId: SensorId, minute: string) => {
    const [from, to] = [Date.parse(minute), Date.parse(minute) + MINUTE_MS];
    return (timesOf.get(sensorId) ?? []).some(
      (t) => Date.parse(t.fromAt) < to && (t.toAt === null || Date.parse(t.toAt) >= from),
    );
  };
  await store.keepMinutes(
    minutes.flatMap((m) => {
      const sensorId = sensorOf.get(m.channelId);
      return sensorId === undefined ? [] : [{ ...m, onBench: benched(sensorId, m.minute) }];
    }),
  );
}

/** A sample may be this far from the next reading that was kept, min. */
const NEAREST_MINUTES = 10;

/**
 * The reading at the moment of a sample, as the sensor's signal: from the minutes that were recorded.
 *
 * @throws Refusal `sensor-unknown`, `no-reading-then`
 */
export async function readingAt(context: Context, sensorId: SensorId, at: string): Promise<ReadingAt> {
  const { store } = context;
  const { house, fitted } = await inHouse(context, sensorId);
  const ms = Date.parse(at);
  const iso = (shift: number) => new Date(ms + shift * MINUTE_MS).toISOString();
  const minutes = isMoment(at)
    ? await store.readMinutes(fitted.channel.id, iso(-NEAREST_MINUTES), iso(NEAREST_MINUTES))
    : [];
  const nearest = minutes
    .filter((m) => !m.onBench && Date.parse(m.minute) >= sinceOf(fitted))
    .sort((a, b) => Math.abs(Date.parse(a.minute) - ms) - Math.abs(Date.parse(b.minute) - ms))[0];
  if (!nearest)
    throw new Refusal(
      'no-reading-then',
      `No reading of ${fitted.loop.name} was kept within ${NEAREST_MINUTES} minutes of then. Type the value that was noted, or draw a new sample.`,
      { at },
    );
  const inForce = inForceAtOf(house, fitted)(ms);
  const model = modelOf(familyOf(fitted.loop.family), fitted.loop.settings);
  const unit = unitOf(fitted.channel.config);
  const given = (await conditionsOver(store, house, fitted, nearest.minute, iso(NEAREST_MINUTES)))(nearest.minute);
  const signal = (reading: number) =>
    signalOfReading(model, reading, unit, { temperatureC: nearest.temperatureC, ...given }, inForce);
  const spread = Math.abs(signal(nearest.high) - signal(nearest.low)) / 2;
  return {
    at: nearest.minute,
    signal: signal(nearest.mean),
    signalUncertainty: Math.max(spread, resolutionOf(fitted)),
    temperatureC: nearest.temperatureC,
  };
}

interface Bucket {
  count: number;
  sum: number;
  sumC: number;
  low: number;
  high: number;
  bench: boolean;
}

/** Minutes summed into buckets of one width, in slices; left half done once nobody waits for it. */
async function inBuckets(
  minutes: readonly MinuteRecord[],
  width: number,
  shown: (reading: number, minute: MinuteRecord) => number | null,
  gone: () => boolean,
): Promise<ReadonlyMap<number, Bucket>> {
  const buckets = new Map<number, Bucket>();
  const slices = new Slices();
  for (const m of minutes) {
    if (slices.isOver) {
      await slices.next();
      if (gone()) break;
    }
    const ms = Date.parse(m.minute);
    const at = Math.floor(ms / width) * width;
    const b = buckets.get(at) ?? { count: 0, sum: 0, sumC: 0, low: Infinity, high: -Infinity, bench: false };
    const [mean, one, other] = [m.mean, m.low, m.high].map((s) => shown(s, m));
    // In air a salinity, a resistivity is none.
    if (mean == null || one == null || other == null) continue;
    b.count += m.count;
    b.sum += mean * m.count;
    b.sumC += m.temperatureC * m.count;
    // More millivolts are less pH: the ends may change places.
    b.low = Math.min(b.low, one, other);
    b.high = Math.max(b.high, one, other);
    b.bench ||= m.onBench;
    buckets.set(at, b);
  }
  return buckets;
}

/**
 * What a sensor's channel showed over the last days, as its coefficients were at the time.
 *
 * @param asWritten in the scale of its instrument; else in the family's own unit
 * @param gone whether nobody waits for it any more: then it is left half done
 * @throws Refusal `sensor-unknown`, `out-of-range`
 */
export async function readReadings(
  context: Context,
  sensorId: SensorId,
  days: number,
  asWritten = false,
  gone: () => boolean = () => false,
): Promise<ReadingsView> {
  if (!(days >= 1 && days <= MAX_DAYS))
    throw new Refusal('out-of-range', `Ask for 1 to ${MAX_DAYS} days.`, { value: days, low: 1, high: MAX_DAYS });
  const { store, now } = context;
  const { house, fitted } = await inHouse(context, sensorId);
  const toMs = now();
  const fromMs = toMs - days * MS_PER_DAY;
  // What the channel gave before this sensor came is another sensor's.
  const ownMs = Math.max(fromMs, sinceOf(fitted));
  const minutes =
    ownMs < toMs
      ? await store.readMinutes(fitted.channel.id, new Date(ownMs).toISOString(), new Date(toMs).toISOString())
      : [];
  const own = await shownBy(context, house, fitted, fromMs, toMs);
  const family = familyOf(fitted.loop.family);
  const model = modelOf(family, fitted.loop.settings);
  const written = writtenIn(family, model, asWritten ? fitted.loop : { ...fitted.loop, shownAs: AS_OWN });
  const shown = (reading: number, minute: MinuteRecord) => {
    const value = own(reading, minute);
    return value === null ? null : written.exact(value, { temperatureC: minute.temperatureC });
  };
  const width = Math.max(1, Math.ceil((days * MS_PER_DAY) / MINUTE_MS / MAX_BUCKETS)) * MINUTE_MS;
  const buckets = await inBuckets(minutes, width, shown, gone);
  const round = (value: number) => Number(value.toPrecision(7));
  return {
    unit: written.unit,
    widthMs: width,
    fromMs,
    toMs,
    buckets: [...buckets].map(([atMs, b]): ReadingBucket => ({
      atMs,
      mean: round(b.sum / b.count),
      low: round(b.low),
      high: round(b.high),
      temperatureC: round(b.sumC / b.count),
      onBench: b.bench,
    })),
  };
}
