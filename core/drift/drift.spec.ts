import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { cone } from './cone.ts';
import { parametersIn } from './error-from.ts';
import { filtered } from './course.ts';
import { seededChance } from '../statistics/chance.ts';
import { Z50, Z95 } from '../statistics/normal.ts';
import { update } from '../statistics/kalman.ts';
import { chanceBeyond, halfWidth, sdOf, mixtureOf } from '../statistics/mixture.ts';
import { serviced, takeIn } from './filter.ts';
import { addNoise, predictState, priorState } from './state.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { shownErrorOf } from '../sensor/shown-error.ts';
import { errorHere } from '../sensor/working-error.ts';
import { type Observation, type ServiceEvent } from './history.ts';
import { marginOf } from './margin.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { withFigures } from '../testing/with-figures.ts';

const working = { model: modelOf(familyOf('ph')), value: 5.8, temperatureC: 22 };
const observed = (day: number, zero: number, sensitivity: number, more: Partial<Observation> = {}): Observation => ({
  atMs: day * MS_PER_DAY,
  kind: 'calibration',
  found: { zero, sensitivity },
  covariance: [
    [0.3, 0],
    [0, 2e-5],
  ],
  inForceAfter: { zero, sensitivity },
  cleaned: false,
  ...more,
});

describe('a sensor that is further off than its scale goes', () => {
  it('a probe that shows a salinity of more than 42 has an error all the same, on the line about what is believed', () => {
    const model = modelOf(familyOf('salinity'), { cellConstant: 1 });
    const at = { model, value: 35, temperatureC: 25 };
    // Three tenths more conductivity than believed: beyond the scale. A tenth more is within.
    const half = (sensitivity: number) => errorHere(model, at, { zero: 0, sensitivity }, { zero: 0, sensitivity: 1 });
    expect(() => shownErrorOf(model, at, { zero: 0, sensitivity: 0.7 }, { zero: 0, sensitivity: 1 })).not.toThrow();
    expect(() => shownErrorOf(model, at, { zero: 0, sensitivity: 1.3 }, { zero: 0, sensitivity: 1 })).toThrow('scale');
    expect(half(1.3).error).toBeCloseTo(3 * half(1.1).error, 0);
    const off = observed(0, 0, 1.3, { kind: 'verification', inForceAfter: { zero: 0, sensitivity: 1 } });
    expect(cone([off], familyOf('salinity').prior(0.1), at, MS_PER_DAY).marks[0]!.error).toBeCloseTo(
      half(1.3).error,
      6,
    );
  });
});

describe('the filter', () => {
  it('process noise tends to the undamped form of the integrated random walk as the memory grows', () => {
    const q = new Array<number>(16).fill(0);
    const tau = 1e6;
    const rateSd = 0.01;
    addNoise(q, 0, 0, rateSd, tau, 5);
    const drive = (2 * rateSd ** 2) / tau;
    expect(q[0]! / (drive * (5 ** 3 / 3))).toBeCloseTo(1, 3);
    expect(q[1]! / (drive * (5 ** 2 / 2))).toBeCloseTo(1, 3);
    expect(q[5]! / (drive * 5)).toBeCloseTo(1, 3);
  });

  it('two steps are one step: the prediction does not depend on where it is looked at', () => {
    const prior = withFigures(PH_PRIOR, { rate: -0.02 });
    const start = takeIn(priorState(prior, 0), prior, observed(0, -3, 0.97)).state;
    const once = predictState(start, prior, 40 * MS_PER_DAY).belief;
    const twice = predictState(predictState(start, prior, 13 * MS_PER_DAY), prior, 40 * MS_PER_DAY).belief;
    once.covariance.forEach((c, i) => expect(c).toBeCloseTo(twice.covariance[i]!, 9));
    once.mean.forEach((m, i) => expect(m).toBeCloseTo(twice.mean[i]!, 9));
  });

  it('local level without rate or jumps: the textbook scalar update (weights by variances)', () => {
    const prior = withFigures(PH_PRIOR, { value: 10, sd: 2, rateSd: 1e-12 }, { rateSd: 1e-12 });
    const after = takeIn(
      priorState(prior, 0),
      prior,
      observed(0, 4, 0.97, {
        covariance: [
          [4, 0],
          [0, 1e-4],
        ],
      }),
    ).state.belief;
    expect(after.mean[0]).toBeCloseTo(7, 9);
    expect(after.covariance[0]).toBeCloseTo(2, 9);
  });

  it('a check in one standard is seen as one combination of zero and slope, and says nothing of the slope alone', () => {
    // In 4.01 a fifth of a per cent of slope is worth as much as 0.35 mV of zero: both are found as if the slope were known.
    const prior = withFigures(PH_PRIOR, { jumpsPerYear: 0 }, { jumpsPerYear: 0 });
    const ideal = 174.6;
    const [zero, held, variance] = [-6.2, 0.97, 0.16];
    const unknown = 100 ** 2;
    const before = predictState(priorState(prior, 0), prior, 20 * MS_PER_DAY);
    const { state } = takeIn(before, prior, {
      ...observed(20, zero, held),
      covariance: [
        [variance + ideal ** 2 * unknown, -ideal * unknown],
        [-ideal * unknown, unknown],
      ],
    });
    const { belief } = update(before.belief, { row: [1, 0, ideal, 0], value: zero + ideal * held, variance });
    state.belief.mean.forEach((m, i) => expect(m).toBeCloseTo(belief.mean[i]!, 5));
    state.belief.covariance.forEach((c, i) => expect(c).toBeCloseTo(belief.covariance[i]!, 5));
    // What remains unknown of the slope is hardly less than before.
    expect(state.belief.covariance[10]! / before.belief.covariance[10]!).toBeGreaterThan(0.7);
  });

  it('the spread grows in the long run as the square root of time, not faster', () => {
    const start = takeIn(priorState(PH_PRIOR, 0), PH_PRIOR, observed(0, 0, 0.97)).state;
    const variance = (day: number) => predictState(start, PH_PRIOR, day * MS_PER_DAY).belief.covariance[0]!;
    expect(variance(8000) / variance(4000)).toBeLessThan(2.1);
  });

  it('an unusual rate is forgotten, and the usual one stays', () => {
    const prior = withFigures(PH_PRIOR, { rate: -0.05 });
    const fresh = priorState(prior, 0);
    const mean = fresh.belief.mean.map((m, i) => (i === 1 ? 0.4 : m));
    const start = { ...fresh, belief: { ...fresh.belief, mean } };
    // By hand: usual rate for all days, and what is beyond it for one memory.
    const far = predictState(start, prior, 5000 * MS_PER_DAY).belief;
    expect(far.mean[1]).toBeCloseTo(-0.05, 6);
    expect(far.mean[0]).toBeCloseTo(-0.05 * 5000 + 0.45 * prior.zero.memoryDays, 3);
  });
});

