import { describe, expect, it } from 'vitest';
import { inverse, Matrix } from 'ml-matrix';
import { seededChance } from './chance.ts';
import { chancesOf, logSum } from './chances.ts';
import { minimise, minimiseInSteps } from './descent.ts';
import { predict, smoothed, update, type Belief, type Motion } from './kalman.ts';
import { chanceBeyond, halfWidth, mixtureOf, sdOf } from './mixture.ts';
import { Z50, Z95 } from './normal.ts';
import { noiseSd } from './robust.ts';

const SEED = 20_294;

describe('mixtures of normal distributions: scipy 1.17.1, norm.cdf and brentq', () => {
  const three = mixtureOf([
    { chance: 0.6, mean: 0, sd: 1 },
    { chance: 0.3, mean: 2, sd: 0.5 },
    { chance: 0.1, mean: -4, sd: 3 },
  ]);
  it('mean, spread, chance beyond a limit', () => {
    expect(three.mean).toBeCloseTo(0.2, 12);
    expect(sdOf(three)).toBeCloseTo(2.082066281, 9);
    expect(chanceBeyond(three, 1.5)).toBeCloseTo(0.415676878, 7);
  });
  it('half widths, also where the chance is heaped up far from the mean', () => {
    expect(halfWidth(three, 0.5, Z50) / 1.19131325).toBeCloseTo(1, 3);
    expect(halfWidth(three, 0.95, Z95) / 4.220362054).toBeCloseTo(1, 3);
    const heap = mixtureOf([
      { chance: 0.97, mean: 0, sd: 0.01 },
      { chance: 0.03, mean: 5, sd: 2 },
    ]);
    expect(halfWidth(heap, 0.95, Z95) / 0.170388937).toBeCloseTo(1, 2);
    expect(halfWidth(heap, 0.99, 2.575829) / 5.711454952).toBeCloseTo(1, 3);
  });
  it('one piece, and pieces without any spread', () => {
    expect(halfWidth(mixtureOf([{ chance: 1, mean: 3, sd: 2 }]), 0.95, Z95)).toBeCloseTo(3.919928, 6);
    expect(halfWidth(mixtureOf([{ chance: 0.5, mean: 1, sd: 0 }, { chance: 0.5, mean: 1, sd: 0 }]), 0.95, Z95)).toBe(0); // prettier-ignore
    // Half of it is certain, and lies two beside the mean of −2 and 2.
    const two = mixtureOf([{ chance: 0.5, mean: -2, sd: 0 }, { chance: 0.5, mean: 2, sd: 0 }]); // prettier-ignore
    expect(sdOf(two)).toBe(2);
    expect(halfWidth(two, 0.95, Z95)).toBeGreaterThanOrEqual(1.99);
    expect(halfWidth(two, 0.95, Z95)).toBeLessThan(8);
  });
});

describe('chances', () => {
  it('weights from their logarithms, however small', () => {
    const { chances, log } = chancesOf([-1000, -1000 + Math.log(3)]);
    expect(chances[0]).toBeCloseTo(0.25, 12);
    expect(log).toBeCloseTo(-1000 + Math.log(4), 9);
    expect(chancesOf([-7])).toEqual({ chances: [1], log: -7 });
    expect(logSum([Math.log(2), Math.log(5)])).toBeCloseTo(Math.log(7), 12);
    expect(logSum([-Infinity, -Infinity])).toBe(-Infinity);
  });
  it(`normal draws: mean, spread, fourth moment, and no two of a pair alike (seed ${SEED})`, () => {
    const chance = seededChance(SEED);
    const draws = Array.from({ length: 40_000 }, () => chance.normal());
    const moment = (k: number) => draws.reduce((s, x) => s + x ** k, 0) / draws.length;
    expect(Math.abs(moment(1))).toBeLessThan(0.02);
    expect(Math.abs(moment(2) - 1)).toBeLessThan(0.03);
    expect(Math.abs(moment(3))).toBeLessThan(0.08);
    expect(Math.abs(moment(4) - 3)).toBeLessThan(0.25);
    const pairs = draws.reduce((s, x, i) => (i % 2 ? s + x * draws[i - 1]! : s), 0) / (draws.length / 2);
    expect(Math.abs(pairs)).toBeLessThan(0.03);
    const squares = draws.reduce((s, x, i) => (i % 2 ? s + (x * draws[i - 1]!) ** 2 : s), 0) / (draws.length / 2);
    expect(Math.abs(squares - 1)).toBeLessThan(0.12);
  });
  it('noise of a sawtooth by hand: second differences of 4, over √6, times 1.4826', () => {
    expect(noiseSd([0, 1, 0, 1, 0, 1])).toBeCloseTo((1.4826 * 2) / Math.sqrt(6), 12);
    expect(noiseSd([0, 5, 1])).toBe(0);
    expect(noiseSd([0, 1, 0, 1])).toBeCloseTo((1.4826 * 2) / Math.sqrt(6), 12);
  });
});

