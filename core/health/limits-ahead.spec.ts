import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
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
