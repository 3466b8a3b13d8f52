import { HouseKnowledge, ofSensor, sharingWater } from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';

/** What sensors in the same water gave beside each other is read again after so long, ms; all else when it changes. */
const GOOD_FOR_MS = 600_000;

/** All sensors that are fitted, with what they have been through; read once for each state of the house. */
export const readHouse = (context: Context): Promise<HouseKnowledge<FittedLoop>> =>
  context.house.read(context.marks.at(context.now(), GOOD_FOR_MS, context.clock.doubt !== null), () => made(context));

async function made({ store, fleets, beside, now }: Context): Promise<HouseKnowledge<FittedLoop>> {
  const [all, outcomes, services, notices] = await Promise.all([
    store.readFittedLoops(),
    store.readOutcomes(),
    store.readAllServices(),
    store.readAllNotices(),
  ]);
  // Sensors without a run are left out of comparisons, and do not keep the others from being compared.
  const ran = new Set(ofSensor(outcomes).map((r) => r.sensorId));
  const besides = await Promise.all(
    sharingWater(all.filter((f) => ran.has(f.sensor.id))).map(async (group) => ({
      group,
      days: (await beside.daysOf(store, group, now())).filter((d) => d.atMs >= sinceOf(group)),
    })),
  );
  return new HouseKnowledge(all, outcomes, services, fleets, besides, notices);
}

/** Since when the youngest of a group is where it is, epoch ms: before that their channels gave another sensor's figures. */
const sinceOf = (group: readonly FittedLoop[]) => Math.max(...group.map((f) => f.sensor.fittedMs ?? -Infinity));
