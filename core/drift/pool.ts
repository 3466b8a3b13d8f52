import { logSum } from '../statistics/chances.ts';
import { minimiseInSteps } from '../statistics/descent.ts';
import { filtered } from './course.ts';
import { pacesOf } from './pace.ts';
import type { Observation, ServiceEvent } from './history.ts';
import type { FamilyPrior, FigurePrior } from '../sensor/prior.ts';

/** One sensor of a fleet: what is known of its family, in its own unit, and what it has been through. */
export interface Member {
  readonly prior: FamilyPrior;
  readonly history: readonly Observation[];
  readonly services?: readonly ServiceEvent[];
}

/** How one figure of a house's sensors, zero or sensitivity, differs from what is known of their family. */
export interface FigureFleet {
  readonly walk: number;
  readonly rateSd: number;
  /** how long a sensor keeps an unusual rate */
  readonly memory: number;
  readonly jumps: number;
  readonly jumpSize: number;
  /** how far the rate of a new sensor spreads */
  readonly firstSpread: number;
  /** usual rate, in what the family's rates spread by */
  readonly rate: number;
  /** what a new sensor's rate has on top of that */
  readonly first: number;
  /** by how much a cleaning moves it, in what that spreads by, and how far the sensors differ in it */
  readonly cleaned: number;
  readonly cleanedSpread: number;
}

/**
 * How the sensors of one house differ from what is known of their family: factors, so that sensors with signals of
 * different units are of one fleet. 1 everywhere (and rates of 0) is the family as it is known.
 */
export interface Fleet {
  readonly zero: FigureFleet;
  readonly sensitivity: FigureFleet;
  /** how far the sensors' paces are apart */
  readonly pace: number;
  /** how many sensors with two runs or more it was learned from */
  readonly sensors: number;
  readonly runs: number;
  /** where those of its own model have taught something on top: how many they are */
  readonly ofModel?: { readonly sensors: number; readonly runs: number };
}

const AS_KNOWN: FigureFleet = {
  walk: 1,
  rateSd: 1,
  memory: 1,
  jumps: 1,
  jumpSize: 1,
  firstSpread: 1,
  rate: 0,
  first: 0,
  cleaned: 0,
  cleanedSpread: 1,
};

/** The family as it is known beforehand. */
export const NO_FLEET: Fleet = { zero: AS_KNOWN, sensitivity: AS_KNOWN, pace: 1, sensors: 0, runs: 0 };

/** What a fleet makes of the family's prior. */
export const ofFleet = (prior: FamilyPrior, fleet: Fleet): FamilyPrior => ({
  zero: figureOf(prior.zero, fleet.zero),
  sensitivity: figureOf(prior.sensitivity, fleet.sensitivity),
  paceSd: prior.paceSd * fleet.pace,
  ...(prior.steadyShare ? { steadyShare: prior.steadyShare } : {}),
});

const figureOf = (prior: FigurePrior, fleet: FigureFleet): FigurePrior => ({
  ...prior,
  walk: prior.walk * fleet.walk,
  rate: prior.rate + prior.rateSd * fleet.rate,
  rateSd: prior.rateSd * fleet.rateSd,
  firstRate: prior.firstRate + prior.rateSd * fleet.first,
  firstRateSd: prior.firstRateSd * fleet.firstSpread,
  memoryDays: prior.memoryDays * fleet.memory,
  jumpsPerYear: prior.jumpsPerYear * fleet.jumps,
  jumpSd: prior.jumpSd * fleet.jumpSize,
  cleanedBy: prior.cleanedBy + prior.cleanedSd * fleet.cleaned,
  cleanedSd: prior.cleanedSd * fleet.cleanedSpread,
});

/** Logarithm of the density of all that was found in a history, before it was. */
const logLikelihood = ({ prior, history, services }: Member): number =>
  logSum(
    pacesOf(prior).map((pace) =>
      filtered(history, pace.prior, services).reduce((sum, k) => sum + k.logLikelihood, Math.log(pace.chance)),
    ),
  );

/** How little likely all was that was found in some histories, before it was: the smaller, the better it was foretold. */
export const unlikelihood = (members: readonly Member[]): number =>
  -members.reduce((sum, m) => sum + logLikelihood(m), 0);

/**
 * What is learned, each with how far a house may differ from the family: the standard deviation of its logarithm, or of
 * a rate in what the family's rates spread by. Our own choice; common practice has no figures.
 */
const FACTORS: readonly (readonly [figure: keyof FigureFleet, spread: number])[] = [
  ['walk', 4],
  ['rateSd', 4],
  ['memory', 1.2],
  ['jumps', 1.5],
  ['jumpSize', 0.7],
  ['firstSpread', 1.2],
];
const RATES: readonly (readonly [figure: keyof FigureFleet, spread: number])[] = [
  ['rate', 1.5],
  ['first', 1.5],
];
const PACE_SPREAD = 0.35;
/** Of each figure first what the zero has, then the sensitivity; the pace comes before what a new sensor does. */
const PACE_AT = 10;
const SPREADS = [...FACTORS, ...RATES].flatMap(([, spread]) => [spread, spread]).toSpliced(PACE_AT, 0, PACE_SPREAD);

/**
 * The first four are what a sensor does beside its usual course: how much it walks, how much its rate varies. 25 sensors
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

/**
 * What a house teaches is taken up as far as it has taught: of two sensors nearly nothing, of six a half, of 25 nearly all. The
 * likeliest figures of two sensors are those that suit these two, and bands that believe them held 75 of 100 where 95 were said.
 * Set on simulated houses of 2 to 12 sensors (seeds 7 and 9), which no report uses.
 */
