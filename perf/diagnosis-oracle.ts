import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import type { HealthFacts } from '@frustum/core';
import type { Befallen, Case, Tier } from './diagnosis-population.ts';

/** The evidence as numbers: what is not known is the same for all. */
export function featuresOf(facts: HealthFacts): number[] {
  const mean = (list: readonly { readonly value: number }[]) =>
    list.length ? list.reduce((s, f) => s + f.value, 0) / list.length : 0;
  const beside = ({ mine, others }: HealthFacts['twins']) => (others.length ? mean(others) - mine.value : 0);
  return [
    facts.zeroMoved.value,
    facts.sensitivityLost?.value ?? 0,
    facts.sensitivity?.value ?? 0,
    facts.slower?.value ?? 0,
    Math.log((facts.lastJumped + 0.01) / (1.01 - facts.lastJumped)),
    facts.sampleOff?.value ?? 0,
    facts.readingMoved?.value ?? 0,
    facts.fellows.mine.value,
    beside(facts.fellows),
    beside(facts.siblings),
    beside(facts.twins),
    facts.membrane?.value ?? 0,
    facts.reference?.value ?? 0,
  ];
}

/** The chance of each class of a feature vector. */
type Chances<T> = (x: readonly number[]) => ReadonlyMap<T, number>;

/** What may be learned from: a class, and its features. */
export interface Row<T> {
  readonly truth: T;
  readonly x: readonly number[];
}

const NEIGHBOURS = 15;
/** Keeps a covariance invertible where a feature is always the same. */
const RIDGE = 1e-3;

/** The better of two classifiers that have seen the generator: on half of what they may learn from, each is tried. */
export function oracleOf(training: readonly Case[], tier: Tier): (x: readonly number[]) => Befallen {
  const rows = training.map((c) => ({ truth: c.truth, x: featuresOf(c.facts[tier]) }));
  const best = betterOf(rows, (says, tried) => tried.filter((r) => likeliest(says(r.x)) !== r.truth).length);
  return (x) => likeliest(best(x));
}

const likeliest = <T>(chances: ReadonlyMap<T, number>): T => [...chances].reduce((a, b) => (b[1] > a[1] ? b : a))[0];

/** The one of two ways to learn that has the smaller loss on half of the rows, having learned from the other half. */
export function betterOf<T>(
  rows: readonly Row<T>[],
  loss: (says: Chances<T>, tried: readonly Row<T>[]) => number,
): Chances<T> {
  const learnt = rows.filter((_, i) => i % 2 === 0);
  const tried = rows.filter((_, i) => i % 2 === 1);
  const [best] = [quadratic<T>, nearest<T>]
    .map((make) => ({ make, loss: loss(make(learnt), tried) }))
    .sort((a, b) => a.loss - b.loss);
  return best!.make(rows);
}

function scaleOf(rows: readonly Row<unknown>[]) {
  const n = rows.length;
  const size = rows[0]!.x.length;
  const mean = Array.from({ length: size }, (_, k) => rows.reduce((s, r) => s + r.x[k]!, 0) / n);
  const sd = mean.map((m, k) => Math.sqrt(rows.reduce((s, r) => s + (r.x[k]! - m) ** 2, 0) / n) || 1);
  return (x: readonly number[]) => x.map((v, k) => (v - mean[k]!) / sd[k]!);
}

/** Quadratic discriminant: one normal distribution a class, with its own covariance, each as frequent as it came. */
function quadratic<T>(rows: readonly Row<T>[]): Chances<T> {
  const scaled = scaleOf(rows);
  const classes = [...new Set(rows.map((r) => r.truth))].map((truth) => {
    const mine = rows.filter((r) => r.truth === truth).map((r) => scaled(r.x));
    const size = mine[0]!.length;
    const mean = Array.from({ length: size }, (_, k) => mine.reduce((s, x) => s + x[k]!, 0) / mine.length);
    const centred = new Matrix(mine.map((x) => x.map((v, k) => v - mean[k]!)));
    const covariance = centred.transpose().mmul(centred).div(mine.length).add(Matrix.eye(size).mul(RIDGE));
    const { realEigenvalues: values, eigenvectorMatrix: vectors } = new EigenvalueDecomposition(covariance, {
      assumeSymmetric: true,
    });
    return { truth, mean, values, vectors, share: Math.log(mine.length / rows.length) };
  });
  return (x) => {
    const z = scaled(x);
    const logs = classes.map(({ mean, values, vectors, share }) => {
      const along = Matrix.rowVector(z.map((v, k) => v - mean[k]!))
        .mmul(vectors)
        .getRow(0);
      return share - 0.5 * along.reduce((s, v, k) => s + v ** 2 / values[k]! + Math.log(values[k]!), 0);
    });
    const top = Math.max(...logs);
    const weights = logs.map((l) => Math.exp(l - top));
    const total = weights.reduce((a, b) => a + b, 0);
    return new Map(classes.map((c, i) => [c.truth, weights[i]! / total]));
  };
}

/** The shares among the nearest. */
function nearest<T>(rows: readonly Row<T>[]): Chances<T> {
  const scaled = scaleOf(rows);
  const known = rows.map((r) => ({ truth: r.truth, z: scaled(r.x) }));
  return (x) => {
    const z = scaled(x);
    const near = known
      .map((k) => ({ truth: k.truth, d: k.z.reduce((s, v, i) => s + (v - z[i]!) ** 2, 0) }))
      .sort((a, b) => a.d - b.d)
      .slice(0, NEIGHBOURS);
    const votes = new Map<T, number>();
    for (const { truth } of near) votes.set(truth, (votes.get(truth) ?? 0) + 1 / near.length);
    return votes;
  };
}
