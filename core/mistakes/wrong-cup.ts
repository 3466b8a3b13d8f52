import type { Facts, Instead } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** The bottles, but for the one that was measured last: a signal that has not moved is another hypothesis. */
const othersOf = ({ others, unmoved }: Facts) => others.filter((o) => o.standard.id !== unmoved?.standard.id);

/** The bottle that explains the signal best. */
function likest(facts: Facts): Instead {
  const { off } = facts;
  const others = othersOf(facts);
  const log = (o: Instead) => normalLog(off, o.off, o.sd);
  return others.reduce((a, b) => (log(b) > log(a) ? b : a));
}

/** Standard deviations within which exchanged poles explain it as well. */
const AS_WELL = 3;

/** A probe nobody knows may be worn: so much of its least sensitivity, and so many times its zero. Common practice, no source. */
const WORN_SHARE = 0.8;
const WORN_ZEROS = 2;

/** On a first run nothing is known but the kind of sensor: would a worn one read like this in the right cup? */
function mayBeWorn({ cup, family, model, signal, expected }: Facts): boolean {
  if (cup.plan.inForceKnown !== false) return false;
  const { zero, sensitivity } = cup.plan.expected;
  const { limits } = family;
  const ideal = (expected - model.origin - zero) / sensitivity;
  const zeroAt = (s: number) => signal - model.origin - s * ideal;
  const ends = [zeroAt(WORN_SHARE * limits.sensitivityLow), zeroAt(limits.sensitivityHigh)];
  const most = WORN_ZEROS * limits.zero;
  return Math.min(...ends) <= most && Math.max(...ends) >= -most;
}

/** Another standard of the shelf explains the signal far better. */
export const WRONG_CUP: Hypothesis<Facts> = {
  id: 'wrong-cup',
  prior: 0.03,
  stops: (facts) => !mayBeWorn(facts),
  about: 'level',
  alike: 'which-cup',
  weight(facts) {
    const { off, cup } = facts;
    const others = othersOf(facts);
    // Air is in no bottle.
    if (!others.length || cup.asked.nominal === 0) return -Infinity;
    const logs = others.map((o) => normalLog(off, o.off, o.sd) - Math.log(others.length));
    return instead(facts, { off: logSum(logs) });
  },
  facts: (facts) => ({
    ...levelOf(facts),
    other: likest(facts).standard.name,
    asked: facts.cup.asked.name,
    poles: facts.mirrored !== null && Math.abs(facts.off - facts.mirrored) < AS_WELL * facts.sd,
  }),
};
