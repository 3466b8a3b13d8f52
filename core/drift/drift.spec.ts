import { Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { cone } from './cone.ts';
import { addNoise, predict, priorState, update } from './filter.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../families/sensor.ts';
import { PH_PRIOR, type Observation } from './history.ts';
import { marginOf } from './margin.ts';

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

describe('the filter', () => {
  it('process noise tends to the undamped form of the integrated random walk as the memory grows', () => {
    const q = Matrix.zeros(4, 4);
    const tau = 1e6;
    const rateSd = 0.01;
    addNoise(q, 0, 0, rateSd, tau, 5);
    const drive = (2 * rateSd ** 2) / tau;
    expect(q.get(0, 0) / (drive * (5 ** 3 / 3))).toBeCloseTo(1, 3);
    expect(q.get(0, 1) / (drive * (5 ** 2 / 2))).toBeCloseTo(1, 3);
    expect(q.get(1, 1) / (drive * 5)).toBeCloseTo(1, 3);
  });

  it('two steps are one step: the prediction does not depend on where it is looked at', () => {
    const start = update(priorState(PH_PRIOR, 0), PH_PRIOR, observed(0, -3, 0.97));
    const once = predict(start, PH_PRIOR, 40 * MS_PER_DAY);
    const twice = predict(predict(start, PH_PRIOR, 13 * MS_PER_DAY), PH_PRIOR, 40 * MS_PER_DAY);
    expect(Matrix.sub(once.covariance, twice.covariance).norm()).toBeLessThan(1e-9);
    expect(Matrix.sub(once.mean, twice.mean).norm()).toBeLessThan(1e-12);
  });

  it('local level without rate: the textbook scalar update (weights by variances)', () => {
    const prior = { ...PH_PRIOR, zero: 10, zeroSd: 2, zeroRateSd: 1e-12, sensitivityRateSd: 1e-12 };
    const after = update(
      priorState(prior, 0),
      prior,
      observed(0, 4, 0.97, {
        covariance: [
          [4, 0],
          [0, 1e-4],
        ],
      }),
    );
    expect(after.mean.get(0, 0)).toBeCloseTo(7, 9);
    expect(after.covariance.get(0, 0)).toBeCloseTo(2, 9);
  });

  it('the spread grows in the long run as the square root of time, not faster', () => {
    const start = update(priorState(PH_PRIOR, 0), PH_PRIOR, observed(0, 0, 0.97));
    const variance = (day: number) => predict(start, PH_PRIOR, day * MS_PER_DAY).covariance.get(0, 0);
    expect(variance(8000) / variance(4000)).toBeLessThan(2.1);
  });
});

describe('the cone', () => {
  it('knows nothing before the first run', () => {
    const none = cone([], PH_PRIOR, working, 0);
    expect(none.errorAt).toBeNull();
    expect(marginOf(null, 0.1).state).toBe('not known');
    expect(none.expectedAt(0).zeroSd).toBeCloseTo(PH_PRIOR.zeroSd, 9);
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
    expect(marginOf({ atMs: 0, mean, sd }, 0.1).state).toBe(word),
  );
});