describe('quasi-Newton descent', () => {
  it('finds the bottom of Rosenbrock’s valley, of a bent bowl in three, and stops where nothing is gained', () => {
    const valley = ([x, y]: readonly number[]) => (1 - x!) ** 2 + 100 * (y! - x! ** 2) ** 2;
    const found = minimise(valley, [-1.2, 1], 1e-12);
    expect(found.at[0]).toBeCloseTo(1, 2);
    expect(found.at[1]).toBeCloseTo(1, 2);
    expect(found.evaluations).toBeLessThan(400);
    const bowl = ([x, y, z]: readonly number[]) => (x! - 1) ** 2 + 2 * (y! + 2) ** 2 + 0.5 * (z! - 3) ** 2 + 0.7 * (x! - 1) * (z! - 3); // prettier-ignore
    const low = minimise(bowl, [9, 9, 9], 1e-12);
    [1, -2, 3].forEach((v, i) => expect(low.at[i]).toBeCloseTo(v, 3));
    expect(low.value).toBeLessThan(1e-8);
    // Steps of 1.5 at most: from 30 it needs twenty of them.
    const far: number[] = [];
    const search = minimiseInSteps(([x]) => x! ** 2, [30], 1e-9);
    for (let s = search.next(); !s.done; s = search.next()) far.push(s.value.at[0]!);
    for (let i = 1; i < far.length; i++) expect(far[i - 1]! - far[i]!).toBeLessThan(1.5 + 1e-9);
    expect(minimise(valley, [-1.2, 1], 1e-12, 20).evaluations).toBeLessThan(40);
    expect(minimise(([x]) => Math.abs(x!), [0], 1e-9).at[0]).toBeCloseTo(0, 5);
  });
});

