import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { forecastDue } from '../scheduling/forecast.ts';
import { seededChance } from '../statistics/chance.ts';
import { chanceBeyond } from '../statistics/mixture.ts';
import { minimise } from '../statistics/descent.ts';
import { cone } from './cone.ts';
import { type Observation } from './history.ts';
import { NO_FLEET, ofFleet, pooling, poolOf, type Member } from './pool.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { searched } from '../testing/searched.ts';
import { withFigures } from '../testing/with-figures.ts';

const SEED = 31;

/** A fleet that wanders so many times as much as the family is known to, by a plain random walk. */
function fleet(times: number, ratePerDay = 0, sensors = 25): Member[] {
  const dice = seededChance(SEED);
  return Array.from({ length: sensors }, () => {
    let zero = 5 * dice.normal();
    let sensitivity = 0.97 + 0.01 * dice.normal();
    const history = Array.from({ length: 12 }, (_, i): Observation => {
      if (i > 0) {
        zero += 30 * ratePerDay + times * PH_PRIOR.zero.walk * Math.sqrt(30) * dice.normal();
        sensitivity += PH_PRIOR.sensitivity.walk * Math.sqrt(30) * dice.normal();
      }
      const found = { zero: zero + 0.5 * dice.normal(), sensitivity: sensitivity + 0.003 * dice.normal() };
      return {
        atMs: 30 * i * MS_PER_DAY,
        kind: 'calibration',
        found,
        covariance: [
          [0.25, 0],
          [0, 9e-6],
        ],
        inForceAfter: found,
        cleaned: false,
      };
    });
    return { prior: withFigures(PH_PRIOR, { jumpsPerYear: 0.005 }, { jumpsPerYear: 0.005 }), history };
  });
}

describe(`pooling (seed ${SEED})`, () => {
  it('a house whose probes wander more gets wider cones, one that is calm narrower ones', () => {
    const wild = searched(fleet(4, 0, 10));
    const calm = searched(fleet(0.25, 0, 10));
    // The walk of a month is 4 × 0.25 × √30 = 5.5 mV: some of it may be called rate.
    expect(wild.zero.walk).toBeGreaterThan(2.2);
    expect(calm.zero.walk).toBeLessThan(0.6);
    expect(wild.sensitivity.walk).toBeGreaterThan(0.5);
    expect(wild.sensitivity.walk).toBeLessThan(2);
    expect(wild).toMatchObject({ sensors: 10, runs: 120 });
  });

  it('three small houses of zeros that go straight: next to none of their noise is taken for rates that vary, and never none (seeds 1 to 3)', () => {
    const straight = (seed: number) => {
      const dice = seededChance(seed);
      return Array.from({ length: 8 }, (): Member => {
        const [zero, rate] = [4 * dice.normal(), 0.05 * dice.normal()];
        const [calm] = fleet(0, 0, 1);
        const history = calm!.history.slice(0, 8).map((o, i) => {
          const found = { zero: zero + 30 * i * rate + 0.5 * dice.normal(), sensitivity: 0.97 + 0.003 * dice.normal() };
          return { ...o, found, inForceAfter: found };
        });
        return { ...calm!, history };
      });
    };
    const varies = [1, 2, 3].map((seed) => searched(straight(seed)).zero.rateSd);
    expect(Math.max(...varies)).toBeLessThan(0.5);
    // What eight sensors cannot tell from nothing is not believed to be nothing.
    expect(Math.min(...varies)).toBeGreaterThan(0.02);
  });

  it('takes nothing up that does not foretell those that were left out: of a house in two halves that live apart', () => {
    const [wild, calm] = [fleet(4, 0, 3), fleet(0.25, 0, 3)];
    const both = poolOf(wild.flatMap((m, i) => [m, calm[i]!]));
    expect(both).toEqual({ ...NO_FLEET, sensors: 6, runs: 72 });
    expect(poolOf(wild).zero.walk).toBeGreaterThan(1.05);
  });

  it('learns where they all go', () => {
    const prior = ofFleet(PH_PRIOR, searched(fleet(1, -0.08, 10)));
    expect(prior.zero.rate).toBeLessThan(-0.04);
    expect(prior.zero.rate).toBeGreaterThan(-0.12);
  });

  it('zero and sensitivity settle each at its own pace: a zero that goes on for ever, a slope that has run in', () => {
    const dice = seededChance(SEED);
    const members = Array.from({ length: 14 }, (): Member => {
      const [rate, lost] = [0.06 * dice.normal(), 0.03 * dice.normal()];
      const [calm] = fleet(0, 0, 1);
      const history = calm!.history.map((o, i) => {
        const found = {
          zero: 30 * i * rate + 0.5 * dice.normal(),
          sensitivity: 0.97 - lost * -Math.expm1((-30 * i) / 60) + 0.003 * dice.normal(),
        };
        return { ...o, found, inForceAfter: found };
      });
      return { ...calm!, history };
    });
    const learned = ofFleet(PH_PRIOR, searched(members));
    expect(learned.zero.memoryDays).toBeGreaterThan(500);
    expect(learned.sensitivity.memoryDays).toBeGreaterThan(30);
    expect(learned.sensitivity.memoryDays).toBeLessThan(120);
  });

  it('says nothing of its own where there is nothing to learn from, and can be stopped on the way', () => {
    expect(poolOf(fleet(1).map((m) => ({ ...m, history: m.history.slice(0, 1) })))).toEqual(NO_FLEET);
    expect(ofFleet(PH_PRIOR, NO_FLEET)).toEqual(PH_PRIOR);
    const search = pooling(fleet(1));
    for (let i = 0; i < 5; i++) search.next();
    const { value, done } = search.next();
    expect(done).toBe(false);
    expect(value).toMatchObject({ fleet: { sensors: 25 } });
  });
});

