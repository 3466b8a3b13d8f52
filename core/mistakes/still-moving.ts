import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';

/** What a reading that is taken too early still has before it, in steps. */
const EARLY_STEPS = 30;

/** The clock says that it may be captured, and it is still on its way. */
export const STILL_MOVING: Hypothesis<Facts> = {
  id: 'still-moving',
  prior: 0.35,
  weight: (facts) => (facts.ready ? instead(facts, { toCome: normalLog(facts.toCome, 0, EARLY_STEPS) }) : -Infinity),
  facts: ({ toCome, step, model, seconds }) => ({
    toCome: toCome * step,
    step,
    unit: model.signalUnit,
    seconds,
    times: Math.abs(toCome),
  }),
};
