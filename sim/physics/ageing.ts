import { chance, seedOf } from './chance.ts';
import type { ElectrodeTruth } from './electrode.ts';
import { FRESH_KCL, FRESH_REFERENCE, shiftOf, type ReferenceTruth } from './reference.ts';
import { BARE_BODY, type BodyTruth } from './truth.ts';

/** What happens to an electrode over its life, in days since it was fitted. Not the drift model of the core: no filter here. */
export interface Life {
  readonly newZeroMv: number;
  readonly newSlope: number;
  readonly fastSeconds: number;
  readonly slowSeconds: number;
  readonly slowShare: number;
  readonly noiseMv: number;
  readonly megohm: number;
  /** share of slope lost a day as the glass's gel layer leaches or a tip wears, after `wearFromDay` */
  readonly wearPerDay: number;
  readonly wearFromDay: number;
  /** KCl left in the reference: molality falls to 1/e in this many days after `dilutionFromDay`; Infinity = sound */
  readonly dilutionDays: number;
  readonly dilutionFromDay: number;
  /** the reference is filled up again on this day */
  readonly refilledOnDay?: number;
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
  megohm: 120,
  wearPerDay: 0.00004,
  wearFromDay: 0,
  dilutionDays: Infinity,
  dilutionFromDay: 0,
  blockedMvPerDay: 0,
  blockedFromDay: 0,
  wanderMv: 1.2,
};

const after = (days: number, from: number) => Math.max(0, days - from);

/** The reference of a body at an age. */
export function referenceAt(life: Life, days: number): ReferenceTruth {
  const { refilledOnDay = Infinity, dilutionFromDay, dilutionDays } = life;
  const since = days >= refilledOnDay ? Math.max(refilledOnDay, dilutionFromDay) : dilutionFromDay;
  const lost = Number.isFinite(dilutionDays) ? after(days, since) / dilutionDays : 0;
  const blockedMv = life.blockedMvPerDay * after(days, life.blockedFromDay);
  return {
    ...FRESH_REFERENCE,
    kcl: FRESH_KCL * Math.exp(-lost),
    blockedMv,
    junctionKohm: FRESH_REFERENCE.junctionKohm * (1 + 1.5 * Math.abs(blockedMv)),
  };
}

/**
 * One electrode at an age, against a fresh reference.
 *
 * @param days since fitted
 * @param seed the wander of this one electrode
 */
export function electrodeAt(life: Life, days: number, seed: number): ElectrodeTruth {
  const worn = life.wearPerDay * after(days, life.wearFromDay);
  const clogged = life.blockedMvPerDay ? 0.01 * after(days, life.blockedFromDay) : 0;
  return {
    zeroMv: life.newZeroMv + wander(life.wanderMv, days, seed),
    slope: life.newSlope - worn,
    fastSeconds: life.fastSeconds * (1 + 6 * worn),
    slowSeconds: life.slowSeconds * (1 + 10 * worn + clogged),
    slowShare: Math.min(0.5, life.slowShare * (1 + 8 * worn)),
    noiseMv: life.noiseMv,
    megohm: life.megohm * (1 + 5 * worn),
  };
}

/** A body with a single pH electrode on a reference of its own, at an age. */
export const phBodyAt = (life: Life, days: number, seed: number): BodyTruth => ({
  ...BARE_BODY,
  reference: referenceAt(life, days),
  electrodes: { ph: electrodeAt(life, days, seed) },
});

/** What buffers find of an electrode: zero with its reference at 25 °C, and slope. The judge of what the screen says. */
export function foundInBuffers({ reference, electrodes }: BodyTruth, name: string): { zeroMv: number; slope: number } {
  const { zeroMv, slope } = electrodes[name]!;
  return { zeroMv: zeroMv - shiftOf(reference, 25), slope };
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
