import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { countsFigure } from './words.ts';

const weight = (facts: Facts): number => {
  const { unmoved, off } = facts;
  return unmoved ? instead(facts, { off: normalLog(off, unmoved.off, unmoved.sd) }) : -Infinity;
};

const says = (facts: Facts) => {
  const { unmoved, cup, signal, step, model } = facts;
  const last = unmoved!.standard.name;
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
  alike: 'unmoved',
  mark: 'It read in',
  stops: true,
  about: 'level',
  weight,
  says,
};
