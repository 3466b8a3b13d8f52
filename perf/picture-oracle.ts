import { betterOf, featuresOf, type Row } from './diagnosis-oracle.ts';
import { K_25, PLACE } from './diagnosis-bodies.ts';
import type { Case, Tier } from './diagnosis-population.ts';
import { hiddenError, TOLERANCE } from './picture-judged.ts';

/** What befell it, and whether it is outside. */
type Class = `${string} ${'outside' | 'inside'}`;

/** The evidence, and what each of the last two runs makes of what is in force since the last one: what a bottle gave or took. */
function seen({ runs, facts }: Case, tier: Tier): number[] {
  const [before, last] = [runs.at(-2)!.found, runs.at(-1)!];
  const inForce = last.inForceAfter;
  const mv = before.zero - before.sensitivity * K_25 * (PLACE.value - 7);
  const shown = 7 - (mv - inForce.zero) / (inForce.sensitivity * K_25);
  return [...featuresOf(facts[tier]), Math.max(-2, Math.min(2, shown - PLACE.value)), Math.abs(shown - PLACE.value)];
}

const outsideOf = (chances: ReadonlyMap<Class, number>) =>
  [...chances].reduce((sum, [c, chance]) => (c.endsWith('outside') ? sum + chance : sum), 0);

/** The chance that a history ends outside, by a judge that has the same evidence and has seen the generator. */
export function outsideOracle(training: readonly Case[], tier: Tier): (one: Case) => number {
  const rows = training.map((c): Row<Class> => {
    const outside = Math.abs(hiddenError(c)) > TOLERANCE;
    return { truth: `${c.truth} ${outside ? 'outside' : 'inside'}`, x: seen(c, tier) };
  });
  const best = betterOf(rows, (says, tried) =>
    tried.reduce((sum, r) => sum + (outsideOf(says(r.x)) - Number(r.truth.endsWith('outside'))) ** 2, 0),
  );
  return (one) => outsideOf(best(seen(one, tier)));
}
