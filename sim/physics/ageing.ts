import { chance, seedOf } from './chance.ts';
import type { ProbeTruth } from './ph-probe.ts';

/** What happens to a probe over its life, in days since it was fitted. Not the drift model of the core: no filter here. */
export interface Life {
  readonly newZeroMv: number;
  readonly newSlope: number;
  readonly fastSeconds: number;
  readonly slowSeconds: number;
  readonly slowShare: number;
  readonly noiseMv: number;
  /** share of slope lost a day as the glass's gel layer leaches, after `glassFromDay` */
  readonly glassLossPerDay: number;
  readonly glassFromDay: number;
  /** KCl left in the reference: molality falls to 1/e in this many days after `dilutionFromDay`; Infinity = sound */
  readonly dilutionDays: number;
  readonly dilutionFromDay: number;
  /** potential that a blocked junction adds in samples only, mV a day after `blockedFromDay` */
  readonly blockedMvPerDay: number;
  readonly blockedFromDay: number;
  /** restlessness of the zero, mV (a wandering sum of slow waves) */
  readonly wanderMv: number;
}

export const SOUND: Life = {
  newZeroMv: 0,
  newSlope: 0.985,
  fastSeconds: 4,
  slowSeconds: 22,
  slowShare: 0.12,
  noiseMv: 0.12,
  glassLossPerDay: 0.00004,
  glassFromDay: 0,
  dilutionDays: Infinity,
  dilutionFromDay: 0,
  blockedMvPerDay: 0,
  blockedFromDay: 0,
  wanderMv: 1.2,
};

/** Reference potential over KCl molality: kT/e per natural logarithm, activity coefficients left aside. */
const MV_PER_LN_MOLALITY = 25.693;

/**
 * Truth of a probe at an age.
 *
 * @param days since fitted
 * @param seed the wander of this one probe
 */
export function truthAt(life: Life, days: number, seed: number): ProbeTruth {
  const after = (from: number) => Math.max(0, days - from);
  const glass = life.glassLossPerDay * after(life.glassFromDay);
  const lnLoss = Number.isFinite(life.dilutionDays) ? after(life.dilutionFromDay) / life.dilutionDays : 0;
  return {
    zeroMv: life.newZeroMv - MV_PER_LN_MOLALITY * lnLoss + wander(life.wanderMv, days, seed),
    slope: life.newSlope - glass,
    fastSeconds: life.fastSeconds * (1 + 6 * glass),
    slowSeconds: life.slowSeconds * (1 + 10 * glass + after(life.blockedFromDay) * (life.blockedMvPerDay ? 0.01 : 0)),
    slowShare: Math.min(0.5, life.slowShare * (1 + 8 * glass)),
    noiseMv: life.noiseMv,
    sampleShiftMv: life.blockedMvPerDay * after(life.blockedFromDay),
  };
}

/** Five waves of random phase and period (20 to 400 days): a wander that is no random walk. */
function wander(sizeMv: number, days: number, seed: number): number {
  const dice = chance(seedOf(seed, 'wander'));
  let sum = 0;
  for (let i = 0; i < 5; i++) {
    const period = 20 * 20 ** dice.uniform();
    sum += Math.sin(2 * Math.PI * (days / period + dice.uniform()));
  }
  return (sizeMv * sum) / Math.sqrt(2.5);
}
