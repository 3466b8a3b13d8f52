import { describe, expect, it } from 'vitest';
import { fitLine } from './line.ts';
import { chanceOutside, normalCdf } from './normal.ts';
import { median, noiseSd } from './robust.ts';
import { interpolate } from './shape-preserving-cubic.ts';

/** NIST Statistical Reference Datasets, Norris: y and x of an ozone monitor's calibration. Public domain. */
const NORRIS: readonly (readonly [number, number])[] = [
  [0.2, 0.1],
  [337.4, 338.8],
  [118.2, 118.1],
  [884.6, 888.0],
  [10.1, 9.2],
  [226.5, 228.1],
  [666.3, 668.5],
  [996.3, 998.5],
  [448.6, 449.1],
  [777.0, 778.9],
  [558.2, 559.2],
  [0.4, 0.3],
  [0.6, 0.1],
  [775.5, 778.1],
  [666.9, 668.8],
  [338.0, 339.3],
  [447.5, 448.9],
  [11.6, 10.8],
  [556.0, 557.7],
  [228.1, 228.3],
  [995.8, 998.0],
  [887.6, 888.8],
  [120.2, 119.6],
  [0.3, 0.3],
  [0.3, 0.6],
  [556.8, 557.6],
  [339.1, 339.3],
  [887.2, 888.0],
  [999.0, 998.5],
  [779.0, 778.9],
  [11.1, 10.2],
  [118.3, 117.6],
  [229.2, 228.9],
  [669.1, 668.4],
  [448.9, 449.2],
  [0.5, 0.2],
];

/** GUM (JCGM 100:2008), table H.6: thermometer readings t and corrections b, °C. */
const GUM_H3: readonly (readonly [number, number])[] = [
  [21.521, -0.171],
  [22.012, -0.169],
  [22.512, -0.166],
  [23.003, -0.159],
  [23.507, -0.164],
  [23.999, -0.165],
  [24.513, -0.156],
  [25.002, -0.157],
  [25.503, -0.159],
  [26.01, -0.161],
  [26.511, -0.16],
];

describe('straight lines', () => {
  it('NIST StRD Norris to nine figures', () => {
    const line = fitLine(NORRIS);
    if (!line.ok) throw new Error(line.reason);
    expect(line.intercept).toBeCloseTo(-0.262323073774029, 9);
    expect(line.slope).toBeCloseTo(1.00211681802045, 11);
    expect(line.interceptSe).toBeCloseTo(0.232818234301152, 9);
    expect(line.slopeSe).toBeCloseTo(0.429796848199937e-3, 12);
  });

  it('GUM H.3: the thermometer’s calibration line, and its correction at 30 °C', () => {
    const line = fitLine(GUM_H3.map(([t, b]) => [t - 20, b] as const));
    if (!line.ok) throw new Error(line.reason);
    expect(line.intercept).toBeCloseTo(-0.1712, 4);
    expect(line.slope).toBeCloseTo(0.00218, 5);
    expect(line.interceptSe).toBeCloseTo(0.0029, 4);
    expect(line.slopeSe).toBeCloseTo(0.00067, 5);
    expect(line.covariance / line.interceptSe / line.slopeSe).toBeCloseTo(-0.93, 3);
    expect(line.intercept + 10 * line.slope).toBeCloseTo(-0.1494, 4);
    expect(Math.sqrt(line.interceptSe ** 2 + 100 * line.slopeSe ** 2 + 20 * line.covariance)).toBeCloseTo(0.0041, 4);
  });

  it('refuses points that make no line', () => {
    expect(fitLine([[1, 2]])).toEqual({ ok: false, reason: 'too-few-points' });
    expect(
      fitLine([
        [1, 2],
        [1, 3],
      ]),
    ).toEqual({ ok: false, reason: 'points-not-distinct' });
  });
});

describe('distributions and robust figures', () => {
  it('normal distribution: Abramowitz & Stegun, table 26.1', () => {
    expect(normalCdf(1)).toBeCloseTo(0.8413447461, 6);
    expect(normalCdf(-2)).toBeCloseTo(0.0227501319, 6);
    expect(chanceOutside(0, 1, 1.959964)).toBeCloseTo(0.05, 6);
    expect(chanceOutside(2, 0, 1)).toBe(1);
  });

  it('noise of a ramp with known noise comes out, one bubble or not', () => {
    const signal = Array.from({ length: 400 }, (_, i) => 0.3 * i + (i % 2 ? 1 : -1) * 0.5 * Math.sin(i * 12.9898));
    const clean = noiseSd(signal);
    signal[200]! += 80;
    expect(noiseSd(signal) / clean).toBeCloseTo(1, 1);
    expect(noiseSd([1, 2])).toBe(0);
  });

  it('median of nothing is refused', () => expect(() => median([])).toThrow(RangeError));

  it('interpolation is exact on a parabola’s rows, inside the rows between, null outside', () => {
    const table = [0, 1, 2, 3, 4].map((x) => [x, x * x] as const);
    expect(interpolate(table, 3)).toBe(9);
    expect(interpolate(table, 2.5)).toBeGreaterThan(4);
    expect(interpolate(table, 2.5)).toBeLessThan(9);
    expect(interpolate(table, 4.01)).toBeNull();
    expect(interpolate(table, NaN)).toBeNull();
  });
});
