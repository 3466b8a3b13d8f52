import { weigh, type WeighedHypotheses } from './engine.ts';
import { factsOf, type Cup, type Facts } from './facts.ts';
import type { Hypothesis, Warning } from './hypothesis.ts';
import { READ_BACK } from './read-back.ts';
import { IN_A_CUP } from './registry.ts';
import { isInAir } from './sound.ts';
import { WET_CELL } from './wet-cell.ts';
import { WRONG_CUP } from './wrong-cup.ts';
import type { Settling } from '../settling/settle.ts';
import type { Sample } from '../settling/trace.ts';

/** Nothing is said in the first seconds, nor while the forecast of the final value is no better than this, in steps. */
const MIN_SECONDS = 8;
const MIN_SD_STEPS = 12;

const READING_BACK: readonly Hypothesis<Facts>[] = [READ_BACK, WRONG_CUP];
const IN_AIR: readonly Hypothesis<Facts>[] = [WET_CELL];

/**
 * Is anything odd in this cup? Live or on a recording, after any sample; in a worker or on the server.
 *
 * @param samples since the probe came into this cup
 * @param answered codes of the earlier warnings in this cup that the operator has answered
 * @returns null while it is too early to say anything
 */
export function watched(
  cup: Cup,
  settling: Settling,
  samples: readonly Sample[],
  answered: readonly string[] = [],
): WeighedHypotheses | null {
  if (settling.seconds < MIN_SECONDS) return null;
  const facts = factsOf(cup, settling, samples);
  if (!facts) return null;
  // A signal that nobody can foresee yet says nothing of where it stands; one that is to be captured must be looked at.
  if (facts.toComeSd <= MIN_SD_STEPS || facts.ready || facts.swing) return weighCup(facts, answered);
  // What a cell shows in air is a film, wherever that is heading.
  return isInAir(facts) ? weighCup(facts, answered, IN_AIR) : null;
}

/** The same, of facts that are there. */
export function weighCup(
  facts: Facts,
  answered: readonly string[] = [],
  registry = facts.cup.anchor ? READING_BACK : IN_A_CUP,
): WeighedHypotheses {
  const said = registry.filter((h) => answered.includes(h.id));
  const level = said.some((h) => h.about === 'level');
  const classes = new Set(said.map((h) => h.alike ?? h.id));
  const ruledOut = (h: Hypothesis<Facts>) => classes.has(h.alike ?? h.id) || (level && h.about === 'level');
  return weigh(registry, facts, ruledOut, facts.ready);
}

export type { Cup, Warning, WeighedHypotheses };
