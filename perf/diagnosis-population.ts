import {
  MS_PER_DAY,
  significantStep,
  familyOf,
  filtered,
  healthFacts,
  modelOf,
  pastOf,
  type HealthChecks,
  type HealthFacts,
  type HealthFigure,
  type Observation,
} from '@frustum/core';
import {
  chance,
  DEEDS,
  FAULTS,
  foundInBuffers,
  phBodyAt,
  seedOf,
  SOUND,
  type BodyTruth,
  type Chance,
  type Fault,
} from '@frustum/sim';

/**
 * Histories of pH electrodes, each with one named fault or none, made by the simulator's bodies and its faults: it shares no
 * density and no filter with the core; `significantStep` gives the step in which both count, and the runs go through the core's own
 * filter, as they do in the application.
 */
export const BEFALLEN = [
  'sound',
  'electrolyte-diluted',
  'reference-contaminated',
  'junction-blocked',
  'glass-aged',
  'connector-moist',
  'glass-cracked',
  'standard-wrong',
  'process-moved',
] as const;
export type Befallen = (typeof BEFALLEN)[number];

/** Calibrations only; with independent checks; with what shares reference, bottle and water, and with impedances. */
export const TIERS = [1, 2, 3] as const;
export type Tier = (typeof TIERS)[number];

/** The simulator's fault behind a cause, how bad it is in the end, and whether it comes at once. */
const DIALS: Readonly<Partial<Record<Befallen, { fault: string; from: number; to: number; sudden?: boolean }>>> = {
  'electrolyte-diluted': { fault: 'electrolyte diluted', from: 0.2, to: 0.5 },
  'reference-contaminated': { fault: 'reference contaminated', from: 0.3, to: 0.8 },
  'junction-blocked': { fault: 'junction blocked', from: 0.4, to: 1 },
  'glass-aged': { fault: 'glass aged', from: 0.3, to: 0.8 },
  'connector-moist': { fault: 'moist connector', from: 0.06, to: 0.3 },
  'glass-cracked': { fault: 'glass cracked', from: 0.6, to: 1, sudden: true },
};
/** What somebody does to the sensor, and the simulator's deed behind it. */
const SERVICES = { cleaned: 'clean', refilled: 'refill', 'plug dried': 'dry the plug' } as const;
export type Service = keyof typeof SERVICES;
/** A bottle is off by so much, and the water moves by so much, pH. */
const OFF_PH = { from: 0.1, to: 0.4 };
const MOVED_PH = { from: 0.15, to: 0.5 };

const RUNS = 9;
const K_25 = 59.16;
const BUFFERS = [7, 4.01] as const;
/** Of one buffer reading, mV: bottle, settling, junction. */
const READ_SD = 0.5;
const SAMPLE_SD_STEPS = 4;
const READING_SD_STEPS = 2;
const DIRTY = 1.15;

const family = familyOf('ph');
const model = modelOf(family, {});
const PLACE = { model, value: 6, temperatureC: 25 };
const STEP = significantStep(family, model, PLACE);
const PRIOR = family.prior(STEP);

const between = (dice: Chance, from: number, to: number) => from + (to - from) * dice.uniform();
const sign = (dice: Chance) => (dice.uniform() < 0.5 ? -1 : 1);

/** One history, and what is known of it in each tier. */
export interface Case {
  readonly truth: Befallen;
  readonly seed: number;
  readonly facts: Readonly<Record<Tier, HealthFacts>>;
  /** the same after a grab sample, and after another run in a fresh bottle */
  readonly sampled: Readonly<Record<Tier, HealthFacts>>;
  readonly retested: Readonly<Record<Tier, HealthFacts>>;
  /** the same after a service and a run in the same bottles */
  readonly serviced: Readonly<Record<Service, Readonly<Record<Tier, HealthFacts>>>>;
  /** for a sound one: what is known after each of its runs, in the first and the last tier */
  readonly along: readonly (readonly [HealthFacts, HealthFacts])[];
  readonly years: number;
}

/** What a two-point calibration makes of two readings. */
function twoPoints(readings: readonly [number, number], atMs: number): Observation {
  const span = K_25 * (BUFFERS[0] - BUFFERS[1]);
  const sensitivity = (readings[1] - readings[0]) / span;
  const [sdZero, sdSlope] = [READ_SD, (READ_SD * Math.SQRT2) / span];
  const found = { zero: readings[0], sensitivity };
  return {
    atMs,
    kind: 'calibration',
    found,
    covariance: [
      [sdZero ** 2, -(READ_SD ** 2) / span],
      [-(READ_SD ** 2) / span, sdSlope ** 2],
    ],
    inForceAfter: found,
    cleaned: false,
  };
}

