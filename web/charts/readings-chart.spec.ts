import { describe, expect, it } from 'vitest';
import { correctionAt } from './readings-chart.tsx';

const lookBack = {
  fromMs: 100,
  toMs: 300,
  foundMs: 300,
  error: 0.3,
  sd: 0.02,
  course: [
    { atMs: 100, mean: 0.1, sd: 0.04, chanceOutside: 0.5 },
    { atMs: 200, mean: 0.2, sd: 0.03, chanceOutside: 0.9 },
    { atMs: 300, mean: 0.3, sd: 0.02, chanceOutside: 1 },
  ],
};

describe('the provisional correction of a reading', () => {
  it('follows the error that was shown then, with 95 % of its spread', () => {
    expect(correctionAt([lookBack], 150)!.mean).toBeCloseTo(0.15, 12);
    expect(correctionAt([lookBack], 150)!.half).toBeCloseTo(1.96 * 0.035, 12);
    expect(correctionAt([lookBack], 300)).toEqual({ mean: 0.3, half: 1.96 * 0.02 });
  });

  it('is none outside of such a time', () => {
    expect(correctionAt([lookBack], 99)).toBeNull();
    expect(correctionAt([lookBack], 301)).toBeNull();
    expect(correctionAt([], 150)).toBeNull();
  });
});
