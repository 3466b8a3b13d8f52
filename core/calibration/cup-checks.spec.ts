import { describe, expect, it } from 'vitest';
import { buffer } from '../solutions/buffers.ts';
import { farFromHistory } from './cup-checks.ts';

describe('what is captured by itself', () => {
  const standard = buffer('technical-7.00');
  const plan = {
    family: 'ph',
    settings: {},
    expected: { zero: 0, zeroSd: 10, sensitivity: 0.97, sensitivitySd: 0.03 },
  };

  it('is near what the history expects; a probe that still hangs in the water is not', () => {
    expect(farFromHistory(plan, standard, -12, 22)).toBe(false);
    // 6.02 pH: 57 mV from where pH 7 is.
    expect(farFromHistory(plan, standard, 57, 22)).toBe(true);
    const known = { ...plan, expected: { ...plan.expected, zeroSd: 1, sensitivitySd: 0.005 } };
    expect(farFromHistory(known, standard, 20, 22)).toBe(false);
    expect(farFromHistory(known, standard, 30, 22)).toBe(true);
  });
});
