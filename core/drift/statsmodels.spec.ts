import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import { smoothed } from '../statistics/kalman.ts';
import { filtered } from './course.ts';
import { motionOver } from './state.ts';
import { type Observation } from './history.ts';

const PYTHON = '/usr/bin/python3';
const there = spawnSync(PYTHON, ['-c', 'import statsmodels.api'], { stdio: 'ignore' }).status === 0;
if (!there) console.log('Debian’s python3-statsmodels is not here: the comparison with its Kalman filter is skipped.');

/** The same matrices, filtered and smoothed by statsmodels: its own code in Cython, nothing of ours. */
const SCRIPT = `
import json, sys
import numpy as np
from statsmodels.tsa.statespace.mlemodel import MLEModel
d = json.load(sys.stdin)
n = len(d['values'])
m = MLEModel(np.array(d['values']), k_states=4, k_posdef=4)
m['design'] = np.array([[1., 0, 0, 0], [0, 0, 1., 0]])
m['selection'] = np.eye(4)
m['obs_cov'] = np.array(d['noise']).transpose(1, 2, 0)
# Its matrices of one moment lead to the next one.
m['transition'] = np.array(d['transition']).reshape(n, 4, 4).transpose(1, 2, 0)
m['state_cov'] = np.array(d['process']).reshape(n, 4, 4).transpose(1, 2, 0)
m['state_intercept'] = np.array(d['shift']).T
m.initialize_known(np.array(d['mean']), np.array(d['covariance']).reshape(4, 4))
r = m.ssm.smooth()
print(json.dumps({'log': float(r.llf_obs.sum()), 'smoothed': r.smoothed_state.T.tolist(), 'cov': r.smoothed_state_cov.transpose(2, 0, 1).reshape(n, 16).tolist()}))
`;
import { PH_PRIOR } from '../families/ph/prior.ts';
import { withFigures } from '../testing/with-figures.ts';

/** Runs 3 to 150 days apart, their noise correlated and of different size. */
function irregular(seed: number): Observation[] {
  const dice = seededChance(seed);
  let day = 0;
  let zero = 8 * dice.normal();
  return Array.from({ length: 14 }, (): Observation => {
    day += 3 + 147 * dice.uniform() ** 2;
    zero += 2 * dice.normal();
    const sd = 0.3 + dice.uniform();
    const shared = 0.5 * sd * 0.004;
    const found = { zero: zero + sd * dice.normal(), sensitivity: 0.96 + 0.01 * dice.normal() };
    return {
      atMs: day * MS_PER_DAY,
      kind: 'calibration',
      found,
      covariance: [
        [sd ** 2, shared],
        [shared, 0.004 ** 2],
      ],
      inForceAfter: found,
      cleaned: false,
    };
  });
}

describe.skipIf(!there)('beside statsmodels (an MLEModel of the same matrices)', () => {
  const prior = withFigures(
    PH_PRIOR,
    { jumpsPerYear: 0, rate: -0.03, firstRate: 0.02, firstRateSd: 0.09 },
    { jumpsPerYear: 0, rate: -0.0002, firstRateSd: 0.0005 },
  );
  it.each([101, 102, 103])('seed %s: likelihood and smoothed states agree within 1e-6', (seed) => {
    const history = irregular(seed);
    const course = filtered(history, prior);
    const motions = history.slice(1).map((o, i) => motionOver(prior, (o.atMs - history[i]!.atMs) / MS_PER_DAY));
    const mine = smoothed(
      course.map((c) => c.state.belief),
      motions,
    );
    const last = motionOver(prior, 1);
    const all = [...motions, last];
    const sds = [prior.zero.sd, prior.zero.firstRateSd, prior.sensitivity.sd, prior.sensitivity.firstRateSd];
    const input = {
      values: history.map((o) => [o.found.zero, o.found.sensitivity]),
      noise: history.map((o) => o.covariance),
      transition: all.map((m) => m.transition),
      process: all.map((m) => m.noise),
      shift: all.map((m) => m.shift),
      mean: [
        prior.zero.value,
        prior.zero.rate + prior.zero.firstRate,
        prior.sensitivity.value,
        prior.sensitivity.rate + prior.sensitivity.firstRate,
      ],
      covariance: sds.flatMap((sd, i) => sds.map((_, j) => (i === j ? sd ** 2 : 0))),
    };
    const { stdout, stderr } = spawnSync(PYTHON, ['-W', 'ignore', '-c', SCRIPT], { input: JSON.stringify(input) });
    const theirs = JSON.parse(stdout.toString() || `{"error": ${JSON.stringify(stderr.toString())}}`) as {
      log: number;
      smoothed: number[][];
      cov: number[][];
    };
    const near = (a: number, b: number) => Math.abs(a - b) <= 1e-6 * Math.max(Math.abs(a), Math.abs(b), 1e-9);
    const log = course.reduce((sum, c) => sum + c.logLikelihood, 0);
    expect(near(log, theirs.log), `${log} ${theirs.log}`).toBe(true);
    mine.forEach((belief, t) => {
      for (const i of [0, 1, 2, 3]) {
        expect(near(belief.mean[i]!, theirs.smoothed[t]![i]!), `mean ${t} ${i}`).toBe(true);
        expect(near(belief.covariance[5 * i]!, theirs.cov[t]![5 * i]!), `variance ${t} ${i}`).toBe(true);
      }
    });
  });
});
