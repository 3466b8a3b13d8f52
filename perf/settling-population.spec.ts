import { CAPTURE_FAMILIES } from '@frustum/sim';
import { describe, expect, it } from 'vitest';
import { judged, wilsonLow } from './settling-population.ts';

describe('the settling report, a small version', () => {
  // The report's own seeds come from its commit and are far from these.
  const SEEDS = [1, 2];

  it(`captures within a step of the truth in every family, and refuses none (seeds ${SEEDS.join(', ')})`, () => {
    const all = CAPTURE_FAMILIES.flatMap((family) => SEEDS.map((seed) => judged(family, seed)));
    const told = all.map((j) => `${j.family} ${j.seed}: ${j.seconds} s, ${j.error.toFixed(2)}`).join('; ');
    expect(
      all.filter((j) => j.seconds === null),
      told,
    ).toEqual([]);
    expect(all.filter((j) => Math.abs(j.error) > 1).length, told).toBeLessThanOrEqual(1);
    // It waits for the slow ones and not for the quick: a fixed time can do neither.
    const times = all.map((j) => j.seconds!);
    expect(Math.max(...times) / Math.min(...times), told).toBeGreaterThan(3);
  });

  it('Wilson’s interval: 396 of 400 are at least 97.5 %, computed apart', () => {
    expect(wilsonLow(396, 400)).toBeCloseTo(0.9746, 4);
    expect(wilsonLow(10, 10)).toBeCloseTo(0.7225, 4);
  });
});
