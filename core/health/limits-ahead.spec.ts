import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { cone } from '../drift/cone.ts';
import { filtered } from '../drift/course.ts';
import type { Observation } from '../drift/history.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { modelOf } from '../sensor/sensor.ts';
import { seededChance } from '../statistics/chance.ts';
import { withFigures } from '../testing/with-figures.ts';
import { electrolyteLeft, limitsAhead } from './limits-ahead.ts';

const { limits } = familyOf('ph');
/** Straight lines a day, with standard deviations that stay. */
const going =
  (zeroADay: number, slopeADay: number, zeroSd = 2, sensitivitySd = 0.01) =>
  (atMs: number) => {
    const days = atMs / MS_PER_DAY;
    return { zero: zeroADay * days, zeroSd, sensitivity: 0.97 + slopeADay * days, sensitivitySd };
  };
const days = (ms: number | null) => (ms === null ? null : ms / MS_PER_DAY);

describe('when a sensor meets its limits', () => {
  it('a zero that falls by 0.1 mV a day meets −30 mV in 300 days, by its spread of 2 mV within 33 days more or less', () => {
    const [one, ...more] = limitsAhead(going(-0.1, 0), limits, 0);
    expect(more).toEqual([]);
    expect(one).toMatchObject({ what: 'zero', limit: -30 });
    // 1.645 · 2 mV / 0.1 mV a day = 32.9 days, looked at every five.
    expect(Math.abs(days(one!.midMs)! - 300)).toBeLessThanOrEqual(5);
    expect(Math.abs(days(one!.earlyMs)! - (300 - 32.9))).toBeLessThanOrEqual(5);
    expect(Math.abs(days(one!.lateMs)! - (300 + 32.9))).toBeLessThanOrEqual(5);
  });

  it('the earliest first; a slope that falls is held against its lower limit', () => {
    const made = limitsAhead(going(0.05, -0.0004), limits, 0);
    expect(made.map((m) => [m.what, m.limit])).toEqual([
      ['sensitivity', 0.85],
      ['zero', 30],
    ]);
    // 12 % at 0.04 % a day
    expect(Math.abs(days(made[0]!.midMs)! - 300)).toBeLessThanOrEqual(5);
  });

  it('one that stands still meets none', () => expect(limitsAhead(going(0, 0), limits, 0)).toEqual([]));

  it('one that is beyond already, and comes back or goes on, is passed now, whichever way the drift goes', () => {
    // 34 mV high and falling by 0.01 mV a day: it is beyond +30, and will never meet −30.
    const high = (ms: number) => ({ ...going(-0.01, 0)(ms), zero: 34 - (0.01 * ms) / MS_PER_DAY });
    expect(limitsAhead(high, limits, 0)[0]).toMatchObject({ what: 'zero', limit: 30, midMs: 0 });
    // A slope of 80 % that rises: below 85 % it is, all the same.
    const low = (ms: number) => ({ ...going(0, 0)(ms), sensitivity: 0.8 + (0.00001 * ms) / MS_PER_DAY });
    expect(limitsAhead(low, limits, 0)[0]).toMatchObject({ what: 'sensitivity', limit: 0.85, midMs: 0 });
    // Of two that are met the nearer one is said.
    const wide = limitsAhead(going(0.2, 0, 200), { ...limits, zero: 30 }, 0).find((l) => l.what === 'zero')!;
    expect(wide.limit).toBe(30);
  });

  it('one that is beyond already meets it now', () => {
    const [one] = limitsAhead((ms) => ({ ...going(0, 0)(ms), sensitivity: 0.7 }), limits, 5 * MS_PER_DAY);
    expect([days(one!.earlyMs), days(one!.midMs)]).toEqual([5, 5]);
  });
});

