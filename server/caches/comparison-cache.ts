import { MS_PER_DAY, type DayBeside, type Fitted } from '@frustum/core';
import type { Store } from '../store/commands/index.ts';

/** Sensors in the same water are compared as far back as the cones of Margins show. */
const BACK_DAYS = 125;
/** The last days may still get readings, and are read again each time. */
const GROWING_DAYS = 2;

/** The mean of a day that is not over moves slowly: it is read again after so long, ms. */
const GOOD_FOR_MS = 600_000;

/** What sensors in the same water gave on the same days. Days that are over are read once. */
export class ComparisonCache {
  private readonly kept = new Map<
    string,
    { readonly fromMs: number; readonly readAtMs: number; readonly days: readonly DayBeside[] }
  >();

  /** Days on which all of a group gave something in their water, oldest first. */
  async daysOf(
    store: Pick<Store, 'readDaysBeside'>,
    group: readonly Fitted[],
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
