import { describe, expect, it } from 'vitest';
import { cusum, ewma } from './control-charts.ts';
import { decorrelate, predict, update, smoothed, type Belief, type Motion } from './kalman.ts';

/** Annual flow of the Nile at Aswan, 1871 to 1970, 1e8 m³: the series of Cobb (1978), as R and statsmodels ship it. */
const NILE = [
  1120, 1160, 963, 1210, 1160, 1160, 813, 1230, 1370, 1140, 995, 935, 1110, 994, 1020, 960, 1180, 799, 958, 1140, 1100,
  1210, 1150, 1250, 1260, 1220, 1030, 1100, 774, 840, 874, 694, 940, 833, 701, 916, 692, 1020, 1050, 969, 831, 726, 456,
  824, 702, 1120, 1100, 832, 764, 821, 768, 845, 864, 862, 698, 845, 744, 796, 1040, 759, 781, 865, 845, 944, 984, 897,
  822, 1010, 771, 676, 649, 846, 812, 742, 801, 1040, 860, 874, 848, 890, 744, 749, 838, 1050, 918, 986, 797, 923, 975,
  815, 1020, 906, 901, 1170, 912, 746, 919, 718, 714, 740,
];
const OBSERVED = 15099;
const LEVEL = 1469.1;
const STEP: Motion = { transition: [1], noise: [LEVEL] };

/** Local level model over the series, from a first belief before its year. */
function localLevel(start: Belief) {
  let belief = start;
  const filtered: Belief[] = [];
  const logs: number[] = [];
  NILE.forEach((value, i) => {
    if (i > 0) belief = predict(belief, STEP);
    const made = update(belief, { row: [1], value, variance: OBSERVED });
    belief = made.belief;
    filtered.push(belief);
    logs.push(made.logLikelihood);
  });
  const motions = NILE.slice(1).map(() => STEP);
  return { filtered, logs, smooth: smoothed(filtered, motions) };
}
const sum = (all: readonly number[]) => all.reduce((s, x) => s + x, 0);

describe('the Kalman filter on the Nile (variances 15099 and 1469.1; values by statsmodels 0.13.5)', () => {
  it('from a wide start, its first term dropped', () => {
    const { filtered, logs, smooth } = localLevel({ mean: [0], covariance: [1e6] });
    expect(sum(logs.slice(1))).toBeCloseTo(-632.5377, 3);
    expect(smooth[0]!.mean[0]).toBeCloseTo(1107.2, 1);
    expect(filtered.slice(0, 4).map((b) => Number(b.covariance[0]!.toFixed(1)))).toEqual([
      14874.4, 7848.3, 5761.8, 4889.4,
    ]);
    expect(smooth.at(-1)!.mean[0]).toBeCloseTo(798.37, 2);
  });

  it('from an exactly diffuse start: the first figure is the belief, with the noise as its variance', () => {
    const first = { mean: [NILE[0]!], covariance: [OBSERVED] };
    let belief: Belief = first;
    const filtered = [belief];
    const logs = [-0.5 * Math.log(2 * Math.PI)];
    for (const value of NILE.slice(1)) {
      const made = update(predict(belief, STEP), { row: [1], value, variance: OBSERVED });
      belief = made.belief;
      filtered.push(belief);
      logs.push(made.logLikelihood);
    }
    expect(sum(logs)).toBeCloseTo(-633.4646, 3);
    expect(sum(logs.slice(1))).toBeCloseTo(-632.5456, 3);
    const back = smoothed(
      filtered,
      NILE.slice(1).map(() => STEP),
    );
    expect(back[0]!.mean[0]).toBeCloseTo(1111.668, 2);
    expect(filtered.slice(0, 4).map((b) => Number(b.covariance[0]!.toFixed(2)))).toEqual([
      15099, 7899.74, 5781.47, 4898.37,
    ]);
    expect(back.at(-1)!.mean[0]).toBeCloseTo(798.37, 2);
  });
});

describe('two figures that were measured together', () => {
  it('have the density and the effect of the pair, in either order', () => {
    const belief: Belief = { mean: [1, 2], covariance: [4, 0.5, 0.5, 2] };
    const noise = [
      [1, 0.6],
      [0.6, 3],
    ] as const;
    const take = (order: readonly [0 | 1, 0 | 1]) => {
      const measurements = [
        { row: [1, 0.2], value: 3 },
        { row: [0, 1], value: 1 },
      ];
      const [i, j] = order;
      const pair = decorrelate(measurements[i]!, measurements[j]!, [
        [noise[i][i], noise[0][1]],
        [noise[0][1], noise[j][j]],
      ]);
      const one = update(belief, pair[0]);
      const two = update(one.belief, pair[1]);
      return { ...two, log: one.logLikelihood + two.logLikelihood };
    };
    const a = take([0, 1]);
    const b = take([1, 0]);
    expect(a.log).toBeCloseTo(b.log, 10);
    a.belief.mean.forEach((m, i) => expect(m).toBeCloseTo(b.belief.mean[i]!, 10));
    // By hand: S = H P Hᵀ + R of the pair, log density of the innovation (1.6, −1).
    const s = [
      [4 + 2 * 0.2 * 0.5 + 0.04 * 2 + 1, 0.5 + 0.2 * 2 + 0.6],
      [0.5 + 0.2 * 2 + 0.6, 5],
    ] as const;
    const det = s[0][0] * s[1][1] - s[0][1] ** 2;
    const [e, f] = [3 - 1.4, 1 - 2];
    const quad = (s[1][1] * e * e - 2 * s[0][1] * e * f + s[0][0] * f * f) / det;
    expect(a.log).toBeCloseTo(-Math.log(2 * Math.PI) - 0.5 * (Math.log(det) + quad), 10);
  });

  it('what is certain stays as it is', () => {
    const sure: Belief = { mean: [1], covariance: [0] };
    expect(update(sure, { row: [1], value: 1, variance: 0 }).belief.mean[0]).toBe(1);
    expect(update(sure, { row: [1], value: 1, variance: 0 }).logLikelihood).toBe(0);
  });
});

describe('control charts', () => {
  it('EWMA: NIST/SEMATECH e-Handbook 6.3.2.4, λ 0.3, EWMA₀ 50, s 2.0539', () => {
    const data = [
      52.0, 47.0, 53.0, 49.3, 50.1, 47.0, 51.0, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6,
      52.1,
    ];
    const chart = ewma(data, 50, 2.0539, 0.3);
    expect(chart[0]!.low).toBeCloseTo(47.4115, 3);
    expect(chart[0]!.high).toBeCloseTo(52.5884, 3);
    expect(chart.at(-1)!.value).toBeCloseTo(51.99, 2);
    expect(chart.some((p) => p.out)).toBe(false);
  });

  it('CUSUM: NIST/SEMATECH e-Handbook 6.3.2.3, target 325, k 0.3175, h 4.1959', () => {
    const data = [
      324.925, 324.675, 324.725, 324.35, 325.35, 325.225, 324.125, 324.525, 325.225, 324.6, 324.625, 325.15, 328.325,
      327.25, 327.825, 328.5, 326.675, 327.775, 326.875, 328.35,
    ];
    const chart = cusum(data, 325, 0.3175, 4.1959);
    expect(chart.findIndex((p) => p.out) + 1).toBe(14);
    expect(chart[13]!.upper).toBeCloseTo(4.94, 2);
  });
});
