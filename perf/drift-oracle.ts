import { predict, update, type Belief, type Motion } from '@frustum/core';
import { freshSensitivity, type KINDS, POPULATION, type Kind, type Lived, type Place } from './drift-truths.ts';

/** One thing that may be so: how likely, and what the error then is. */
export interface Piece {
  readonly weight: number;
  readonly mean: number;
  readonly sd: number;
}

/** The error that is linear in zero and sensitivity: value where both are 0, and what each adds. */
export type Linear = readonly [constant: number, perZero: number, perSensitivity: number];

/**
 * What somebody would predict who knows how such sensors are made (the kind, its curves and its figures), and has seen the
 * same runs. Time constants are tried on a grid, jumps in every combination that is still likely; what is linear and normal
 * is solved by the same small filter that the core uses.
 */
export function oracle(
  kind: (typeof KINDS)[number],
  place: Place,
  { history, days, laterDay }: Lived,
  error: Linear,
): readonly Piece[] {
  if (kind === 'jumps') return jumping(place, history, days, laterDay, error);
  return curved(kind, place, history, days, laterDay, error);
}

type History = Lived['history'];
/** Ten runs tell a time constant to two in a hundred: steps of one in a hundred. */
const STEP = 0.02;
const GRID = Array.from({ length: 281 }, (_, i) => (i - 140) * STEP);

function curved(
  kind: Kind,
  place: Place,
  history: History,
  days: readonly number[],
  laterDay: number,
  error: Linear,
): readonly Piece[] {
  const { step, fixed, family } = place;
  const p = POPULATION;
  const damped = kind === 'damped drift';
  const { days: usual, spread } = damped ? p.damped : p.ageing;
  const zeroMean = damped ? p.damped.zero.mean * step : 0;
  const zeroSd = damped ? p.damped.zero.sd * step : p.ageing.rateSd * step;
  const lossMean = damped && !fixed ? p.damped.loss.mean : 0;
  const lossSd = damped && !fixed ? p.damped.loss.sd : 0;
  const start: Belief = {
    mean: [0, zeroMean, fixed ? 1 : freshSensitivity(family), lossMean],
    covariance: diagonal([p.zeroSd * step, zeroSd, fixed ? 0 : p.sensitivitySd, lossSd]),
  };
  const tried = GRID.map((z) => {
    const tau = usual * Math.exp(spread * z);
    const rows = (day: number) => {
      const gone = 1 - Math.exp(-day / tau);
      const zero = damped ? [1, gone, 0, 0] : [1, day, 0, 0];
      const gain = damped ? [0, 0, 1, -gone] : [0, 0, fixed ? 1 : 1 - gone, 0];
      return { zero, gain };
    };
    let belief = start;
    let log = -0.5 * z * z;
    history.forEach((o, i) => {
      const { zero, gain } = rows(days[i]!);
      const one = update(belief, { row: zero, value: o.found.zero, variance: o.covariance[0][0] });
      const two = update(one.belief, { row: gain, value: o.found.sensitivity, variance: o.covariance[1][1] });
      belief = two.belief;
      log += one.logLikelihood + two.logLikelihood;
    });
    const { zero, gain } = rows(laterDay);
    const row = zero.map((v, i) => error[1] * v + error[2] * gain[i]!);
    return { log, ...along(belief, row, error[0]) };
  });
  return weighed(tried);
}

const MAX_WAYS = 60;

function jumping(
  { step, fixed, family }: Place,
  history: History,
  days: readonly number[],
  laterDay: number,
  error: Linear,
): readonly Piece[] {
  const { jumps, zeroSd, sensitivitySd } = POPULATION;
  let ways = [
    {
      log: 0,
      belief: {
        mean: [0, 0, fixed ? 1 : freshSensitivity(family)],
        covariance: diagonal([zeroSd * step, jumps.rateSd * step, fixed ? 0 : sensitivitySd]),
      } as Belief,
    },
  ];
  const after = (span: number) =>
    ways.flatMap(({ log, belief }) =>
      [0, 1, 2].flatMap((z) =>
        (fixed ? [0] : [0, 1]).map((g) => {
          const [a, b] = [(jumps.zeroAYear * span) / 365.25, (jumps.sensitivityAYear * span) / 365.25];
          const chance = poisson(z, a) * (fixed ? 1 : poisson(g, b));
          const motion: Motion = {
            transition: [1, span, 0, 0, 1, 0, 0, 0, 1],
            noise: diagonal([Math.sqrt(z) * jumps.zeroSd * step, 0, Math.sqrt(g) * jumps.sensitivitySd]),
          };
          return { log: log + Math.log(chance), belief: predict(belief, motion) };
        }),
      ),
    );
  let from = 0;
  history.forEach((o, i) => {
    const made = after(days[i]! - from).map(({ log, belief }) => {
      const one = update(belief, { row: [1, 0, 0], value: o.found.zero, variance: o.covariance[0][0] });
      const two = update(one.belief, { row: [0, 0, 1], value: o.found.sensitivity, variance: o.covariance[1][1] });
      return { log: log + one.logLikelihood + two.logLikelihood, belief: two.belief };
    });
    ways = made.sort((x, y) => y.log - x.log).slice(0, MAX_WAYS);
    from = days[i]!;
  });
  return weighed(
    after(laterDay - from).map(({ log, belief }) => ({
      log,
      ...along(belief, [error[1], 0, error[2]], error[0]),
    })),
  );
}

const poisson = (k: number, mean: number) => (Math.exp(-mean) * mean ** k) / [1, 1, 2][k]!;

function diagonal(sds: readonly number[]): number[] {
  const n = sds.length;
  const out = new Array<number>(n * n).fill(0);
  sds.forEach((sd, i) => (out[i * n + i] = sd ** 2));
  return out;
}

/** Mean and spread of constant + row·x. */
function along({ mean, covariance }: Belief, row: readonly number[], constant: number): { mean: number; sd: number } {
  const n = mean.length;
  let m = constant;
  let v = 0;
  for (let i = 0; i < n; i++) {
    m += row[i]! * mean[i]!;
    for (let j = 0; j < n; j++) v += row[i]! * row[j]! * covariance[i * n + j]!;
  }
  return { mean: m, sd: Math.sqrt(Math.max(0, v)) };
}

function weighed(tried: readonly { log: number; mean: number; sd: number }[]): readonly Piece[] {
  const top = Math.max(...tried.map((t) => t.log));
  const raw = tried.map((t) => Math.exp(t.log - top));
  const total = raw.reduce((s, w) => s + w, 0);
  return tried.map(({ mean, sd }, i) => ({ weight: raw[i]! / total, mean, sd }));
}