/** Nine tenths of a step by a fast and a slow way, by bisection, s. */
function t90Of({
  fastSeconds,
  slowSeconds,
  slowShare,
}: {
  fastSeconds: number;
  slowSeconds: number;
  slowShare: number;
}) {
  let [low, high] = [0, 10 * slowSeconds];
  for (let i = 0; i < 40; i++) {
    const t = (low + high) / 2;
    const left = (1 - slowShare) * Math.exp(-t / fastSeconds) + slowShare * Math.exp(-t / slowSeconds);
    if (left > 0.1) low = t;
    else high = t;
  }
  return high;
}

/** The slope that an input of this insulation shows. */
const seenSlope = (truth: BodyTruth, slope: number) => {
  const { megohm } = truth.electrodes['ph']!;
  const { insulationMohm } = truth.input;
  return Number.isFinite(insulationMohm) ? (slope * insulationMohm) / (insulationMohm + megohm) : slope;
};

/** The life that a body leads, and what befalls it when. */
function lifeOf(dice: Chance, truth: Befallen, seed: number) {
  const life = {
    ...SOUND,
    newZeroMv: 3 * dice.normal(),
    newSlope: between(dice, 0.955, 0.995),
    fastSeconds: between(dice, 3, 8),
    slowSeconds: between(dice, 15, 40),
    megohm: between(dice, 70, 220),
    wearPerDay: between(dice, 0.00002, 0.00008),
    wanderMv: between(dice, 0.6, 1.8),
  };
  const days = Array.from({ length: RUNS + 1 }, () => between(dice, 24, 40)).reduce<number[]>(
    (all, d) => [...all, (all.at(-1) ?? 40) + d],
    [],
  );
  const dial = DIALS[truth];
  const worst = dial ? between(dice, dial.from, dial.to) : 0;
  const turned = truth === 'reference-contaminated' ? sign(dice) : 1;
  const last = days[RUNS - 1]!;
  const onset = dial?.sudden ? last - 1 : days[RUNS - (dice.uniform() < 0.5 ? 4 : 5)]!;
  const fault = FAULTS.find((f) => f.name === dial?.fault);
  const bodyAt = (day: number): BodyTruth => {
    const own = phBodyAt(life, day, seed);
    const share = dial?.sudden ? Number(day > onset) : Math.min(1, Math.max(0, (day - onset) / (last - onset)));
    return fault && share > 0 ? fault.on(own, turned * worst * share, Infinity) : own;
  };
  return { days: days.slice(0, RUNS), last, bodyAt };
}

interface Timed {
  readonly observation: Observation;
  readonly timed: { readonly t90: number; readonly temperatureC: number };
}

/** A run in two bottles, of which one may be off, after somebody did something to the sensor or not. */
type RunOn = (day: number, offPh: number, deed?: Fault) => Timed;

/** @param which the bottle that is off, if one is */
function runsOf(dice: Chance, bodyAt: (day: number) => BodyTruth, which: 0 | 1): RunOn {
  // What a refill leaves of a contamination: anything from nothing to all of it.
  const onWire = dice.uniform();
  return (day, off, deed) => {
    const was = bodyAt(day);
    const after = deed ? deed.on(was, 1, Infinity) : was;
    const contaminationMv =
      deed === DEEDS.refill ? onWire * was.reference.contaminationMv : after.reference.contaminationMv;
    const body = { ...after, reference: { ...after.reference, contaminationMv } };
    const { zeroMv, slope } = foundInBuffers(body, 'ph');
    const read = (k: 0 | 1) =>
      zeroMv - seenSlope(body, slope) * K_25 * (BUFFERS[k] + (k === which ? off : 0) - 7) + READ_SD * dice.normal();
    const temperatureC = between(dice, 17, 26);
    const t90 = t90Of(body.electrodes['ph']!) * DIRTY ** dice.normal() * Math.exp(0.027 * (25 - temperatureC));
    return { observation: twoPoints([read(0), read(1)], day * MS_PER_DAY), timed: { t90, temperatureC } };
  };
}

/** How far the reading of one bottle moved from the last run but one to the last. */
function movedInBottle(list: readonly Timed[], which: 0 | 1): HealthFigure {
  const [a, b] = list.slice(-2).map((r) => r.observation.found);
  const at = (f: Observation['found']) => f.zero - f.sensitivity * K_25 * (BUFFERS[which] - 7);
  return { value: (at(b!) - at(a!)) / STEP, sd: (READ_SD * Math.SQRT2) / STEP };
}

const figureOf = (dice: Chance, value: number, sd: number): HealthFigure => ({ value: value + sd * dice.normal(), sd });

/** What another sensor in the same bottle moved by. */
const fellowOf = (dice: Chance, offPh: number) =>
  figureOf(dice, (-offPh * K_25 * 0.97) / STEP + 2 * dice.normal(), 1.2);

interface Known {
  readonly truth: Befallen;
  readonly now: BodyTruth;
  /** by which its reference has moved since the first run, mV */
  readonly since: number;
  readonly offPh: number;
  readonly mine: HealthFigure;
}

