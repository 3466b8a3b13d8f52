import {
  filtered,
  healthFacts,
  pastOf,
  type HealthChecks,
  type HealthFacts,
  type HealthFigure,
  type Observation,
} from '@frustum/core';
import { chance, DEEDS, foundInBuffers, seedOf, type BodyTruth, type Chance } from '@frustum/sim';
import {
  between,
  BUFFERS,
  DIRTY,
  K_25,
  lifeOf,
  PRIOR,
  READ_SD,
  READING_SD_STEPS,
  RUNS,
  runsOf,
  SAMPLE_SD_STEPS,
  seenSlope,
  sign,
  STEP,
  type Befallen,
  type Timed,
} from './diagnosis-bodies.ts';

export { BEFALLEN, type Befallen } from './diagnosis-bodies.ts';

/** Calibrations only; with independent checks; with what shares reference, bottle and water, and with impedances. */
export const TIERS = [1, 2, 3] as const;
export type Tier = (typeof TIERS)[number];

/** What somebody does to the sensor, and the simulator's deed behind it. */
const SERVICES = { cleaned: 'clean', refilled: 'refill', 'plug dried': 'dry the plug' } as const;
export type Service = keyof typeof SERVICES;
/** A bottle is off by so much, and the water moves by so much, pH. */
const OFF_PH = { from: 0.1, to: 0.4 };
const MOVED_PH = { from: 0.15, to: 0.5 };

/** One history, and what is known of it in each tier. */
export interface Case {
  /** what befell it; of two, the first */
  readonly truth: Befallen;
  readonly truths: readonly Befallen[];
  readonly seed: number;
  /** its runs as the drift engine takes them, each put in force */
  readonly runs: readonly Observation[];
  /** what it is in its water after the last of them: hidden from whatever is judged */
  readonly atWork: { readonly zero: number; readonly sensitivity: number };
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
  readonly truths: readonly Befallen[];
  readonly now: BodyTruth;
  /** by which its reference has moved since the first run, mV */
  readonly since: number;
  readonly offPh: number;
  readonly mine: HealthFigure;
}

/** Checks that are known beside the runs, in each tier. */
function knownBeside(dice: Chance, { truths, now, since, offPh, mine }: Known): Readonly<Record<Tier, HealthChecks>> {
  const movedPh = truths.includes('process-moved') ? sign(dice) * between(dice, MOVED_PH.from, MOVED_PH.to) : 0;
  const movedSteps = (-movedPh * K_25 * now.electrodes['ph']!.slope) / STEP;
  const sampleOff = figureOf(dice, (now.reference.blockedMv + now.input.strayMv) / STEP, SAMPLE_SD_STEPS);
  const fellow = () => fellowOf(dice, offPh);
  const inReference = truths.includes('electrolyte-diluted') || truths.includes('reference-contaminated');
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

/**
 * One history of nine runs; the fault, or both of them, begin three or four runs before its end, or with the last one.
 */
export function caseOf(befallen: Befallen | readonly [Befallen, Befallen], seed: number): Case {
  const truths = typeof befallen === 'string' ? [befallen] : befallen;
  const dice = chance(seedOf(seed, truths.join('+')));
  const { days, last, bodyAt } = lifeOf(dice, truths, seed);
  const offPh = truths.includes('standard-wrong') ? sign(dice) * between(dice, OFF_PH.from, OFF_PH.to) : 0;
  const which = dice.uniform() < 0.5 ? 0 : 1;
  const runOn = runsOf(dice, bodyAt, which);
  const runs = days.map((day, i) => runOn(day, i === RUNS - 1 ? offPh : 0));
  const again = runOn(last + 1, 0);
  const now = bodyAt(last);
  const since = foundInBuffers(now, 'ph').zeroMv - foundInBuffers(bodyAt(days[0]!), 'ph').zeroMv;
  const inTier = knownBeside(dice, { truths, now, since, offPh, mine: movedInBottle(runs, which) });
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
  const { zeroMv, slope } = foundInBuffers(now, 'ph');
  return {
    truth: truths[0],
    truths,
    seed,
    runs: runs.map((r) => r.observation),
    // What a junction makes in the water it does not make in a buffer; a voltage is in the water alone.
    atWork: { zero: zeroMv + now.reference.blockedMv + now.input.strayMv, sensitivity: seenSlope(now, slope) },
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
    along: truths.includes('sound') ? runs.map((_, i) => along(i + 1)) : [],
    years: (last - days[0]!) / 365.25,
  };
}
