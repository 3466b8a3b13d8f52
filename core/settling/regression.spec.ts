import { determinant, inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { seededChance } from '../statistics/chance.ts';
import { basisOf, covarianceOf, factorised, gather, meanOf, SCRATCH } from './regression.ts';
import { TAUS, type Candidate } from './ways.ts';

const SEED = 58;
const NOISE = 0.2;
const SLOW_SD = TAUS.map((tau) => 3 + tau / 20);

/** Bins of a trace that approaches 12 mV by two ways, with noise. */
function bins(seed: number) {
  const dice = seededChance(seed);
  return Array.from({ length: 24 }, (_, i) => {
    const t = 2.5 * i;
    const count = 1 + (i % 4);
    const value = 12 + 30 * Math.exp(-t / 7) + 4 * Math.exp(-t / 60) + (NOISE * dice.normal()) / Math.sqrt(count);
    return { t, value, count };
  });
}

/**
 * The same as a textbook writes it, dense, by ml-matrix: y = B·β + e with normal β beforehand; its evidence is the density
 * of y. Shared with the code under test: the weights of the bins, and how large each way may be beforehand.
 *
 * @see Bishop, Pattern Recognition and Machine Learning (2006), 3.3 and 3.5
 */
function textbook(trace: ReturnType<typeof bins>, basis: readonly number[]) {
  const centre = trace.at(-1)!.value;
  const start = trace[0]!.t;
  const y = Matrix.columnVector(trace.map((b) => b.value - centre));
  const design = new Matrix(
    trace.map((b) => basis.map((k) => (k === 0 ? 1 : Math.exp(-(b.t - start) / TAUS[k - 1]!)))),
  );
  const noise = trace.map((b) => NOISE ** 2 / b.count + (0.03 * (b.value - centre)) ** 2);
  const sizes = basis.map((k, r) => (r === 0 ? 1e8 : r < 3 ? 200 ** 2 : SLOW_SD[k - 1]! ** 2));
  const all = Matrix.add(design.mmul(Matrix.diag(sizes)).mmul(design.transpose()), Matrix.diag(noise));
  const quadratic = y.transpose().mmul(inverse(all)).mmul(y).get(0, 0);
  const weights = Matrix.diag(noise.map((v) => 1 / v));
  const precision = Matrix.add(design.transpose().mmul(weights).mmul(design), Matrix.diag(sizes.map((v) => 1 / v)));
  const covariance = inverse(precision);
  return {
    logEvidence: -0.5 * (quadratic + Math.log(determinant(all))),
    mean: covariance.mmul(design.transpose()).mmul(weights).mmul(y).to1DArray(),
    covariance: covariance.to2DArray(),
  };
}

const CANDIDATES: readonly Candidate[] = [
  [-1, -1, -1],
  [4, 5, -1],
  [4, 5, 11],
  [2, 3, 9],
  [6, 7, 15],
];

describe(`Bayesian regression of an approach, against ml-matrix (seeds ${SEED} to ${SEED + 3})`, () => {
  it.each([SEED, SEED + 1, SEED + 2, SEED + 3])(
    'seed %i: means, covariances, and which way is likelier by how much',
    (seed) => {
      const trace = bins(seed);
      const sums = gather(trace, trace.at(-1)!.t, trace[0]!.t, NOISE);
      expect(sums.count).toBe(24);
      const tried = CANDIDATES.map((candidate) => {
        const basis = basisOf(candidate);
        const { logEvidence, misfit } = factorised(sums, basis, SLOW_SD, SCRATCH);
        const theirs = textbook(trace, basis);
        const mean = meanOf(SCRATCH, basis.length);
        const covariance = covarianceOf(
          SCRATCH,
          basis.map(() => 1),
          1,
        );
        mean.forEach((m, i) => {
          const sd = Math.sqrt(theirs.covariance[i]![i]!);
          expect(Math.abs(m - theirs.mean[i]!) / sd, `mean ${i} of ${candidate.join('/')}`).toBeLessThan(1e-4);
          covariance[i]!.forEach((c, j) => {
            const size = sd * Math.sqrt(theirs.covariance[j]![j]!);
            expect(
              Math.abs(c - theirs.covariance[i]![j]!) / size,
              `covariance ${i} ${j} of ${candidate.join('/')}`,
            ).toBeLessThan(1e-4);
          });
        });
        expect(misfit).toBeGreaterThanOrEqual(0);
        return { mine: logEvidence, theirs: theirs.logEvidence };
      });
      // A constant is common to all candidates: what counts is how far they are apart, here by up to 3000. A level of any
      // size costs the dense matrix digits.
      for (const { mine, theirs } of tried) expect(mine - tried[0]!.mine).toBeCloseTo(theirs - tried[0]!.theirs, 1);
      const best = tried.reduce((a, b) => (b.mine > a.mine ? b : a));
      expect(tried.indexOf(best)).not.toBe(0);
    },
  );

  it('a member is scaled, and all are inflated', () => {
    const trace = bins(SEED);
    factorised(gather(trace, trace.at(-1)!.t, trace[0]!.t, NOISE), basisOf([4, 5, 11]), SLOW_SD, SCRATCH);
    const plain = covarianceOf(SCRATCH, [1, 1, 1, 1], 1);
    const scaled = covarianceOf(SCRATCH, [1, 0.5, 0.5, 2], 3);
    expect(scaled[0]![0]! / plain[0]![0]!).toBeCloseTo(3, 9);
    expect(scaled[1]![3]! / plain[1]![3]!).toBeCloseTo(3 * 0.5 * 2, 9);
    expect(scaled[3]![1]).toBe(scaled[1]![3]);
  });
});