describe(`filter and smoother in three dimensions against the dense joint Gaussian of all moments (ml-matrix; seed ${SEED})`, () => {
  const [n, moments] = [3, 5];
  const chance = seededChance(SEED);
  const some = (count: number, by = 1) => Array.from({ length: count }, () => by * chance.normal());
  const positive = () => {
    const a = new Matrix([some(n), some(n), some(n)]);
    return a.mmul(a.transpose()).add(Matrix.eye(n, n).mul(0.2));
  };
  const flat = (m: Matrix) => m.to2DArray().flat();
  const [p0, m0] = [positive(), some(n)];
  const moves = Array.from({ length: moments - 1 }, () => ({ f: Matrix.eye(n, n).add(new Matrix([some(n, 0.4), some(n, 0.4), some(n, 0.4)])), q: positive(), shift: some(n) })); // prettier-ignore
  const seen = Array.from({ length: moments }, () => ({ row: some(n), value: chance.normal(), variance: 0.3 }));

  /** Mean and covariance of all moments together, then of what is seen taken in at once. */
  function dense(count: number) {
    const size = n * moments;
    const mean = new Matrix(size, 1);
    const c = Matrix.zeros(size, size);
    const put = (i: number, j: number, block: Matrix) => {
      for (let a = 0; a < n; a++) for (let b = 0; b < n; b++) c.set(i * n + a, j * n + b, block.get(a, b));
    };
    const at: Matrix[][] = [[p0]];
    let here = Matrix.columnVector(m0);
    for (let a = 0; a < n; a++) mean.set(a, 0, here.get(a, 0));
    moves.forEach(({ f, q, shift }, t) => {
      here = f.mmul(here).add(Matrix.columnVector(shift));
      for (let a = 0; a < n; a++) mean.set((t + 1) * n + a, 0, here.get(a, 0));
      at.push(at[t]!.map((block) => f.mmul(block)));
      at[t + 1]!.push(f.mmul(at[t]![t]!).mmul(f.transpose()).add(q));
    });
    at.forEach((row, i) =>
      row.forEach((block, j) => {
        put(i, j, block);
        put(j, i, block.transpose());
      }),
    );
    const h = Matrix.zeros(count, size);
    for (let t = 0; t < count; t++) seen[t]!.row.forEach((v, k) => h.set(t, t * n + k, v));
    const s = h.mmul(c).mmul(h.transpose()).add(Matrix.eye(count, count).mul(0.3));
    const gain = c.mmul(h.transpose()).mmul(inverse(s));
    const off = Matrix.columnVector(seen.slice(0, count).map((x) => x.value)).sub(h.mmul(mean));
    return { mean: Matrix.add(mean, gain.mmul(off)), c: Matrix.sub(c, gain.mmul(h).mmul(c)), s, off };
  }
  const filtered: Belief[] = [];
  let logs = 0;
  const motions: Motion[] = moves.map(({ f, q, shift }) => ({ transition: flat(f), noise: flat(q), shift }));
  seen.forEach((what, t) => {
    const before = t ? predict(filtered[t - 1]!, motions[t - 1]!) : { mean: m0, covariance: flat(p0) };
    const { belief, logLikelihood } = update(before, what);
    filtered.push(belief);
    logs += logLikelihood;
  });
  const same = (belief: Belief, all: ReturnType<typeof dense>, t: number) => {
    belief.mean.forEach((v, a) => expect(v).toBeCloseTo(all.mean.get(t * n + a, 0), 9));
    belief.covariance.forEach((v, k) =>
      expect(v).toBeCloseTo(all.c.get(t * n + Math.floor(k / n), t * n + (k % n)), 9),
    );
  };

  it('each moment with what came up to it, and all of it with what came later', () => {
    filtered.forEach((belief, t) => same(belief, dense(t + 1), t));
    smoothed(filtered, motions).forEach((belief, t) => same(belief, dense(moments), t));
  });

  it('the likelihood of the whole is the product of its steps', () => {
    const { s, off } = dense(moments);
    const squares = off.transpose().mmul(inverse(s)).mmul(off).get(0, 0);
    let determinant = 1;
    // by elimination, s being positive
    const m = s.to2DArray();
    for (let i = 0; i < moments; i++) {
      determinant *= m[i]![i]!;
      for (let r = i + 1; r < moments; r++) {
        const by = m[r]![i]! / m[i]![i]!;
        for (let k = i; k < moments; k++) m[r]![k]! -= by * m[i]![k]!;
      }
    }
    expect(logs).toBeCloseTo(-0.5 * (squares + Math.log(determinant) + moments * Math.log(2 * Math.PI)), 8);
  });

  it('a figure that is certain already and seen without noise changes nothing; one that never moved is smoothed as it is', () => {
    const certain: Belief = { mean: [1, 2], covariance: [0, 0, 0, 4] };
    expect(update(certain, { row: [1, 0], value: 9, variance: 0 }).belief).toEqual(certain);
    const still: Motion = { transition: [1, 0, 0, 1], noise: [0, 0, 0, 0] };
    const [first] = smoothed([certain, update(certain, { row: [0, 1], value: 6, variance: 4 }).belief], [still]);
    expect(first!.mean[0]).toBeCloseTo(1, 9);
    expect(first!.mean[1]).toBeCloseTo(4, 9);
    expect(first!.covariance[3]).toBeCloseTo(2, 9);
  });
});
