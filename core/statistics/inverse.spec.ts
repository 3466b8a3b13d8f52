import { inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { seededChance } from './chance.ts';
import { inverseOfCovariance } from './inverse.ts';

const SEED = 424;

describe(`inverse of a covariance (seed ${SEED})`, () => {
  it('is that of a general matrix library, for one to six figures that lean on common causes', () => {
    const dice = seededChance(SEED);
    for (let n = 1; n <= 6; n++)
      for (let round = 0; round < 20; round++) {
        const causes = Array.from({ length: 3 }, () => Array.from({ length: n }, () => dice.normal()));
        const v = Array.from({ length: n }, (_, i) =>
          Array.from({ length: n }, (__, j) => causes.reduce((sum, c) => sum + c[i]! * c[j]!, i === j ? 0.05 : 0)),
        );
        const other = inverse(new Matrix(v)).to2DArray();
        const scale = Math.max(...other.flat().map(Math.abs));
        inverseOfCovariance(v).forEach((row, i) =>
          row.forEach((x, j) => expect(Math.abs(x - other[i]![j]!) / scale).toBeLessThan(1e-11)),
        );
      }
  });

  it('stays finite where nothing but a common cause is left of two figures', () => {
    const weights = inverseOfCovariance([
      [4, 4],
      [4, 4],
    ]);
    expect(weights.flat().every(Number.isFinite)).toBe(true);
    expect(weights[0]![0]).toBeGreaterThan(1e13);
  });
});