const TAUGHT_HALF = 45;
const taughtBy = (sensors: number) => sensors ** 2 / (sensors ** 2 + TAUGHT_HALF);

const CLEANED_AS_KNOWN = { cleaned: AS_KNOWN.cleaned, cleanedSpread: AS_KNOWN.cleanedSpread };

const fleetAt = (x: readonly number[], sensors: number, runs: number, share = 1): Fleet => {
  const by = x.map((v, i) => share * v * SPREADS[i]!);
  const figures = by.toSpliced(PACE_AT, 1);
  const figureAt = (one: 0 | 1) =>
    Object.fromEntries([
      ...FACTORS.map(([name], i) => [name, Math.exp(figures[2 * i + one]!)] as const),
      ...RATES.map(([name], i) => [name, figures[2 * (FACTORS.length + i) + one]!] as const),
      ...Object.entries(CLEANED_AS_KNOWN),
    ]) as unknown as FigureFleet;
  return { zero: figureAt(0), sensitivity: figureAt(1), pace: Math.exp(by[PACE_AT]!), sensors, runs };
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
  const taken = tellingOf(members);
  if (taken.length === 0) return NO_FLEET;
  const fleet = yield* searching(taken);
  const helps = taken.length < 2 || (yield* foretellsBetter(taken, NO_FLEET));
  return withCleanings(helps ? fleet : { ...NO_FLEET, sensors: fleet.sensors, runs: fleet.runs }, taken);
}

/** Sensors with two runs or more; of very many some. */
export function tellingOf(members: readonly Member[]): readonly Member[] {
  const telling = members.filter((m) => m.history.length > 1);
  const every = Math.ceil(telling.length / MAX_SENSORS);
  return telling.filter((_, i) => i % every === 0);
}

/**
 * Does what one half of the sensors teaches foretell the other half better than what is known of them already? Learning must not
 * make a sensor that was left out less expected.
 */
export function* foretellsBetter(members: readonly Member[], known: Fleet): Generator<PoolProgress, boolean> {
  const mine = members.map((m): Member => ({ ...m, prior: ofFleet(m.prior, known) }));
  const halves = [0, 1].map((half) => mine.filter((_, i) => i % 2 === half)) as [Member[], Member[]];
  let better = 0;
  for (const [taught, left] of [halves, halves.toReversed() as [Member[], Member[]]]) {
    const half = yield* searching(taught);
    better += unlikelihood(left) - unlikelihood(left.map((m) => ({ ...m, prior: ofFleet(m.prior, half) })));
  }
  return better > 0;
}

/** The search of `pooling`, over sensors with two runs or more. */
export function* searching(taken: readonly Member[]): Generator<PoolProgress, Fleet> {
  const runs = taken.reduce((sum, m) => sum + m.history.length, 0);
  const unlikely = (x: readonly number[]) => {
    const fleet = fleetAt(x, taken.length, runs);
    const beforehand = x.reduce((sum, v, i) => {
      const log = v * SPREADS[i]!;
      return sum + 0.5 * v * v + (i < NOISES ? NOISE_ASKED_FOR * Math.exp(log) - AWAY_FROM_NOTHING * log : 0);
    }, 0);
    return beforehand + unlikelihood(taken.map((m) => ({ ...m, prior: ofFleet(m.prior, fleet) })));
  };
  const search = minimiseInSteps(unlikely, new Array<number>(SPREADS.length).fill(0), TOLERANCE, MAX_EVALUATIONS);
  for (;;) {
    const { done, value } = search.next();
    const fleet = fleetAt(value.at, taken.length, runs, taughtBy(taken.length));
    if (done) return fleet;
    yield { share: value.evaluations / MAX_EVALUATIONS, fleet };
  }
}

/** What is known of a cleaning beforehand weighs as much as so many sensors. Our own choice. */
const CLEANED_SENSORS = 2;
/** However alike they are, the next one may differ by this share of what was expected beforehand. */
const LEAST_SPREAD = 0.5;

/** The same with what cleanings did to the sensors of a house: by how much, and how far they differ in it. */
export function withCleanings(fleet: Fleet, members: readonly Member[]): Fleet {
  const taught = members.flatMap(({ prior, history, services }) => {
    const lessons = filtered(history, ofFleet(prior, fleet), services).at(-1)?.state.lessons;
    return lessons?.cleaned[0].times ? [{ prior, cleaned: lessons.cleaned }] : [];
  });
  const of = (name: 'zero' | 'sensitivity', i: 0 | 1): FigureFleet => {
    const moved = taught.flatMap(({ prior, cleaned }) => {
      const { cleanedBy, cleanedSd } = prior[name];
      return cleanedSd > 0 ? [(cleaned[i].mean - cleanedBy) / cleanedSd] : [];
    });
    const n = moved.length + CLEANED_SENSORS;
    const mean = moved.reduce((sum, m) => sum + m, 0) / n;
    const spread = Math.sqrt((CLEANED_SENSORS + moved.reduce((sum, m) => sum + (m - mean) ** 2, 0)) / n);
    return { ...fleet[name], cleaned: mean, cleanedSpread: Math.max(LEAST_SPREAD, spread) };
  };
  return taught.length ? { ...fleet, zero: of('zero', 0), sensitivity: of('sensitivity', 1) } : fleet;
}

/** `pooling` to its end at once. */
export function poolOf(members: readonly Member[]): Fleet {
  const search = pooling(members);
  for (;;) {
    const { done, value } = search.next();
    if (done) return value;
  }
}
