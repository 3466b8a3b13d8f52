import type { Comparison } from '../drift/together.ts';
import { familyOf } from '../families/registry.ts';
import type { Fitted } from './fitted.ts';
import { waterOf } from './links.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { signalOfReading } from '../sensor/channel-reading.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';

/** What several channels gave on one day, over the minutes in which all of them gave something and none was at the bench. */
export interface DayBeside {
  /** middle of those minutes, epoch ms */
  readonly atMs: number;
  /** in the order asked */
  readonly given: readonly { readonly mean: number; readonly temperatureC: number }[];
}

/** Sensors that share their water: two at least in each list. */
export function sharingWater<F extends Fitted>(all: readonly F[]): readonly (readonly F[])[] {
  const by = new Map<string, F[]>();
  for (const fitted of all) {
    const water = waterOf(fitted.loop);
    if (water === null) continue;
    by.set(water, [...(by.get(water) ?? []), fitted]);
  }
  return [...by.values()].filter((g) => g.length > 1).map((g) => g.slice(0, MAX_BESIDE));
}
/** More of them tell no more. */
const MAX_BESIDE = 4;

/**
 * Days beside each other as the drift engine takes them: in signals.
 *
 * @param inForceAt what each channel reckoned with at a moment, in the order of the group
 * @param breaks moments of runs: what was given on their days is left out
 */
export function comparedOn(
  days: readonly DayBeside[],
  group: readonly Fitted[],
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
        const signal = signalOfReading(model, mean, channel.reads.unit, { temperatureC }, inForceAt[i]!(atMs));
        return { signal, temperatureC };
      }),
    );
    return signals ? [{ atMs, given: signals }] : [];
  });
}
