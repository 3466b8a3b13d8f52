import type { ConeBranch } from '../drift/cone.ts';
import type { AtOnePace, Explanation } from '../drift/working.ts';
import type { MixturePiece } from '../statistics/mixture.ts';
import { weighedSize, withoutEvidence } from '../drift/explained.ts';
import type { Observation, ServiceEvent } from '../drift/history.ts';
import { filteredAtPaces } from '../drift/pace.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { familyOf } from '../families/registry.ts';
import type { Diagnosis } from '../health/diagnose.ts';
import type { Checks, Figure, HealthFacts } from '../health/evidence.ts';
import type { Cause } from '../sensor/befalls.ts';
import type { FamilyPrior } from '../sensor/prior.ts';
import type { Fitted } from './fitted.ts';
import { examined } from './health.ts';
import { driftOf, observationsOf, ofSensor, stepAt } from './history.ts';
import type { HouseKnowledge } from './house.ts';
import type { Past } from './past.ts';

/**
 * What is believed of one sensor now. It is made once, and Margins, the sensor's page, alarms, look-back, due date, API and
 * record are read from it.
 */
export interface Picture {
  /** what it has been through, with the ways in which it may stand since its last run */
  readonly past: Past;
  /** which half is failing; null where nothing is written of its family, and before the first run */
  readonly health: Diagnosis | null;
}

/** A cause that is less likely than this moves no figure that anybody reads. */
const LEAST = 0.004;

/** From here on the next bottle has undone what a wrong one did. */
const UNDONE = 0.5;

/**
 * The picture of a sensor: its diagnosis, and its error over all explanations, each weighed as the diagnosis weighs it.
 *
 * A blocked junction moves the error at work although the standards agree; a wrong bottle gives back what it took, and so
 * does the adjustment that was made in it. All other causes are seen by the runs as the sensor's own drift is.
 *
 * @param said what the transmitter and the readings say beside the runs
 */
export function pictureOf(fitted: Fitted, house: HouseKnowledge, said: Checks = {}): Picture {
  const past = house.pastOf(fitted);
  const known = examined(fitted, house, said);
  if (!known) return { past, health: null };
  const { facts, health } = known;
  const step = stepAt(fitted);
  const explained = explanationsBy({
    history: observationsOf(ofSensor(past.finished)),
    services: past.services,
    prior: driftOf(fitted, past.fleet).prior,
    family: driftOf(fitted, NO_FLEET).prior,
    ...(past.together ? { asRunsSay: [past.together.known()] } : {}),
    step,
    health,
    facts,
    seenAtWork: seenAtWork(facts.sampleOff, past, step),
    scatter: familyOf(fitted.loop.family).befalls!.sound.sampleOff.sd,
  });
  return { past: explained.length > 1 ? { ...past, explained } : past, health };
}

/** What the ways in which a sensor may stand are made from. */
export interface ExplainedBy {
  readonly history: readonly Observation[];
  readonly services: readonly ServiceEvent[];
  /** what is known of its kind: of this house, and of the family alone */
  readonly prior: FamilyPrior;
  readonly family: FamilyPrior;
  /** what its runs say, and what stands beside it; absent = its runs alone */
  readonly asRunsSay?: readonly AtOnePace[];
  /** change that counts, in the unit of the signal */
  readonly step: number;
  readonly health: Diagnosis;
  readonly facts: Pick<HealthFacts, 'cameBack' | 'sampleOff'>;
  /** what is known of the water itself, in steps: a sample, partners; null = nothing */
  readonly seenAtWork: Figure | null;
  /** by how much samples of a sound sensor scatter, steps */
  readonly scatter: number;
}

/**
 * The ways in which a sensor may stand, each weighed as the diagnosis weighs it; those that runs see as they see the sensor
 * itself are one of them.
 *
 * @returns chances that add up to 1; none without a run
 */
export function explanationsBy(of: ExplainedBy): Explanation[] {
  const { history, services, prior, step, facts } = of;
  if (!history.length) return [];
  const sampled = history.some((o) => o.kind === 'grab-sample');
  const made = new Map<string, readonly AtOnePace[]>();
  /** What runs say without samples, or without the last bottle: worked out once for all that come to the same. */
  const lines = (samples: boolean, bottle: boolean): readonly AtOnePace[] => {
    const key = `${samples && sampled} ${bottle}`;
    const says = (o: Observation, i: number) => (samples && o.kind === 'grab-sample') || (bottle && i === lastInBottle);
    // What the house has learned it learned from a wrong bottle, too: there the family alone is believed.
    const by = bottle ? of.family : prior;
    const known = made.get(key) ?? filteredAtPaces(withoutEvidence(history, says), by, services);
    made.set(key, known);
    return known;
  };
  const lastInBottle = history.findLastIndex((o) => o.kind !== 'grab-sample');
  const otherwise = apart(of, lastInBottle >= 0).map(({ chance, hiddenBy, hidden, bottle }): Explanation => {
    const beyond = hidden.map(({ chance: p, mean, sd }) => ({ chance: p, mean: step * mean, sd: step * sd }));
    // What a sample saw is in the size: it says nothing of what stands in a cup.
    const sample = hidden.length && facts.sampleOff ? history.findLast((o) => o.kind === 'grab-sample') : undefined;
    const since = bottle ? history[lastInBottle] : sample;
    return {
      cause: [hiddenBy, bottle].flatMap((c) => (c ? [c.id] : [])).join('+'),
      chance,
      ...(since ? { sinceMs: since.atMs } : {}),
      lines: lines(hidden.length > 0, bottle !== null),
      beyond,
    };
  });
  const rest = 1 - otherwise.reduce((sum, w) => sum + w.chance, 0);
  const asRunsSay = of.asRunsSay ?? lines(false, false);
  return [{ cause: null, chance: Math.max(rest, 0), lines: asRunsSay, beyond: [] }, ...otherwise];
}