/** Checks that are known beside the runs, in each tier. */
function knownBeside(dice: Chance, { truth, now, since, offPh, mine }: Known): Readonly<Record<Tier, HealthChecks>> {
  const movedPh = truth === 'process-moved' ? sign(dice) * between(dice, MOVED_PH.from, MOVED_PH.to) : 0;
  const movedSteps = (-movedPh * K_25 * now.electrodes['ph']!.slope) / STEP;
  const sampleOff = figureOf(dice, now.reference.blockedMv / STEP, SAMPLE_SD_STEPS);
  const fellow = () => fellowOf(dice, offPh);
  const inReference = truth === 'electrolyte-diluted' || truth === 'reference-contaminated';
  const sibling = () => figureOf(dice, (inReference ? since : 0) + 1.5 * dice.normal(), 0.8);
  const { megohm } = now.electrodes['ph']!;
  const { insulationMohm: leak } = now.input;
  const membraneMohm = (Number.isFinite(leak) ? (megohm * leak) / (megohm + leak) : megohm) * DIRTY ** dice.normal();
  // A thinner electrolyte conducts less, about in proportion.
  const referenceKohm = now.reference.junctionKohm * (3 / now.reference.kcl) * 1.3 ** dice.normal();
  const checks: HealthChecks = {
    readingMoved: figureOf(dice, movedSteps, READING_SD_STEPS),
    fellows: { mine, others: [fellow()] },
    sampleOff,
  };
  return {
    1: {},
    2: checks,
    3: {
      ...checks,
      fellows: { mine, others: [fellow(), fellow()] },
      siblings: [sibling(), sibling()],
      twins: [figureOf(dice, movedSteps, READING_SD_STEPS)],
      membraneMohm,
      referenceKohm,
    },
  };
}

function factsOf(list: readonly Timed[], more: HealthChecks): HealthFacts {
  const observations = list.map((r) => r.observation);
  const past = pastOf(filtered(observations, PRIOR), PRIOR);
  const timed = list.map((r) => r.timed);
  return healthFacts(past, timed, more);
}

const each = (make: (tier: Tier) => HealthFacts) => ({ 1: make(1), 2: make(2), 3: make(3) });

/** What a service and a run right after it say; in the bottles of the last run: one that is wrong stays wrong. */
function servicedBy(kind: Service, { observation }: Timed): NonNullable<HealthChecks['after']> {
  const { found, covariance } = observation;
  return {
    kinds: [kind],
    found: { ...found, zeroSd: Math.sqrt(covariance[0][0]), sensitivitySd: Math.sqrt(covariance[1][1]) },
  };
}

/** One history of nine runs; the fault begins three or four runs before its end, or with the last one. */
export function caseOf(truth: Befallen, seed: number): Case {
  const dice = chance(seedOf(seed, truth));
  const { days, last, bodyAt } = lifeOf(dice, truth, seed);
  const offPh = truth === 'standard-wrong' ? sign(dice) * between(dice, OFF_PH.from, OFF_PH.to) : 0;
  const which = dice.uniform() < 0.5 ? 0 : 1;
  const runOn = runsOf(dice, bodyAt, which);
  const runs = days.map((day, i) => runOn(day, i === RUNS - 1 ? offPh : 0));
  const again = runOn(last + 1, 0);
  const now = bodyAt(last);
  const since = foundInBuffers(now, 'ph').zeroMv - foundInBuffers(bodyAt(days[0]!), 'ph').zeroMv;
  const inTier = knownBeside(dice, { truth, now, since, offPh, mine: movedInBottle(runs, which) });
  const afterService = (kind: Service) => {
    const after = servicedBy(kind, runOn(last + 1, offPh, DEEDS[SERVICES[kind]]));
    return each((tier) => factsOf(runs, { ...inTier[tier], after }));
  };
  // With a fresh bottle the last two runs are compared anew: nothing new of others.
  const retested = [...runs, again];
  const { sampleOff } = inTier[2];
  /** Two views of a sound one after so many of its runs: the first tier, and the last. */
  const along = (count: number) => {
    const list = runs.slice(0, count);
    const mine = list.length > 1 ? movedInBottle(list, which) : { value: 0, sd: 1 };
    const quiet = { ...inTier[3], fellows: { mine, others: [fellowOf(dice, offPh)] } };
    return [factsOf(list, {}), factsOf(list, quiet)] as const;
  };
  return {
    truth,
    seed,
    facts: each((tier) => factsOf(runs, inTier[tier])),
    sampled: each((tier) => factsOf(runs, { ...inTier[tier], ...(sampleOff ? { sampleOff } : {}) })),
    serviced: {
      cleaned: afterService('cleaned'),
      refilled: afterService('refilled'),
      'plug dried': afterService('plug dried'),
    },
    retested: each((tier) =>
      factsOf(retested, { ...inTier[tier], fellows: { mine: movedInBottle(retested, which), others: [] } }),
    ),
    along: truth === 'sound' ? runs.map((_, i) => along(i + 1)) : [],
    years: (last - days[0]!) / 365.25,
  };
}
