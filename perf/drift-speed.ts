import { MS_PER_DAY, filtered, filteredAtPaces, poolOf, type FamilyPrior, type Observation } from '@frustum/core';
import { inverse, Matrix } from 'ml-matrix';
import { lived, placeOf } from './drift-truths.ts';
import { medianOf, micro, time, type Figure } from './figure.ts';
import { withFigures } from '../core/testing/with-figures.ts';

const RUNS = 40;
const MANY = 10_000;

/** The drift engine: one sensor, ten thousand, and the search for a fleet's factors apart. */
export function benchDrift(): Figure[] {
  const place = placeOf('ph');
  const histories = Array.from({ length: 500 }, (_, i) => lived('jumps', place, RUNS, i).history);
  let next = 0;
  const one = time(() => filteredAtPaces(histories[next++ % histories.length]!, place.prior), 20);
  const calm = withFigures(place.prior, { jumpsPerYear: 0 }, { jumpsPerYear: 0 });
  const without = time(() => filtered(histories[next++ % histories.length]!, calm), 20);
  const general = time(() => textbook(histories[next++ % histories.length]!, place.prior), 5);
  const at = performance.now();
  for (let i = 0; i < MANY; i++) filteredAtPaces(histories[i % histories.length]!, place.prior);
  const many = (performance.now() - at) / 1000;
  const search = medianOf(
    [0, 1, 2].map((k) => {
      const members = histories.slice(25 * k, 25 * k + 25).map((history) => ({
        prior: place.prior,
        history: history.slice(0, 10),
      }));
      const from = performance.now();
      poolOf(members);
      return (performance.now() - from) / 1000;
    }),
  );
  return [
    {
      what: `drift: one sensor with ${RUNS} runs, two paces and a steady one, jumps weighed`,
      value: micro(one),
      beside: `at one pace and without jumps ${micro(without)}; the textbook’s matrices by ml-matrix, without jumps ${micro(general)} (ratio ${(without / general).toFixed(2)})`,
    },
    { what: `drift: ${MANY} sensors with ${RUNS} runs each`, value: `${many.toFixed(1)} s`, beside: 'one core' },
    {
      what: 'drift: what 25 sensors with 10 runs teach, the whole search',
      value: `${search.toFixed(2)} s`,
      beside: '',
    },
  ];
}

const H = new Matrix([
  [1, 0, 0, 0],
  [0, 0, 1, 0],
]);

/** The same filter as the books write it. */
function textbook(history: readonly Observation[], prior: FamilyPrior): Matrix {
  let x = Matrix.columnVector([prior.zero.value, 0, prior.sensitivity.value, 0]);
  let p = Matrix.diag([
    prior.zero.sd ** 2,
    prior.zero.rateSd ** 2,
    prior.sensitivity.sd ** 2,
    prior.sensitivity.rateSd ** 2,
  ]);
  let from = history[0]!.atMs;
  for (const o of history) {
    const days = (o.atMs - from) / MS_PER_DAY;
    from = o.atMs;
    const f = Matrix.eye(4);
    const q = Matrix.zeros(4, 4);
    for (const [at, walk, rateSd, memory] of [
      [0, prior.zero.walk, prior.zero.rateSd, prior.zero.memoryDays],
      [2, prior.sensitivity.walk, prior.sensitivity.rateSd, prior.sensitivity.memoryDays],
    ] as const) {
      const decay = Math.exp(-days / memory);
      f.set(at, at + 1, memory * (1 - decay));
      f.set(at + 1, at + 1, decay);
      q.set(at, at, walk ** 2 * days);
      q.set(at + 1, at + 1, rateSd ** 2 * (1 - decay ** 2));
    }
    x = f.mmul(x);
    p = f.mmul(p).mmul(f.transpose()).add(q);
    const r = new Matrix(o.covariance.map((row) => [...row]));
    const gain = p.mmul(H.transpose()).mmul(inverse(H.mmul(p).mmul(H.transpose()).add(r)));
    const z = Matrix.columnVector([o.found.zero, o.found.sensitivity]);
    x = Matrix.add(x, gain.mmul(Matrix.sub(z, H.mmul(x))));
    const left = Matrix.sub(Matrix.eye(4), gain.mmul(H));
    p = left.mmul(p).mmul(left.transpose()).add(gain.mmul(r).mmul(gain.transpose()));
  }
  return x;
}
