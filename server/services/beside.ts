import {
  MS_PER_DAY,
  modelOf,
  familyOf,
  signalOfReading,
  unlessRefused,
  type Coefficients,
  type Comparison,
} from '@frustum/core';
import { unitOf } from '@frustum/contract';
import type { FittedLoop } from '../store/commands/places.ts';
import type { DayBeside } from '../store/commands/readings.ts';
import type { Store } from '../store/commands/index.ts';

/** So far back sensors in the same water are held beside each other: as far as the cones of Margins go. */
const BACK_DAYS = 125;
/** The last days may still grow. */
const GROWING_DAYS = 2;

/** Loops of one family at one place with the same working value and temperature are taken to hang in the same water. */
export const inSameWater = (a: FittedLoop, b: FittedLoop) =>
  a.sensor.id !== b.sensor.id && waterOf(a) !== null && waterOf(a) === waterOf(b);

/** What water a sensor hangs in; null = nobody has said where it is. */
const waterOf = ({ siteName, loop: { place, family, workingValue, workingC } }: FittedLoop) =>
  place === '' ? null : JSON.stringify([siteName, place, family, workingValue, workingC]);

/** Sensors that share their water: two at least in each list. */
export function sharingWater(all: readonly FittedLoop[]): readonly (readonly FittedLoop[])[] {
  const by = new Map<string, FittedLoop[]>();
  for (const fitted of all) {
    const water = waterOf(fitted);
    if (water === null) continue;
    by.set(water, [...(by.get(water) ?? []), fitted]);
  }
  return [...by.values()].filter((g) => g.length > 1).map((g) => g.slice(0, MOST_BESIDE));
}
/** More of them tell no more. */
const MOST_BESIDE = 4;

/** The mean of a day that is not over moves slowly: it is read again after so long, ms. */
const GOOD_FOR_MS = 600_000;

/** What sensors in the same water gave on the same days. Days that are over are read once. */
export class Beside {
  private readonly kept = new Map<
    string,
    { readonly fromMs: number; readonly readAtMs: number; readonly days: readonly DayBeside[] }
  >();

  /** Days on which all of a group gave something in their water, oldest first. */
  async daysOf(
    store: Pick<Store, 'readDaysBeside'>,
    group: readonly FittedLoop[],
    nowMs: number,
  ): Promise<readonly DayBeside[]> {
    const ids = group.map((f) => f.channel.id);
    const key = ids.join();
    const startMs = MS_PER_DAY * Math.floor(nowMs / MS_PER_DAY - BACK_DAYS);
    const growsMs = MS_PER_DAY * Math.floor(nowMs / MS_PER_DAY - GROWING_DAYS);
    const known = this.kept.get(key);
    const age = known ? nowMs - known.readAtMs : Infinity;
    if (known && age >= 0 && age < GOOD_FOR_MS) return known.days;
    const old = known?.days.filter((d) => d.atMs >= startMs && d.atMs < known.fromMs) ?? [];
    const fromMs = known?.fromMs ?? startMs;
    const fresh = await store.readDaysBeside(ids, new Date(fromMs).toISOString(), new Date(nowMs).toISOString());
    const days = [...old, ...fresh];
    this.kept.set(key, { fromMs: growsMs, readAtMs: nowMs, days });
    return days;
  }
}

/**
 * Days beside each other as the drift engine takes them: in signals.
 *
 * @param inForceAt what each channel reckoned with at a moment, in the order of the group
 * @param breaks moments of runs: what was given on their days is left out
 */
export function comparedOn(
  days: readonly DayBeside[],
  group: readonly FittedLoop[],
  inForceAt: readonly ((ms: number) => Coefficients)[],
  breaks: readonly number[],
): Comparison[] {
  const busy = new Set(breaks.map((ms) => Math.floor(ms / MS_PER_DAY)));
  return days.flatMap(({ atMs, given }): Comparison[] => {
    if (busy.has(Math.floor(atMs / MS_PER_DAY))) return [];
    const signals = unlessRefused(() =>
      group.map(({ loop, channel }, i) => {
        const { mean, temperatureC } = given[i]!;
        const model = modelOf(familyOf(loop.family), loop.settings);
        const signal = signalOfReading(model, mean, unitOf(channel.config), temperatureC, inForceAt[i]!(atMs));
        return { signal, temperatureC };
      }),
    );
    return signals ? [{ atMs, given: signals }] : [];
  });
}