describe('electrolyte left', () => {
  it('−26.7 mV are 1 mol/kg of 3; half of that in millivolts the geometric mean', () => {
    expect(electrolyteLeft({ value: -26.7, sd: 1 })!.mid).toBeCloseTo(1, 9);
    expect(electrolyteLeft({ value: -13.35, sd: 1 })!.mid).toBeCloseTo(Math.sqrt(3), 9);
    const { low, high } = electrolyteLeft({ value: -26.7, sd: 2 })!;
    expect([low, high]).toEqual([expect.closeTo(0.848, 2), expect.closeTo(1.179, 2)]);
  });

  it('says nothing where the zero has not fallen by more than its uncertainty', () => {
    expect(electrolyteLeft({ value: -3, sd: 2 })).toBeNull();
    expect(electrolyteLeft({ value: 12, sd: 1 })).toBeNull();
  });
});

describe('a glass that wears steadily', () => {
  const SEED = 20_261_206;
  const family = familyOf('ph');
  const working = { model: modelOf(family), value: 7.5, temperatureC: 25 };
  const { sensitivityLow } = family.limits;
  /** 0.028 % of slope a day, from the beginning or from the middle on. */
  const slopeOn = (day: number, from = 0) => 0.975 - 0.00028 * Math.max(0, day - from);
  const limitOf = (runs: number, seed: number, from = 0) => {
    const dice = seededChance(seed);
    const history = Array.from({ length: runs }, (_, i): Observation => {
      const found = { zero: 0.4 * dice.normal(), sensitivity: slopeOn(30 * i, from) + 0.003 * dice.normal() };
      const covariance = [[0.16, 0], [0, 9e-6]] as Observation['covariance']; // prettier-ignore
      return { atMs: 30 * i * MS_PER_DAY, kind: 'calibration', found, covariance, inForceAfter: found, cleaned: false };
    });
    const last = 30 * (runs - 1) * MS_PER_DAY;
    const { expectedAt } = cone(history, family.prior(0.59), working, last);
    const ahead = limitsAhead(expectedAt, family.limits, last).find((l) => l.what === 'sensitivity')!;
    // By arithmetic: 0.975 − 0.00028 d is the limit.
    const truthMs = ((0.975 - sensitivityLow) / 0.00028 + from) * MS_PER_DAY;
    return { ...ahead, last, truthMs };
  };

  it(`is promised neither much too long nor much too short, after 4, 8 and 12 runs (seed ${SEED})`, () => {
    for (const runs of [4, 8, 12])
      for (let k = 0; k < 6; k++) {
        const { earlyMs, midMs, last, truthMs } = limitOf(runs, SEED + k);
        expect(earlyMs!, `${runs} ${k}`).toBeLessThan(truthMs);
        expect(earlyMs! - last).toBeGreaterThan(0.25 * (truthMs - last));
        expect(midMs! - last).toBeLessThan((runs > 4 ? 2 : 3) * (truthMs - last));
      }
  });

  it('that began to wear in the middle of its life is known in time to look at it', () => {
    const { earlyMs, truthMs } = limitOf(12, SEED, 150);
    expect(earlyMs!).toBeLessThan(truthMs);
  });

  it('whose control chart has left its limits: its rate may be any, and is learned anew', () => {
    const runs = Array.from({ length: 26 }, (_, i): Observation => {
      const found = { zero: i < 20 ? 0 : -1.5 * (i - 19), sensitivity: 0.97 };
      const covariance = [[0.04, 0], [0, 9e-6]] as Observation['covariance']; // prettier-ignore
      return { atMs: 30 * i * MS_PER_DAY, kind: 'calibration', found, covariance, inForceAfter: found, cleaned: false };
    });
    const quiet = withFigures(family.prior(0.59), { rateSd: 0.004, firstRateSd: 0.004, walk: 0.03, jumpsPerYear: 0 });
    const [alone, listening] = [false, true].map((byCharts) => filtered(runs, quiet, [], byCharts));
    const off = (course: typeof alone) => course!.slice(-4).reduce((sum, k) => sum + k.standardised[0] ** 2, 0);
    // What comes then is expected: by half as much at least, in standard deviations.
    expect(off(listening)).toBeLessThan(0.25 * off(alone));
    expect(listening!.slice(0, 20).map((k) => k.state)).toEqual(alone!.slice(0, 20).map((k) => k.state));
  });
});