describe('jumps', () => {
  const quiet = Array.from({ length: 6 }, (_, i) => observed(30 * i, -2, 0.97));

  it('a far find is a jump, a near one is not, and after a jump the new level counts', () => {
    const near = filtered([...quiet, observed(180, -3, 0.97)], PH_PRIOR).at(-1)!;
    const far = filtered([...quiet, observed(180, -16, 0.97)], PH_PRIOR).at(-1)!;
    expect(near.jumped).toBeLessThan(0.1);
    expect(far.jumped).toBeGreaterThan(0.95);
    expect(far.state.belief.mean[0]).toBeLessThan(-15);
    // Taken for drift, the same find would promise as much again.
    expect(Math.abs(far.state.belief.mean[1]!)).toBeLessThan(0.08);
  });

  it('widen the wide band and hardly the narrow one', () => {
    const calm = withFigures(PH_PRIOR, { jumpsPerYear: 0 }, { jumpsPerYear: 0 });
    const at = (prior: typeof PH_PRIOR) => cone(quiet, prior, working, 0).errorAt!(210 * MS_PER_DAY);
    const [without, withJumps] = [at(calm), at(withFigures(PH_PRIOR, { jumpsPerYear: 1, jumpSd: 20 }))];
    expect(withJumps.half95 / without.half95).toBeGreaterThan(1.4);
    expect(withJumps.half50 / without.half50).toBeLessThan(1.2);
  });

  it('a band holds what it says: drawn 100 000 times (seed 12)', () => {
    const dice = seededChance(12);
    // The two have middles of their own: 0 and 5 about a common 1.
    const spread = mixtureOf([
      { chance: 0.8, mean: 0, sd: 1 },
      { chance: 0.2, mean: 5, sd: 6 },
    ]);
    expect(spread.mean).toBe(1);
    expect(sdOf(spread)).toBeCloseTo(Math.sqrt(0.8 * (1 + 1) + 0.2 * (36 + 16)), 12);
    let beyond = 0;
    const [half50, half95] = [halfWidth(spread, 0.5, Z50), halfWidth(spread, 0.95, Z95)];
    let in50 = 0;
    let in95 = 0;
    for (let i = 0; i < 100_000; i++) {
      const drawn = dice.uniform() < 0.2 ? 5 + 6 * dice.normal() : dice.normal();
      if (Math.abs(drawn) > 2) beyond++;
      const x = Math.abs(drawn - spread.mean);
      if (x < half50) in50++;
      if (x < half95) in95++;
    }
    expect(in50 / 1e5).toBeCloseTo(0.5, 2);
    expect(in95 / 1e5).toBeCloseTo(0.95, 2);
    expect(beyond / 1e5).toBeCloseTo(chanceBeyond(spread, 2), 2);
  });
});

