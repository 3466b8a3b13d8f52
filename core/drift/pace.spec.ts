import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import { cone } from './cone.ts';
import { type Observation } from './history.ts';
import { atLikeliestPace, filteredAtPaces, pacesOf } from './pace.ts';
import type { Member } from './pool.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { searched } from '../testing/searched.ts';
import { withFigures } from '../testing/with-figures.ts';

const SEED = 7;
const working = { model: modelOf(familyOf('ph')), value: 5.8, temperatureC: 22 };

/** Runs every 30 days of a zero that runs in by so many mV, in so many days; the noise is drawn. */
function runningIn(mV: number, days: number, dice: ReturnType<typeof seededChance>, runs = 10): Observation[] {
  const start = 3 * dice.normal();
  return Array.from({ length: runs }, (_, i): Observation => {
    const gone = -Math.expm1((-30 * i) / days);
    const found = { zero: start + mV * gone + 0.4 * dice.normal(), sensitivity: 0.97 + 0.003 * dice.normal() };
    return {
      atMs: 30 * i * MS_PER_DAY,
      kind: 'calibration',
      found,
      covariance: [
        [0.16, 0],
        [0, 9e-6],
      ],
      inForceAfter: found,
      cleaned: false,
    };
  });
}

describe(`paces (seed ${SEED})`, () => {
  // As a house would know it: zeros run in by −12 ±2 mV in about 90 days, some twice as fast as that, some half.
  const figures = { firstRate: -12 / 90, firstRateSd: 2 / 90, rateSd: 0.005, walk: 0.02, memoryDays: 90 };
  const prior = { ...withFigures(PH_PRIOR, figures), paceSd: Math.log(2), steadyShare: 0 };

  it('a slow and a quick one have the spread that is asked for, and their rates and memories go together', () => {
    const [slow, quick] = pacesOf(prior).map((p) => p.prior);
    expect(quick!.zero.memoryDays).toBeCloseTo(45, 9);
    expect(slow!.zero.memoryDays).toBeCloseTo(180, 9);
    // However fast, it runs in as far.
    for (const p of [slow!, quick!]) expect(p.zero.firstRate * p.zero.memoryDays).toBeCloseTo(-12, 9);
    expect(pacesOf({ ...prior, paceSd: 0 })).toEqual([{ chance: 1, prior: { ...prior, paceSd: 0 } }]);
  });

  it('some runs tell the quick from the slow; at the first one nobody knows', () => {
    const dice = seededChance(SEED);
    for (const [days, is] of [
      [45, 1],
      [180, 0],
    ] as const) {
      const history = runningIn(-12, days, dice);
      const paces = filteredAtPaces(history, prior);
      expect(paces[is]!.chances[0]).toBeCloseTo(0.5, 1);
      expect(paces[is]!.chances.at(-1)).toBeGreaterThan(0.95);
      expect(atLikeliestPace(prior, history).zero.memoryDays).toBeCloseTo(days, 6);
    }
  });

  it('before it is known both may be: the forecast lies between them and is wider than either', () => {
    const [first] = runningIn(-12, 90, seededChance(SEED));
    const at = (p: FamilyPrior) => cone([first!], p, working, 0).errorAt!(60 * MS_PER_DAY);
    const both = at(prior);
    const [slow, quick] = pacesOf(prior).map((p) => at(p.prior));
    expect(both.mean).toBeCloseTo((slow!.mean + quick!.mean) / 2, 3);
    expect(Math.abs(slow!.mean - quick!.mean)).toBeGreaterThan(0.04);
    expect(both.half95).toBeGreaterThan(Math.max(slow!.half95, quick!.half95));
  });

  it('a house whose sensors live at different paces is told from one in which all run in alike', () => {
    const house = (spread: number) => {
      const dice = seededChance(SEED);
      return Array.from({ length: 20 }, (): Member => {
        const days = 70 * Math.exp(spread * dice.normal());
        return { prior: PH_PRIOR, history: runningIn(-14, days, dice) };
      });
    };
    const [alike, apart] = [searched(house(0)).pace, searched(house(0.7)).pace];
    expect(apart).toBeGreaterThan(1.3 * alike);
  });
});
