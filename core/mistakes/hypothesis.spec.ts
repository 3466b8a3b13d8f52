import { describe, expect, it } from 'vitest';
import { logSum } from '../statistics/chances.ts';
import { anySizeLog, cauchyLog, flatLog, normalLog } from './hypothesis.ts';

/** ∫ exp(log) by Simpson's rule. */
function integral(log: (x: number) => number, from: number, to: number, steps = 20_000): number {
  const h = (to - from) / steps;
  let sum = 0;
  for (let i = 0; i <= steps; i++) sum += (i === 0 || i === steps ? 1 : i % 2 ? 4 : 2) * Math.exp(log(from + i * h));
  return (sum * h) / 3;
}

describe('densities: what competes must share one unit of chance, so each holds one', () => {
  it('normal', () => {
    expect(integral((x) => normalLog(x, 3, 0.7), -10, 16)).toBeCloseTo(1, 9);
    // Abramowitz & Stegun, table 26.1: Z(1) = 0.2419707.
    expect(Math.exp(normalLog(1, 0, 1))).toBeCloseTo(0.2419707, 7);
  });

  it('Cauchy: half of it within its half width, and what lies beyond L is 2/π·atan(1/L)', () => {
    expect(integral((x) => cauchyLog(x, 5, 2), 3, 7)).toBeCloseTo(0.5, 9);
    expect(1 - integral((x) => cauchyLog(x, 5, 2), -195, 205)).toBeCloseTo((2 / Math.PI) * Math.atan(1 / 100), 6);
  });

  it('flat between two figures, the blur at its ends taken off its middle', () => {
    const held = integral((x) => flatLog(x, -4, 9, 0.5), -12, 17);
    expect(held).toBeGreaterThan(0.9);
    expect(held).toBeLessThan(1.05);
    expect(flatLog(0, -4, 9, 0.5)).toBe(flatLog(7, -4, 9, 0.5));
    expect(flatLog(10, -4, 9, 0.5)).toBeCloseTo(flatLog(9, -4, 9, 0.5) - 2, 12);
  });

  it.each([
    [0.3, 40],
    [2, 1000],
  ])('any size from %d to %d: as much in each decade, and no more than one in all', (least, most) => {
    const log = (x: number) => anySizeLog(x, least, most, least / 10);
    const held = integral(log, -least, most + least, 400_000);
    expect(held).toBeGreaterThan(0.95);
    expect(held).toBeLessThan(1.1);
    const [low, high] = [integral(log, least, 2 * least), integral(log, most / 2, most)];
    expect(low / high).toBeCloseTo(1, 6);
    // On the other side of nothing there is none.
    expect(log(-least)).toBeLessThan(log(0) - 40);
  });

  it('a sum of exponentials neither runs over nor under', () => {
    expect(logSum([Math.log(2), Math.log(3)])).toBeCloseTo(Math.log(5), 12);
    expect(logSum([-2000, -2000])).toBeCloseTo(-2000 + Math.log(2), 9);
    expect(logSum([1500, -1500])).toBe(1500);
    expect(logSum([-Infinity, -Infinity])).toBe(-Infinity);
  });
});
