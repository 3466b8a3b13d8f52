import { describe, expect, it } from 'vitest';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import { searched } from '../testing/searched.ts';
import { withFigures } from '../testing/with-figures.ts';
import type { Observation } from './history.ts';
import { poolingModel, within } from './model-fleet.ts';
import { type Fleet, type Member, NO_FLEET, ofFleet, unlikelihood } from './pool.ts';

const SEED = 20_261_203;
const PRIOR = withFigures(PH_PRIOR, { jumpsPerYear: 0.005 }, { jumpsPerYear: 0.005 });
const SENSORS = 8;

/** Sensors that walk so many times as much as the family is known to, and fall by so many mV a month: a plain random walk. */
function sensors(
  dice: ReturnType<typeof seededChance>,
  { times, perMonth }: { times: number; perMonth: number },
): Member[] {
  return Array.from({ length: SENSORS }, () => {
    let zero = 5 * dice.normal();
    const history = Array.from({ length: 8 }, (_, i): Observation => {
      if (i > 0) zero += perMonth + times * PH_PRIOR.zero.walk * Math.sqrt(30) * dice.normal();
      const found = { zero: zero + 0.5 * dice.normal(), sensitivity: 0.97 + 0.003 * dice.normal() };
      return { atMs: 30 * i * MS_PER_DAY, kind: 'calibration', found, covariance: [[0.25, 0], [0, 9e-6]], inForceAfter: found, cleaned: false }; // prettier-ignore
    });
    return { prior: PRIOR, history };
  });
}

function learned(members: readonly Member[], house: Fleet): Fleet | null {
  const search = poolingModel(members, house);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}

/** How much better a fleet foretells sensors that taught nothing than another does. */
const gain = (left: readonly Member[], fleet: Fleet, over: Fleet) => {
  const by = (f: Fleet) => unlikelihood(left.map((m) => ({ ...m, prior: ofFleet(m.prior, f) })));
  return by(over) - by(fleet);
};

describe(`what a model teaches (seed ${SEED})`, () => {
  const dice = seededChance(SEED);

  it('two models of one family that live apart are told apart: each foretells a new one of its own better than the house does', () => {
    const kinds = [
      { times: 0.3, perMonth: -2.5 },
      { times: 3, perMonth: 0 },
    ];
    const models = kinds.map((kind) => sensors(dice, kind));
    const house = searched(models.flat());
    for (const [i, kind] of kinds.entries()) {
      const own = learned(models[i]!, house)!;
      expect(own.ofModel).toEqual({ sensors: SENSORS, runs: 8 * SENSORS });
      expect(gain(sensors(dice, kind), own, house)).toBeGreaterThan(2);
    }
  });

  it('models that are alike stay with their house, or lose next to nothing by leaving it', () => {
    const kind = { times: 1, perMonth: -1 };
    const [one, other] = [sensors(dice, kind), sensors(dice, kind)];
    const house = searched([...one, ...other]);
    for (const model of [one, other]) {
      const own = learned(model, house);
      if (own) expect(gain(sensors(dice, kind), own, house)).toBeGreaterThan(-2.5);
    }
  });

  it('too few say nothing, however different they are', () => {
    const few = sensors(dice, { times: 4, perMonth: -9 });
    expect(learned(few.slice(0, 3), NO_FLEET)).toBeNull();
    expect(
      learned(
        few.slice(0, 5).map((m) => ({ ...m, history: m.history.slice(0, 4) })),
        NO_FLEET,
      ),
    ).toBeNull();
  });

  it('one fleet within another is the prior of one taken by the other', () => {
    const figure = {
      walk: 2,
      rateSd: 3,
      memory: 0.5,
      jumps: 4,
      jumpSize: 0.7,
      firstSpread: 1.5,
      rate: -0.4,
      first: 0.3,
      cleaned: -0.6,
      cleanedSpread: 1.4,
    };
    const [house, model] = [0.5, 2].map((by): Fleet => ({ zero: { ...figure, rate: by }, sensitivity: { ...figure, walk: by }, pace: by, sensors: 9, runs: 90 })) as [Fleet, Fleet]; // prettier-ignore
    const once = ofFleet(PH_PRIOR, within(house, model));
    const twice = ofFleet(ofFleet(PH_PRIOR, house), model);
    for (const of of ['zero', 'sensitivity'] as const)
      for (const [key, value] of Object.entries(twice[of]))
        expect(once[of][key as keyof typeof once.zero], `${of}.${key}`).toBeCloseTo(value as number, 12);
    expect(once.paceSd).toBeCloseTo(twice.paceSd, 12);
  });
});
