import { diagnose, familyOf, type ActionGroup, type Befalls, type HealthFacts } from '@frustum/core';
import { BEFALLEN, type Befallen, type Case, type Service, type Tier } from './diagnosis-population.ts';

const GLASS = familyOf('ph').befalls!;
/**
 * Every cause as likely as being sound: what the mix of the reports is.
 *
 * @param pairs share of two faults at once among the befallen
 */
export const flatly = (pairs: number): Befalls => ({
  ...GLASS,
  causes: GLASS.causes
    .filter((c) => (BEFALLEN as readonly string[]).includes(c.id))
    .map((c) => ({ ...c, prior: 1 / BEFALLEN.length })),
  pairs,
});
const FLAT = flatly(0);

export const groupOf = (id: string): ActionGroup => GLASS.causes.find((c) => c.id === id)?.group ?? 'nothing';

/** What the diagnosis made of one history. */
export interface Said {
  readonly truth: Befallen;
  readonly id: string;
  readonly chance: number;
  /** it does not say which: nothing is likelier than all else together */
  readonly abstains: boolean;
  readonly group: ActionGroup;
  readonly groupChance: number;
}

function likeliest(facts: HealthFacts, truth: Befallen): Said {
  const made = diagnose(facts, FLAT);
  const all = [{ id: 'sound', chance: made.sound }, ...made.causes.map((c) => ({ id: c.cause.id, chance: c.chance }))];
  const top = all.reduce((a, b) => (b.chance > a.chance ? b : a));
  const groups = new Map<ActionGroup, number>();
  for (const { id, chance } of all) groups.set(groupOf(id), (groups.get(groupOf(id)) ?? 0) + chance);
  const [[group, groupChance]] = [...groups].sort((a, b) => b[1] - a[1]) as [[ActionGroup, number]];
  return { truth, ...top, abstains: made.thin !== null, group, groupChance };
}

export const saidOf = (one: Case, tier: Tier): Said => likeliest(one.facts[tier], one.truth);

/** The same after the test that it asks for: a sample, a fresh bottle, or a service and a run. */
export function saidAfter(one: Case, tier: Tier): Said {
  const { test } = diagnose(one.facts[tier], FLAT);
  if (!test) return saidOf(one, tier);
  const { procedure, service } = test;
  const facts = procedure === 'sample' ? one.sampled : service ? one.serviced[service as Service] : one.retested;
  return likeliest(facts[tier], one.truth);
}

/** Expected calibration error over ten equal bins of stated chance: Naeini, Cooper, Hauskrecht, AAAI 2015, from memory. */
export function calibrationError(said: readonly Said[], bins = 10): number {
  return Array.from({ length: bins }, (_, k) => {
    const mine = said.filter((s) => Math.min(bins - 1, Math.floor(s.chance * bins)) === k);
    const hits = mine.filter((s) => s.id === s.truth).length;
    return Math.abs(hits - mine.reduce((sum, s) => sum + s.chance, 0)) / said.length;
  }).reduce((a, b) => a + b, 0);
}

/** A sound sensor that is watched run after run: was any cause ever named, with the priors of practice? */
export const alarmed = ({ along }: Case, which: 0 | 1): boolean =>
  along.some((facts) => diagnose(facts[which], GLASS).named !== null);

/** Of the befallen in the report of pairs, the share that has two faults. */
const PAIRED = 0.2;
const WITH_PAIRS = flatly(PAIRED);

/** What is made of a sensor that two faults have befallen. */
export function saidOfPair({ truths, facts }: Case, tier: Tier) {
  const { sound, causes, explanations } = diagnose(facts[tier], WITH_PAIRS);
  const [first] = explanations;
  const top = sound > first!.chance ? 'sound' : causes[0]!.cause.id;
  return {
    one: (truths as readonly string[]).includes(top),
    both: first!.causes.length === 2 && first!.causes.every((c) => (truths as readonly string[]).includes(c.id)),
    action: truths.map(groupOf).includes(groupOf(top)),
  };
}
