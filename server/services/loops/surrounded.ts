import {
  conditionsOf,
  familyOf,
  median,
  modelOf,
  reckonsWith,
  unlessRefused,
  valueOfReading,
  type ConditionOfRun,
  type HouseKnowledge,
  type ShownNow,
  type Surrounded,
} from '@frustum/core';
import { staleSecondsOf, unitOf } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { backInWater, livelyOf } from '../sensors/readings-say.ts';

/**
 * What a run of this loop takes its conditions from, if it begins now.
 *
 * @param typed for this run
 * @throws Refusal `out-of-range`
 */
export async function conditionsNow(
  context: Context,
  fitted: FittedLoop,
  house: HouseKnowledge<FittedLoop>,
  typed: Surrounded = {},
): Promise<ConditionOfRun[]> {
  const takes = Object.values(fitted.loop.takes).length > 0;
  const backMs = takes ? await backInWater(context) : () => -Infinity;
  return conditionsOf(fitted, house.all, typed, (giver) =>
    shownNow(context, house, giver as FittedLoop, backMs((giver as FittedLoop).sensor.id)),
  );
}

/** What a loop shows just now, its sensor hanging in its water: what is stale is no reading. */
function shownNow(
  { hub, now }: Context,
  house: HouseKnowledge<FittedLoop>,
  giver: FittedLoop,
  backMs: number,
): ShownNow {
  if (backMs === Infinity) return { because: 'its sensor is at the bench' };
  const limit = staleSecondsOf(giver.channel.config);
  if (limit === null) return { because: 'it is read by hand' };
  const model = modelOf(familyOf(giver.loop.family), giver.loop.settings);
  const { inForce } = reckonsWith(house.pastOf(giver));
  const values = livelyOf(hub, giver, Math.max(backMs, now() - 1000 * limit)).flatMap(
    ({ signal, temperatureC }) =>
      unlessRefused(() => valueOfReading(model, signal, unitOf(giver.channel.config), { temperatureC }, inForce)) ?? [],
  );
  return values.length ? { value: median(values) } : { because: 'it shows nothing just now' };
}
