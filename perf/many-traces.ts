import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { buffer, responseIn, settleIn, STATISTICAL, watched, type Cup, type Sample } from '@frustum/core';
import { chance } from '@frustum/sim';
import type { Figure } from './figure.ts';

const TRACES = 10_000;
/** The general fit is far slower: as many as tell the median. */
const FITTED = 200;
const SAMPLES = 120;
const PLAN = {
  family: 'ph',
  settings: {},
  expected: { zero: 0, zeroSd: 3, sensitivity: 0.98, sensitivitySd: 0.01 },
  workingC: 22,
};

/** One minute at 2 Hz: a fast and a slow way, noise, a thermometer that follows. Closed form, seeded. */
function trace(seed: number): Sample[] {
  const dice = chance(seed);
  const [fast, slow, share] = [2 + 4 * dice.uniform(), 12 + 30 * dice.uniform(), 0.05 + 0.15 * dice.uniform()];
  const to = 4 * dice.normal();
  return Array.from({ length: SAMPLES }, (_, i) => {
    const t = i / 2;
    const left = (1 - share) * Math.exp(-t / fast) + share * Math.exp(-t / slow);
    return { t, signal: to + 170 * left + 0.15 * dice.normal(), temperatureC: 22 + 2 * Math.exp(-t / 30) };
  });
}

/** Two exponentials by least squares, then twice more with Huber's weights: the robust fit that a general library gives. */
function generalFit(samples: readonly Sample[]): readonly number[] {
  const x = samples.map((s) => s.t);
  const y = samples.map((s) => s.signal);
  const form =
    ([level, a, fast, b, slow]: number[]) =>
    (t: number) =>
      level! + a! * Math.exp(-t / fast!) + b! * Math.exp(-t / slow!);
  let values = [y.at(-1)!, y[0]! - y.at(-1)!, 4, 10, 30];
  let weights = y.map(() => 1);
  for (let pass = 0; pass < 3; pass++) {
    const fit = levenbergMarquardt({ x, y }, form, {
      initialValues: values,
      minValues: [-500, -500, 0.5, -500, 5],
      maxValues: [500, 500, 20, 500, 200],
      damping: 1e-2,
      maxIterations: 60,
      weights,
    });
    values = fit.parameterValues;
    const at = form(values);
    const gaps = y.map((v, i) => Math.abs(v - at(x[i]!)));
    const scale = 1.345 * 1.4826 * [...gaps].sort((a, b) => a - b)[gaps.length >> 1]!;
    weights = gaps.map((g) => (g <= scale ? 1 : Math.sqrt(g / scale)));
  }
  return values;
}

/** Ten thousand traces of a minute: is it steady, and is anything odd? Beside a robust fit of a general library. */
export function benchManyTraces(): Figure {
  const seven = buffer('technical-7.00');
  const cup: Cup = { plan: PLAN, asked: seven, shelf: [seven, buffer('technical-4.01')], before: [], fresh: true };
  const response = responseIn(PLAN, seven);
  const traces = Array.from({ length: TRACES }, (_, i) => trace(i + 1));
  const started = performance.now();
  let odd = 0;
  for (const samples of traces) {
    const settling = settleIn(response, samples, STATISTICAL, 0.1);
    if (watched(cup, settling, samples)?.warning) odd++;
  }
  const seconds = (performance.now() - started) / 1000;
  const fitStarted = performance.now();
  for (const samples of traces.slice(0, FITTED)) generalFit(samples);
  const general = (performance.now() - fitStarted) / FITTED;
  const own = (1000 * seconds) / TRACES;
  return {
    what: `${TRACES} traces of a minute at 2 Hz judged, each at once from its beginning: steady or not, and is anything odd`,
    value: `${seconds.toFixed(0)} s (${own.toFixed(1)} ms each; ${odd} warnings)`,
    beside: `ml-levenberg-marquardt, two exponentials with Huber’s weights, the fit alone: ${general.toFixed(1)} ms each (ratio ${(own / general).toFixed(2)})`,
  };
}
