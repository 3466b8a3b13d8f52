import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import type { Belief } from '../statistics/kalman.ts';
import { filtered } from './course.ts';
import { merged, mayHaveJumped } from './branches.ts';
import { motionOver, priorState, SENSITIVITY, ZERO } from './state.ts';
import { type Observation } from './history.ts';
import { pastOf, widenedBy } from './past.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { withFigures } from '../testing/with-figures.ts';

const SEED = 77;
const belief = (zero: number, zeroVar: number, sensitivity: number, sensitivityVar: number): Belief => ({
  mean: [zero, 0, sensitivity, 0],
  covariance: [zeroVar, 0, 0, 0, 0, 1e-4, 0, 0, 0, 0, sensitivityVar, 0, 0, 0, 0, 1e-8],
});

describe(`branches of what a sensor may have done (seed ${SEED})`, () => {
  it('draws beliefs together to the mean and the covariance of all: as drawing from them does', () => {
    const branches = [
      { chance: 0.5, belief: belief(-2, 1, 0.97, 1e-4) },
      { chance: 0.3, belief: belief(4, 4, 0.95, 4e-4) },
      { chance: 0.2, belief: belief(-9, 0.25, 0.9, 1e-4) },
    ];
    const one = merged(branches);
    const dice = seededChance(SEED);
    const n = 60_000;
    const drawn = Array.from({ length: n }, (_, i) => {
      const share = (i + 0.5) / n;
      const branch = branches[share < 0.5 ? 0 : share < 0.8 ? 1 : 2]!.belief;
      return [0, 2].map((at) => branch.mean[at]! + Math.sqrt(branch.covariance[at * 5]!) * dice.normal());
    });
    const mean = [0, 1].map((k) => drawn.reduce((s, d) => s + d[k]!, 0) / n);
    const both = (j: number, k: number) =>
      drawn.reduce((s, d) => s + (d[j]! - mean[j]!) * (d[k]! - mean[k]!), 0) / (n - 1);
    expect(one.mean[ZERO]).toBeCloseTo(0.5 * -2 + 0.3 * 4 + 0.2 * -9, 12);
    expect(Math.abs(one.mean[SENSITIVITY]! - mean[1]!)).toBeLessThan(3e-4);
    expect(one.covariance[0]! / both(0, 0)).toBeCloseTo(1, 1);
    expect(one.covariance[10]! / both(1, 1)).toBeCloseTo(1, 1);
    expect(one.covariance[2]! / both(0, 1)).toBeCloseTo(1, 1);
    expect(one.covariance[2]).toBe(one.covariance[8]);
    // What all agree on stays exactly as it is.
    expect(one.mean[1]).toBe(0);
  });

  it('jumps come as often as a year has them, each widens one of the two, and no time brings none', () => {
    const state = priorState(PH_PRIOR, 0);
    // The zero three times as often as the sensitivity.
    const often = withFigures(PH_PRIOR, { jumpsPerYear: 1.5 }, { jumpsPerYear: 0.5 });
    const branches = mayHaveJumped(state, often, 365.25 / 4);
    const chances = [Math.exp(-0.5), 0.75 * (1 - Math.exp(-0.5)), 0.25 * (1 - Math.exp(-0.5))];
    branches.forEach((w, i) => expect(w.chance).toBeCloseTo(chances[i]!, 12));
    const wider = (branch: number, at: number) =>
      branches[branch]!.belief.covariance[at * 5]! - state.belief.covariance[at * 5]!;
    expect(wider(1, ZERO)).toBeCloseTo(PH_PRIOR.zero.jumpSd ** 2, 9);
    expect(wider(1, SENSITIVITY)).toBe(0);
    expect(wider(2, SENSITIVITY)).toBeCloseTo(PH_PRIOR.sensitivity.jumpSd ** 2, 9);
    expect(mayHaveJumped(state, often, 0)).toHaveLength(1);
    // A sensor without a slope of its own has none to jump.
    const fixed = mayHaveJumped(state, withFigures(often, {}, { jumpSd: 0 }), 90);
    expect(fixed).toHaveLength(2);
    expect(fixed.reduce((s, w) => s + w.chance, 0)).toBeCloseTo(1, 12);
  });
});

