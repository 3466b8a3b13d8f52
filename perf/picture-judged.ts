import {
  chanceBeyond,
  coneAlong,
  diagnose,
  explanationsBy,
  filteredAtPaces,
  marginOf,
  MS_PER_DAY,
  type ErrorAt,
} from '@frustum/core';
import { K_25, PLACE, PRIOR, STEP } from './diagnosis-bodies.ts';
import { flatly } from './diagnosis-judged.ts';
import type { Case, Tier } from './diagnosis-population.ts';

const FLAT = flatly(0);
/** What is borne at work, pH. */
export const TOLERANCE = 0.1;

/** What is said of the error of one history, and what it is. */
export interface Shown {
  readonly truth: string;
  /** shown less true at work, pH: by arithmetic of this file */
  readonly error: number;
  readonly outside: boolean;
  /** over all explanations, and as the runs alone say */
  readonly said: ErrorAt;
  readonly alone: ErrorAt;
  readonly chance: number;
  readonly chanceAlone: number;
}

/** The error by hand: E = zero − slope·k·(pH − 7), turned back with what is in force. */
export function hiddenError({ runs, atWork }: Case): number {
  const { zero, sensitivity } = runs.at(-1)!.inForceAfter;
  const mv = atWork.zero - atWork.sensitivity * K_25 * (PLACE.value - 7);
  return 7 - (mv - zero) / (sensitivity * K_25) - PLACE.value;
}

/** What the picture makes of a history on the day after its last run. */
export function shownOf(one: Case, tier: Tier, befalls = FLAT): Shown {
  const { runs, truth } = one;
  const facts = one.facts[tier];
  const explained = explanationsBy({
    history: runs,
    services: [],
    prior: PRIOR,
    family: PRIOR,
    step: STEP,
    health: diagnose(facts, befalls),
    facts,
    seenAtWork: facts.sampleOff,
    scatter: befalls.sound.sampleOff.sd,
  });
  const atMs = runs.at(-1)!.atMs + MS_PER_DAY;
  const lines = filteredAtPaces(runs, PRIOR);
  const errorBy = (ways?: typeof explained) =>
    coneAlong(lines, PLACE, atMs, undefined, [], atMs, undefined, ways).errorAt!(atMs);
  const [said, alone] = [errorBy(explained), errorBy()];
  const error = hiddenError(one);
  return {
    truth,
    error,
    outside: Math.abs(error) > TOLERANCE,
    said,
    alone,
    chance: chanceBeyond(said, TOLERANCE),
    chanceAlone: chanceBeyond(alone, TOLERANCE),
  };
}

/** Mean of (chance − what came)². */
export const brier = (list: readonly Shown[], of: (s: Shown) => number) =>
  list.reduce((sum, s) => sum + (of(s) - Number(s.outside)) ** 2, 0) / list.length;

/** Bins of equal count by the stated chance: what was stated, what came, and half the 95 % interval of what came. */
export function binsOf(list: readonly Shown[], count: number) {
  const sorted = [...list].sort((a, b) => a.chance - b.chance);
  return Array.from({ length: count }, (_, k) => {
    const mine = sorted.slice(Math.round((k * sorted.length) / count), Math.round(((k + 1) * sorted.length) / count));
    const stated = mine.reduce((sum, s) => sum + s.chance, 0) / mine.length;
    const came = mine.filter((s) => s.outside).length / mine.length;
    return { stated, came, half: 1.96 * Math.sqrt(Math.max(came * (1 - came), 0.25 / mine.length) / mine.length) };
  });
}

/** Is the hidden error inside the band of 99.9 %, or does the state say that it is not known? */
export function holds({ said, error }: Shown): boolean {
  if (marginOf(said, TOLERANCE).state === 'not known') return true;
  // Chance that it lies further from its mean than it does.
  const off = Math.abs(error - said.mean);
  return chanceBeyond({ mean: 0, pieces: said.pieces.map((p) => ({ ...p, mean: p.mean - said.mean })) }, off) > 0.001;
}