describe('a sensor with an offset and no slope', () => {
  it('has a sensitivity of exactly one for good, and a likelihood that changes smoothly', () => {
    const prior = familyOf('orp').prior(0.5);
    const history = Array.from({ length: 10 }, (_, i) =>
      observed(30 * i, 3 * Math.sin(i), 1, {
        covariance: [
          [0.1, 0],
          [0, 0],
        ],
      }),
    );
    const at = (walk: number) => filtered(history, withFigures(prior, { walk }));
    const course = at(0.2);
    expect(course.every((c) => c.state.belief.mean[2] === 1 && c.state.belief.covariance[10] === 0)).toBe(true);
    const log = (walk: number) => at(walk).reduce((sum, c) => sum + c.logLikelihood, 0);
    expect(Math.abs(log(0.2001) - log(0.2))).toBeLessThan(0.02);
  });
});

describe('what is done to a sensor', () => {
  const start = filtered([observed(0, -5, 0.95), observed(30, -6, 0.945)], PH_PRIOR).at(-1)!.state;
  const after = (kind: ServiceEvent['kind']) => parametersIn(serviced(start, PH_PRIOR, { atMs: start.atMs, kind }));

  it('cleaning widens a little, a refill forgets the zero, a new tip forgets both, a note nothing', () => {
    const before = parametersIn(start);
    expect(after('other')).toEqual(before);
    expect(after('cleaned').zeroSd).toBeCloseTo(Math.hypot(before.zeroSd, PH_PRIOR.zero.cleanedSd), 9);
    expect(after('refilled').zeroSd).toBeCloseTo(PH_PRIOR.zero.sd, 9);
    expect(after('refilled').sensitivity).toBe(before.sensitivity);
    expect(after('refilled').sensitivitySd).toBe(before.sensitivitySd);
    expect(after('tip replaced').sensitivitySd).toBeCloseTo(PH_PRIOR.sensitivity.sd, 9);
  });

  it('opens the cone from that day on', () => {
    const day = 40 * MS_PER_DAY;
    const history = [observed(0, -5, 0.95), observed(30, -6, 0.945)];
    const made = cone(history, PH_PRIOR, working, 90 * MS_PER_DAY, undefined, [{ atMs: day, kind: 'refilled' }]);
    const [just, then] = [made.errorAt!(day - 1), made.errorAt!(day + 1)];
    expect(then.half95 / just.half95).toBeGreaterThan(3);
  });
});

describe('the cone', () => {
  it('knows nothing before the first run', () => {
    const none = cone([], PH_PRIOR, working, 0);
    expect(none.errorAt).toBeNull();
    expect(marginOf(null, 0.1).state).toBe('not known');
    expect(none.expectedAt(0).zeroSd).toBeCloseTo(PH_PRIOR.zero.sd, 9);
  });

  it('is narrow at a calibration, about zero there, and widens', () => {
    const c = cone([observed(0, -5, 0.95)], PH_PRIOR, working, 90 * MS_PER_DAY);
    const at = (day: number) => c.errorAt!(day * MS_PER_DAY);
    expect(Math.abs(at(0).mean)).toBeLessThan(0.01);
    expect(at(0).sd).toBeLessThan(0.015);
    expect(at(30).sd).toBeLessThan(at(60).sd);
    expect(at(60).sd).toBeLessThan(at(90).sd);
  });

  it('leans with a drift that goes on: a probe that lost 3 mV a month is expected to lose more', () => {
    const history = [0, 30, 60, 90, 120].map((day) => observed(day, -day / 10, 0.97));
    const ahead = cone(history, PH_PRIOR, working, 0).errorAt!(150 * MS_PER_DAY);
    // −3 mV more means +3/(0.97·58.6) = +0.053 pH; the memory of the rate damps it.
    expect(ahead.mean).toBeGreaterThan(0.02);
    expect(ahead.mean).toBeLessThan(0.053);
  });

  it('narrows at a verification without going back to zero', () => {
    const left = { zero: 0, sensitivity: 0.97 };
    const c = cone(
      [observed(0, 0, 0.97), observed(60, -4, 0.97, { kind: 'verification', inForceAfter: left })],
      PH_PRIOR,
      working,
      100 * MS_PER_DAY,
    );
    const before = c.segments[0]!.points.at(-1)!;
    const after = c.segments[1]!.points[0]!;
    expect(after.sd).toBeLessThan(before.sd / 2);
    expect(after.mean).toBeGreaterThan(0.05);
    expect(c.marks.map((m) => m.kind)).toEqual(['calibration', 'verification']);
  });
});

describe('the four words', () => {
  it.each([
    [0.0, 0.02, 'inside'],
    [0.06, 0.03, 'near the edge'],
    [0.13, 0.03, 'outside'],
    [0.0, 0.2, 'not known'],
  ] as const)('error %s with spread %s in a tolerance of 0.1 is %s', (mean, sd, word) =>
    expect(
      marginOf({ atMs: 0, mean, sd, half50: Z50 * sd, half95: Z95 * sd, pieces: [{ chance: 1, mean, sd }] }, 0.1).state,
    ).toBe(word),
  );
});
