import { House, ofSensor, sharingWater } from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';

/** All sensors that are fitted, with what they have been through. */
export async function readHouse({
  store,
  fleets,
  beside,
  now,
}: Pick<Context, 'store' | 'fleets' | 'beside' | 'now'>): Promise<House<FittedLoop>> {
  const [all, outcomes, services] = await Promise.all([
    store.readFittedLoops(),
    store.readOutcomes(),
    store.readAllServices(),
  ]);
  // One that has had no run is no yardstick, nor does it keep its fellows from being held beside each other.
  const ran = new Set(ofSensor(outcomes).map((r) => r.sensorId));
  const besides = await Promise.all(
    sharingWater(all.filter((f) => ran.has(f.sensor.id))).map(async (group) => ({
      group,
      days: await beside.daysOf(store, group, now()),
    })),
  );
  return new House(all, outcomes, services, fleets, besides);
}
