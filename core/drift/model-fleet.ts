import {
  type FigureFleet,
  type Fleet,
  type Member,
  foretellsBetter,
  ofFleet,
  type PoolProgress,
  searching,
  tellingOf,
  withCleanings,
} from './pool.ts';

/** A model needs so many sensors with two runs or more before anything is learned of it, and so many runs. Our own choice. */
const LEAST_SENSORS = 4;
const LEAST_RUNS = 24;

/**
 * One fleet within another: how a model of this house differs from its family, on top of how the house does.
 *
 * @param house how the house's sensors of the family differ from what is known of it
 * @param model how the sensors of a model differ from those of the house
 * @example within(NO_FLEET, NO_FLEET).zero.walk // 1
 */
export const within = (house: Fleet, model: Fleet): Fleet => ({
  zero: figureWithin(house.zero, model.zero),
  sensitivity: figureWithin(house.sensitivity, model.sensitivity),
  pace: house.pace * model.pace,
  sensors: house.sensors,
  runs: house.runs,
  ofModel: { sensors: model.sensors, runs: model.runs },
});

const figureWithin = (house: FigureFleet, model: FigureFleet): FigureFleet => ({
  walk: house.walk * model.walk,
  rateSd: house.rateSd * model.rateSd,
  memory: house.memory * model.memory,
  jumps: house.jumps * model.jumps,
  jumpSize: house.jumpSize * model.jumpSize,
  firstSpread: house.firstSpread * model.firstSpread,
  // The model's rates are in what the house's spread by.
  rate: house.rate + house.rateSd * model.rate,
  first: house.first + house.rateSd * model.first,
  // So is what a cleaning moves, in what that spreads by.
  cleaned: house.cleaned + house.cleanedSpread * model.cleaned,
  cleanedSpread: house.cleanedSpread * model.cleanedSpread,
});

/**
 * Learns how the sensors of one model differ from all of their family in this house; null where there are too few of them, or
 * where what one half teaches does not foretell the other half better than the house does: then they are as all others are.
 *
 * @param members sensors of the model
 * @param house what is learned from all sensors of the family
 * @yields how far it is
 */
export function* poolingModel(members: readonly Member[], house: Fleet): Generator<PoolProgress, Fleet | null> {
  const telling = tellingOf(members);
  const runs = telling.reduce((sum, m) => sum + m.history.length, 0);
  if (telling.length < LEAST_SENSORS || runs < LEAST_RUNS) return null;
  const mine = telling.map((m): Member => ({ ...m, prior: ofFleet(m.prior, house) }));
  if (!(yield* foretellsBetter(telling, house))) return null;
  return within(house, withCleanings(yield* searching(mine), mine));
}
