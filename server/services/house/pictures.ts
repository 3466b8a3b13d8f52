import { impedanceOf, pictureOf, type HouseKnowledge, type Picture, type SensorId } from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { backInWater, livelyOf } from '../sensors/readings-say.ts';
import { readHouse } from './read-house.ts';

/** A house, and what is believed of each of its sensors. */
export interface Pictures {
  readonly house: HouseKnowledge<FittedLoop>;
  /** made once for each state of the house: everybody who asks gets the same */
  readonly of: (fitted: FittedLoop) => Picture;
}

const made = new WeakMap<HouseKnowledge<FittedLoop>, Pictures>();

/**
 * What is believed of every sensor: Margins, the sensor's page, alarms, gates and due dates are read from it.
 *
 * It rests on runs, services, samples, and on impedances in the water. What the readings of the hour say moves with the hour,
 * and stands beside it on the sensor's page.
 */
export async function readPictures(context: Context): Promise<Pictures> {
  const house = await readHouse(context);
  const known = made.get(house);
  if (known) return known;
  const backMs = await backInWater(context);
  const kept = new Map<SensorId, Picture>();
  const of = (fitted: FittedLoop): Picture => {
    const { id } = fitted.sensor;
    const one = kept.get(id) ?? pictureOf(fitted, house, impedanceOf(livelyOf(context.hub, fitted, backMs(id))));
    kept.set(id, one);
    return one;
  };
  const pictures = { house, of };
  made.set(house, pictures);
  return pictures;
}
