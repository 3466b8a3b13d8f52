import { logSum } from '../statistics/chances.ts';
import { minimiseInSteps } from '../statistics/descent.ts';
import { filtered } from './course.ts';
import { pacesOf } from './pace.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** One sensor of a fleet: what is known of its family, in its own unit, and what it has been through. */
export interface Member {
  readonly prior: FamilyPrior;
  readonly history: readonly Observation[];
  readonly services?: readonly ServiceEvent[];
}

/**
 * How the sensors of one house differ from what is known of their family: factors, so that sensors with signals of
 * different units are of one fleet. 1 everywhere (and rates of 0) is the family as it is known.
 */
export interface Fleet {
  readonly zeroWalk: number;
  readonly sensitivityWalk: number;
  readonly zeroRateSd: number;
  readonly sensitivityRateSd: number;
  /** how long a sensor keeps an unusual rate */
  readonly zeroMemory: number;
  readonly sensitivityMemory: number;
  readonly zeroJumps: number;
  readonly sensitivityJumps: number;
  readonly zeroJumpSize: number;
  readonly sensitivityJumpSize: number;
  /** how far the sensors' paces are apart */
  readonly pace: number;
  /** how far the rates of a new sensor spread */
  readonly zeroFirstSpread: number;
  readonly sensitivityFirstSpread: number;
  /** usual rates, in what the family's rates spread by */
  readonly zeroRate: number;
  readonly sensitivityRate: number;
  /** what a new sensor's rates have on top of that */
  readonly zeroFirst: number;
  readonly sensitivityFirst: number;
  /** how many sensors with two runs or more it was learned from */
  readonly sensors: number;
  readonly runs: number;
}

/** The family as it is known beforehand. */
export const NO_FLEET: Fleet = {
  zeroWalk: 1,
  sensitivityWalk: 1,
  zeroRateSd: 1,
  sensitivityRateSd: 1,
  zeroMemory: 1,
  sensitivityMemory: 1,
  zeroJumps: 1,
  sensitivityJumps: 1,
  zeroJumpSize: 1,
  sensitivityJumpSize: 1,
  pace: 1,
  zeroFirstSpread: 1,
  sensitivityFirstSpread: 1,
  zeroRate: 0,
  sensitivityRate: 0,
  zeroFirst: 0,
  sensitivityFirst: 0,
  sensors: 0,
  runs: 0,
};

/** What a fleet makes of the family's prior. */
export const ofFleet = (prior: FamilyPrior, fleet: Fleet): FamilyPrior => ({
  ...prior,
  zeroWalk: prior.zeroWalk * fleet.zeroWalk,
  sensitivityWalk: prior.sensitivityWalk * fleet.sensitivityWalk,
  zeroRateSd: prior.zeroRateSd * fleet.zeroRateSd,
  sensitivityRateSd: prior.sensitivityRateSd * fleet.sensitivityRateSd,
  zeroRate: prior.zeroRate + prior.zeroRateSd * fleet.zeroRate,
  sensitivityRate: prior.sensitivityRate + prior.sensitivityRateSd * fleet.sensitivityRate,
  zeroFirstRate: prior.zeroFirstRate + prior.zeroRateSd * fleet.zeroFirst,
  sensitivityFirstRate: prior.sensitivityFirstRate + prior.sensitivityRateSd * fleet.sensitivityFirst,
  zeroFirstRateSd: prior.zeroFirstRateSd * fleet.zeroFirstSpread,
  sensitivityFirstRateSd: prior.sensitivityFirstRateSd * fleet.sensitivityFirstSpread,
  zeroMemoryDays: prior.zeroMemoryDays * fleet.zeroMemory,
  sensitivityMemoryDays: prior.sensitivityMemoryDays * fleet.sensitivityMemory,
  paceSd: prior.paceSd * fleet.pace,
  zeroJumpsPerYear: prior.zeroJumpsPerYear * fleet.zeroJumps,
  sensitivityJumpsPerYear: prior.sensitivityJumpsPerYear * fleet.sensitivityJumps,
  zeroJumpSd: prior.zeroJumpSd * fleet.zeroJumpSize,
  sensitivityJumpSd: prior.sensitivityJumpSd * fleet.sensitivityJumpSize,
});

/** Logarithm of the density of all that was found in a history, before it was. */
const logLikelihood = ({ prior, history, services }: Member): number =>
  logSum(
    pacesOf(prior).map((pace) =>
      filtered(history, pace.prior, services).reduce((sum, k) => sum + k.logLikelihood, Math.log(pace.chance)),
    ),
  );