describe('a jump far beyond the usual ones', () => {
  const of = (day: number, zero: number, sensitivity: number): Observation => ({
    atMs: day * MS_PER_DAY,
    kind: 'calibration',
    found: { zero, sensitivity },
    covariance: [
      [0.25, 0],
      [0, 1.6e-5],
    ],
    inForceAfter: { zero, sensitivity },
    cleaned: false,
  });
  const quiet = [0, 30, 60, 90].map((day) => of(day, -2, 0.97));
  const after = (...runs: readonly Observation[]) => filtered([...quiet, ...runs], PH_PRIOR).at(-1)!;

  it('is believed as it was found: a slope that a crack took is not held for half there', () => {
    const { state, jumped } = after(of(120, -2, 0.1));
    // The usual jump of 0.03 would draw 0.1 by (0.004/0.03)² of 0.87, to 0.115.
    expect(Math.abs(state.belief.mean[SENSITIVITY]! - 0.1)).toBeLessThan(0.001);
    expect(jumped).toBeGreaterThan(0.999);
    expect(Math.abs(after(of(120, -80, 0.97)).state.belief.mean[ZERO]! + 80)).toBeLessThan(0.1);
  });

  it('is no likelier for a usual one: of two sizes nothing else changes', () => {
    // Twice the usual size: by the closed form of a normal jump, weighed against none.
    const usual = after(of(120, -2, 0.97 - 0.06)).state.belief.mean[SENSITIVITY]!;
    expect(usual).toBeGreaterThan(0.91);
    expect(usual).toBeLessThan(0.912);
  });
});

describe('the past', () => {
  const run = (day: number, zero: number): Observation => ({
    atMs: day * MS_PER_DAY,
    kind: 'verification',
    found: { zero, sensitivity: 0.97 },
    covariance: [
      [0.25, 0],
      [0, 1e-5],
    ],
    inForceAfter: { zero: 0, sensitivity: 1 },
    cleaned: false,
  });
  const history = [0, -1, -2.2, -2.9, -4.1].map((zero, i) => run(30 * i, zero));

  it('knows each moment no worse than the filter did then, and the last one just as well', () => {
    const course = filtered(history, PH_PRIOR);
    const past = pastOf(course, PH_PRIOR);
    past.forEach((p, i) => {
      const then = Math.sqrt(course[i]!.state.belief.covariance[0]!);
      expect(p.known.zeroSd, `run ${i}`).toBeLessThanOrEqual(then + 1e-12);
      expect(p.found.zeroSd).toBe(0.5);
    });
    expect(past.at(-1)!.known.zero).toBe(course.at(-1)!.state.belief.mean[0]);
    // Between its neighbours, which lie on a line, a run that is off is drawn to them.
    const odd = [...history.slice(0, 2), run(60, -3.6), ...history.slice(3)];
    const { known, found } = pastOf(filtered(odd, PH_PRIOR), PH_PRIOR)[2]!;
    expect(known.zero).toBeGreaterThan(found.zero);
  });

  it('a service or a jump in between lets a moment be known by what came before it alone', () => {
    const motion = motionOver(PH_PRIOR, 30);
    const added = (jumped: number, kind?: 'cleaned' | 'refilled' | 'tip replaced' | 'other') => {
      const jump = { chance: jumped, sizes: [PH_PRIOR.zero.jumpSd, PH_PRIOR.sensitivity.jumpSd] } as const;
      const { noise } = widenedBy(motion, PH_PRIOR, jump, kind ? [{ kind }] : []);
      return [noise[0]! - motion.noise[0]!, noise[10]! - motion.noise[10]!] as const;
    };
    expect(added(0)).toEqual([0, 0]);
    expect(added(0, 'other')).toEqual([0, 0]);
    expect(added(0.5)[0]).toBeCloseTo(0.5 * PH_PRIOR.zero.jumpSd ** 2, 9);
    expect(added(0, 'cleaned')[1]).toBeCloseTo(PH_PRIOR.sensitivity.cleanedSd ** 2, 12);
    expect(added(0, 'refilled')[0]).toBeCloseTo(PH_PRIOR.zero.sd ** 2, 9);
    expect(added(0, 'refilled')[1]).toBe(0);
    expect(added(0, 'tip replaced')[1]).toBeCloseTo(PH_PRIOR.sensitivity.sd ** 2, 12);
    // What cleanings have taught moves what is expected after the next one: of 4 mV twice, four fifths.
    const never = { times: 0, mean: 0, squares: 0 };
    const lessons = { cleaned: [{ times: 2, mean: 4, squares: 0 }, never], renewed: [never, never] } as const;
    const none = { chance: 0, sizes: [0, 0] } as const;
    const moved = widenedBy(motion, PH_PRIOR, none, [{ kind: 'cleaned' }], lessons);
    expect(moved.shift![0]! - motion.shift![0]!).toBeCloseTo(0.8 * 4, 12);
    expect(moved.shift![2]).toBe(motion.shift![2]);
  });
});
