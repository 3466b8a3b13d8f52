import { describe, expect, it } from 'vitest';
import { seedOf } from '@frustum/sim';
import { houseOf } from './drift-population.ts';
import { bootstrapped, byForecast, equalInterval, every, kept, toleranceOf, WATCHED_DAYS } from './due-population.ts';
import { placeOf } from './drift-truths.ts';

const SEED = 20261126;

describe(`due dates on simulated sensors, a small version of the report (seed ${SEED})`, () => {
  it('a sensor that is looked at more often is outside less; the runs are as many as the calendar makes', () => {
    const place = placeOf('temperature');
    const own = Array.from({ length: 20 }, (_, i) => seedOf(SEED, `often/${i}`));
    const years = (days: number) => own.map((s) => kept({ place, kind: 'damped drift' }, s, every(days)));
    const [often, seldom] = [years(20), years(200)];
    expect(often[0]!.runs).toBe(Math.ceil(WATCHED_DAYS / 20));
    const outside = (list: typeof often) => list.reduce((sum, k) => sum + k.daysOutside, 0);
    expect(outside(often)).toBeLessThan(0.6 * outside(seldom));
  });

  it('where sensors age each in its own time, fewer days are lost by the forecast than by the best calendar with at least as many runs', () => {
    const house = houseOf('temperature', 'exponential ageing', 12, seedOf(SEED, 'house'));
    const own = Array.from({ length: 12 }, (_, i) => seedOf(SEED, `due/${i}`));
    const forecast = own.map((s) => kept(house, s, byForecast(house)));
    const runs = forecast.reduce((sum, k) => sum + k.runs, 0);
    const fixed = own.map((s) => kept(house, s, every(equalInterval(own.length, runs))));
    const total = (list: typeof fixed, of: 'runs' | 'daysOutside') => list.reduce((sum, k) => sum + k[of], 0);
    expect(total(fixed, 'runs')).toBeGreaterThanOrEqual(runs);
    expect(total(forecast, 'daysOutside')).toBeLessThan(total(fixed, 'daysOutside'));
  });

  it('takes twelve steps for the tolerance: 0.12 pH and a little', () => {
    expect(toleranceOf(placeOf('ph'))).toBeCloseTo((12 * 0.59) / 58.56, 2);
  });

  it('a bootstrap of 400 normal differences finds the mean within about twice σ/√n', () => {
    const [low, high] = bootstrapped(
      Array.from({ length: 400 }, (_, i) => (i % 2 ? 3 : -1)),
      SEED,
    );
    // mean 1, σ 2, σ/√n 0.1
    expect(low).toBeGreaterThan(0.75);
    expect(low).toBeLessThan(0.85);
    expect(high).toBeGreaterThan(1.15);
    expect(high).toBeLessThan(1.25);
  });
});
