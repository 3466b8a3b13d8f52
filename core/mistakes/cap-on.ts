import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { countsFigure, levelWords } from './words.ts';

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

const says = (facts: Facts) => {
  const { unmoved, cup, signal, step, model } = facts;
  if (!unmoved)
    return {
      title: `Is the cap still on? It reads like what is in there, not like ${cup.asked.name}.`,
      because: levelWords(facts),
      tells: 'What would tell: look at the tip.',
      mended: 'Cap off, settle again',
      stands: 'It is off',
      record: `It read in ${cup.asked.name} what is in the cap`,
    };
  const last = unmoved.standard.name;
  return {
    title: `It reads in ${cup.asked.name} what it read in ${last}.`,
    because: `${countsFigure(signal, step)} ${model.signalUnit} in both. A cap that is still on, a probe that is still in the other cup, and broken glass or a short all read like this.`,
    tells:
      'What would tell: look at the tip. With the cap off and in this cup it must move; broken glass stays where it is.',
    mended: 'Put right, settle again',
    stands: 'Cap off, and in this cup',
    record: `It read in ${cup.asked.name} what it read in ${last}`,
  };
};

/** The cap is still on: the liquid in it is measured, whatever is outside. */
export const CAP_ON: Hypothesis<Facts> = {
  id: 'cap-on',
  prior: 0.01,
  alike: 'which-cup',
  mark: 'It read in',
  stops: true,
  about: 'level',
  weight: capped,
  sayable: ({ unmoved, ready }) => unmoved !== null || ready,
  says,
};
