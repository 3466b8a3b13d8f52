import { lifeOf, TIDEWATER, truthAt, type ProbeTruth } from '@frustum/sim';

const SEED = 4870;

/** What the simulator knows of a probe and never tells: the judge of what the screen says. */
export function hiddenTruth(loopName: string): ProbeTruth {
  const house = TIDEWATER.find((h) => h.name === loopName);
  if (!house) throw new Error(`no loop ${loopName} in the house`);
  const { life, seed } = lifeOf(house, SEED);
  return truthAt(life, house.ageDays, seed);
}
