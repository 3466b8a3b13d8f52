import type { OddFacts } from '../calibration/odd.ts';
import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** Where what is in its cap would put it, in steps; null where nothing is known of that. */
function inStorage({ cup, model, family, temperatureC, expected, step }: Facts): { off: number; sd: number } | null {
  const { storedIn } = family;
  if (!storedIn) return null;
  const { zero, sensitivity } = cup.plan.expected;
  const at = (value: number) =>
    (model.origin + zero + sensitivity * model.ideal(value, { temperatureC }) - expected) / step;
  const off = at(storedIn.value);
  return { off, sd: Math.abs(at(storedIn.value + storedIn.sd) - off) };
}

/** How well its final value must be foreseen, in steps. */
const FORESEEN_STEPS = 4;

const still = (facts: Facts): number => {
  const { unmoved, off, toComeSd } = facts;
  // A forecast that is still wide lies near everything.
  return unmoved && toComeSd < FORESEEN_STEPS
    ? instead(facts, { off: normalLog(off, unmoved.off, unmoved.sd) })
    : -Infinity;
};

/** In the first cup nothing was read before: then it reads what is in the cap. */
const capped = (facts: Facts): number => {
  if (facts.unmoved) return still(facts);
  const storage = inStorage(facts);
  return storage
    ? instead(facts, { off: normalLog(facts.off, storage.off, Math.hypot(storage.sd, facts.sd)) })
    : -Infinity;
};

export const unmovedWeight = still;

const facts = (of: Facts): OddFacts['cap-on'] => ({
  ...levelOf(of),
  asked: of.cup.asked.name,
  last: of.unmoved?.standard.name ?? '',
});

/** What a cap and a signal that has not moved have in common. */
export const LIKE_CAP = {
  alike: 'which-cup',
  stops: true,
  about: 'level',
  sayable: ({ unmoved, ready }: Facts) => unmoved !== null || ready,
  facts,
} as const;

/** The cap is still on: the liquid in it is measured, whatever is outside. */
export const CAP_ON: Hypothesis<Facts> = { ...LIKE_CAP, id: 'cap-on', prior: 0.01, weight: capped };
