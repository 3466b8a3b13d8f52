import { foundInBuffers, houseBodies, TIDEWATER, truthOf } from '@frustum/sim';

const SEED = 4870;

/** The whole truth of a body of the house, whatever hangs on it. */
export const truthOfBody = (key: string) => houseBodies(SEED).find((b) => b.key === key)!.truth;

/** What the simulator knows of a probe and never tells: the judge of what the screen says. */
export function hiddenTruth(loopName: string): { zeroMv: number; slope: number } {
  const house = TIDEWATER.find((h) => h.name === loopName);
  if (!house) throw new Error(`no loop ${loopName} in the house`);
  return foundInBuffers(truthOf(house, SEED), 'ph');
}
