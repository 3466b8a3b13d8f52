import { pictureOf, type HealthChecks, type HouseKnowledge, type Picture, type SensorId } from '@frustum/core';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { backInWater } from '../sensors/readings-say.ts';
import { heardInWater } from './heard.ts';
import { readHouse } from './read-house.ts';

/** A house, and what is believed of each of its sensors. */
export interface Pictures {
  readonly house: HouseKnowledge<FittedLoop>;
  /** made once for each state of the house, and of what its transmitters measure: everybody who asks gets the same */
  readonly of: (fitted: FittedLoop) => Picture;
}

/** An impedance that has moved by less than this share says the same. */
const SAME_SHARE = 0.15;
const alike = (a: number | null | undefined, b: number | null | undefined) =>
  a && b ? Math.abs(Math.log(a / b)) < SAME_SHARE : !b;

/** Do they say the same? What is not heard any more was heard; what readings say stays itself until it is another thing. */
const areAlike = (was: HealthChecks, is: HealthChecks) =>
  alike(was.membraneMohm, is.membraneMohm) &&
  alike(was.referenceKohm, is.referenceKohm) &&
  was.readingMoved === is.readingMoved &&
  was.twins === is.twins;

const made = new WeakMap<HouseKnowledge<FittedLoop>, Pictures>();

/**
 * What is believed of every sensor: Margins, the sensor's page, alarms, gates and due dates are read from it.
 *
 * It rests on runs, services, samples, and on what was heard of the sensor in the water: impedances, and how far the reading and
 * those of its twins have left what they usually are.
 */
export async function readPictures(context: Context): Promise<Pictures> {
  const house = await readHouse(context);
  const known = made.get(house);
  if (known) return known;
  const backMs = await backInWater(context);
  const kept = new Map<SensorId, { readonly said: HealthChecks; readonly picture: Picture }>();
  const of = (fitted: FittedLoop): Picture => {
    const { id } = fitted.sensor;
    const said = heardInWater(context, fitted, house.pastOf(fitted), backMs(id));
    const known = kept.get(id);
    // After a start nothing is live yet: what comes then makes another picture, and so does an impedance that moves.
    if (known && areAlike(known.said, said)) return known.picture;
    const picture = pictureOf(fitted, house, said);
    kept.set(id, { said, picture });
    return picture;
  };
  const pictures = { house, of };
  made.set(house, pictures);
  return pictures;
}