/** What is known of the water itself: a sample, and what partners in the same water show, in steps; null = nothing. */
function seenAtWork(sample: Figure | null, { together }: Past, step: number): Figure | null {
  const beside = together?.beside() ?? null;
  const partners = beside && { value: beside.value / step, sd: beside.sd / step };
  if (!sample || !partners) return sample ?? partners;
  const [a, b] = [sample.sd ** -2, partners.sd ** -2];
  return { value: (a * sample.value + b * partners.value) / (a + b), sd: (a + b) ** -0.5 };
}

/** A wrong bottle whose figures are still believed. */
const isStanding = ({ undone }: Cause, { cameBack }: Pick<HealthFacts, 'cameBack'>): boolean =>
  undone === true && cameBack <= UNDONE;

/** What makes a way of its own: what standards do not see, and a wrong bottle. */
interface Apart {
  readonly chance: number;
  /** what standards do not see, and how large it is, in steps; null and nothing where they see it all */
  readonly hiddenBy: Cause | null;
  readonly hidden: readonly MixturePiece[];
  /** null where the last one was right */
  readonly bottle: Cause | null;
}

/** The explanations that runs do not see as they see the sensor itself; those that come to the same are one. */
function apart({ health, facts, seenAtWork: seen, scatter }: ExplainedBy, inBottles: boolean): readonly Apart[] {
  const ways = new Map<string, Apart>();
  for (const { causes, chance } of health.explanations) {
    const unseen = causes.filter((c) => c.unseen && c.expects.sampleOff);
    const bottle = (inBottles && causes.find((c) => isStanding(c, facts))) || null;
    if (!unseen.length && !bottle) continue;
    const key = [...unseen.map((c) => c.id), bottle?.id].join();
    const before = ways.get(key);
    ways.set(key, {
      chance: chance + (before?.chance ?? 0),
      hiddenBy: unseen[0] ?? null,
      hidden: before?.hidden ?? sizeOf(unseen, seen, scatter),
      bottle,
    });
  }
  return [...ways.values()].filter((w) => w.chance >= LEAST);
}

/** How large it is at work, of one cause or two, in steps. */
function sizeOf(unseen: readonly Cause[], seen: Figure | null, scatter: number): readonly MixturePiece[] {
  const [one, two] = unseen.map((c) => c.expects.sampleOff!);
  if (!one) return [];
  if (!two) return weighedSize(one, seen, scatter);
  // Either way, each of them: what both come to has the spread of both.
  return weighedSize({ mean: 0, sd: Math.hypot(one.mean, one.sd, two.mean, two.sd) }, seen, scatter);
}

/** Ways that are less likely than this are drawn with all the others. */
const DRAWN_FROM = 0.1;

/**
 * The ways of a cone that stand apart, the likeliest first: where it is likely that the error is in one place or in another, and
 * not between them.
 *
 * @returns two or more, or none
 */
export function standApart(branches: readonly ConeBranch[], atMs: number): readonly ConeBranch[] {
  const likely = branches.filter((b) => b.chance >= DRAWN_FROM);
  const at = likely.map((b) => b.errorAt(atMs));
  const apart = at.some((a) => at.some((b) => Math.abs(a.mean - b.mean) > a.sd + b.sd + Math.max(a.sd, b.sd)));
  return apart ? likely : [];
}

/** What the error of a sensor rests on, where it is not simply sound. */
export interface RestsOn {
  /** id and name of the likeliest cause */
  readonly cause: string;
  readonly name: string;
  readonly chance: number;
  /** name of a second one that is likelier than not as well; null = none */
  readonly beside: string | null;
  /** the error that is shown now if it is so, and its ± for 95 %, in the unit of the value */
  readonly error: number;
  readonly expanded: number;
  /** the run that first showed it, epoch ms; null = none in particular */
  readonly sinceMs: number | null;
  /** what would settle it; null = nothing that is not known already */
  readonly test: string | null;
}

/** A cause is spoken of from this chance on. */
const SPOKEN_OF = 0.2;

/**
 * What the error rests on now; null for a sensor that is sound, as far as anybody can tell.
 *
 * @param branches of its cone
 */
export function restsOn(health: Diagnosis | null, branches: readonly ConeBranch[], nowMs: number): RestsOn | null {
  const [leader] = health?.causes ?? [];
  if (!leader || leader.chance < SPOKEN_OF || !branches.length) return null;
  const { id, name } = leader.cause;
  // What runs see as they see the sensor itself has no branch of its own.
  const branch = branches.find((b) => b.cause === id) ?? branches.find((b) => b.cause === null) ?? branches[0]!;
  const { mean, half95 } = branch.errorAt(nowMs);
  const test = health!.test?.what ?? null;
  const beside = health!.beside?.name ?? null;
  return {
    cause: id,
    name,
    chance: leader.chance,
    beside,
    error: mean,
    expanded: half95,
    sinceMs: branch.sinceMs,
    test,
  };
}