/**
 * What is learned, each with how far a house may differ from the family: the standard deviation of its logarithm, or of
 * a rate in what the family's rates spread by. Our own choice; common practice has no figures.
 */
const LEARNED = [
  ['zeroWalk', 4],
  ['sensitivityWalk', 4],
  ['zeroRateSd', 4],
  ['sensitivityRateSd', 4],
  ['zeroMemory', 1.2],
  ['sensitivityMemory', 1.2],
  ['zeroJumps', 1.5],
  ['sensitivityJumps', 1.5],
  ['zeroJumpSize', 0.7],
  ['sensitivityJumpSize', 0.7],
  ['pace', 0.35],
  ['zeroFirstSpread', 1.2],
  ['sensitivityFirstSpread', 1.2],
  ['zeroRate', 1.5],
  ['sensitivityRate', 1.5],
  ['zeroFirst', 1.5],
  ['sensitivityFirst', 1.5],
] as const;
/** Those from here on are rates, the others factors. */
const FIRST_RATE = 13;
/**
 * The first of them are what a sensor does beside its usual course: how much it walks, how much its rate varies. 25 sensors
 * hardly tell a little of it from nothing: the likeliest figure is nothing as often as not, and bands that believe it hold far
 * too little. So these keep away from nothing, by a power of their size, and are taken up only as far as runs ask for
 * them, by an exponential density, one in twenty beyond what is known of the family, which is meant to be wide.
 *
 * @see Chung, Rabe-Hesketh et al., Psychometrika 78 (2013) 685 (away from nothing); Simpson et al., Penalising model component
 * complexity, Statistical Science 32 (2017) 1 (as far as asked for); both from memory
 */
const NOISES = 4;
const NOISE_ASKED_FOR = -Math.log(0.05);
const AWAY_FROM_NOTHING = 0.2;
const TOLERANCE = 0.02;
const MAX_EVALUATIONS = 1500;
/** More sensors than this tell no more: every n-th is taken. */
const MAX_SENSORS = 150;

const fleetAt = (x: readonly number[], sensors: number, runs: number): Fleet => {
  const made = LEARNED.map(([name, spread], i) => {
    const by = x[i]! * spread;
    return [name, i < FIRST_RATE ? Math.exp(by) : by] as const;
  });
  return { ...(Object.fromEntries(made) as Record<(typeof LEARNED)[number][0], number>), sensors, runs };
};

/** How far a search for a fleet is, 0 to 1, with what it would say now. */
export interface PoolProgress {
  readonly share: number;
  readonly fleet: Fleet;
}

/**
 * Learns from all sensors of one family how this house's differ from the family (empirical Bayes): the likeliest factors,
 * beforehand near 1, given all that was found. A sensor with one run then gets an honest cone from its siblings.
 *
 * @param members sensors of one family; those with a single run tell nothing and are left out
 * @yields how far it is: the caller may stop at any time and keep the last fleet
 * @example poolOf([]).sensors // 0
 */
export function* pooling(members: readonly Member[]): Generator<PoolProgress, Fleet> {
  const telling = members.filter((m) => m.history.length > 1);
  const every = Math.ceil(telling.length / MAX_SENSORS);
  const taken = telling.filter((_, i) => i % every === 0);
  if (taken.length === 0) return NO_FLEET;
  const runs = taken.reduce((sum, m) => sum + m.history.length, 0);
  const unlikely = (x: readonly number[]) => {
    const fleet = fleetAt(x, taken.length, runs);
    const beforehand = x.reduce((sum, v, i) => {
      const log = v * LEARNED[i]![1];
      return sum + 0.5 * v * v + (i < NOISES ? NOISE_ASKED_FOR * Math.exp(log) - AWAY_FROM_NOTHING * log : 0);
    }, 0);
    const found = taken.reduce((sum, m) => sum + logLikelihood({ ...m, prior: ofFleet(m.prior, fleet) }), 0);
    return beforehand - found;
  };
  const search = minimiseInSteps(unlikely, new Array<number>(LEARNED.length).fill(0), TOLERANCE, MAX_EVALUATIONS);
  for (;;) {
    const { done, value } = search.next();
    const fleet = fleetAt(value.at, taken.length, runs);
    if (done) return fleet;
    yield { share: value.evaluations / MAX_EVALUATIONS, fleet };
  }
}

/** `pooling` to its end at once. */
export function poolOf(members: readonly Member[]): Fleet {
  const search = pooling(members);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}