describe('the descent', () => {
  it('finds the foot of a bent valley (Rosenbrock 1960), whose place is known', () => {
    const found = minimise(([x, y]) => (1 - x!) ** 2 + 100 * (y! - x! ** 2) ** 2, [-1.2, 1], 1e-12);
    expect(found.at[0]).toBeCloseTo(1, 2);
    expect(found.at[1]).toBeCloseTo(1, 2);
    // With a coarse tolerance a wrong curvature is no reason to stop: from here it once did, at 0.43.
    expect(minimise(([x, y]) => (1 - x!) ** 2 + 100 * (y! - x! ** 2) ** 2, [-1, -1], 0.5).value).toBeLessThan(0.1);
  });
});

describe('the due date of the forecast', () => {
  const working = { model: modelOf(familyOf('ph')), value: 5.8, temperatureC: 22 };
  const [one] = fleet(1);
  const made = cone(one!.history, PH_PRIOR, working, 0);
  const last = one!.history.at(-1)!.atMs;

  it('is the day on which the chance of being outside reaches what is borne', () => {
    const due = forecastDue(made.errorAt, last, 0.1);
    const chance = chanceBeyond(made.errorAt!(due.atMs!), 0.1);
    expect(chance).toBeGreaterThan(0.05);
    expect(chanceBeyond(made.errorAt!(due.atMs! - MS_PER_DAY / 2), 0.1)).toBeLessThan(0.05);
    expect(due.reason).toBe('chance of being outside reaches 5 %');
  });

  it('comes earlier for a tighter tolerance, at once where it is outside already, and not at all for a wide one', () => {
    const at = (tolerance: number) => forecastDue(made.errorAt, last, tolerance).atMs!;
    expect(at(0.05)).toBeLessThan(at(0.1));
    expect(at(0.001)).toBe(last);
    expect(at(5)).toBe(last + 730 * MS_PER_DAY);
    expect(forecastDue(null, null, 0.1)).toEqual({ atMs: null, reason: 'never calibrated' });
  });
});
