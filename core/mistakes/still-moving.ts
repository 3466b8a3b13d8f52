import type { Facts } from './facts.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { countsFigure } from './words.ts';

/** What a reading that is taken too early still has before it, in steps. */
const EARLY_STEPS = 30;

/** The clock says that it may be captured, and it is still on its way. */
export const STILL_MOVING: Hypothesis<Facts> = {
  id: 'still-moving',
  prior: 0.35,
  mark: 'The time was up',
  weight: (facts) => (facts.ready ? instead(facts, { toCome: normalLog(facts.toCome, 0, EARLY_STEPS) }) : -Infinity),
  says: ({ toCome, step, model, seconds }) => ({
    title: 'The time is up, and it still moves.',
    because: `After ${Math.round(seconds)} s about ${countsFigure(toCome * step, step)} ${model.signalUnit} are still to come: ${Math.abs(toCome).toFixed(1)} times what counts.`,
    tells: 'What would tell: wait as long again. What moves now goes into the value.',
    mended: 'Wait on',
    stands: 'Capture it as it is',
    record: 'The time was up, and it still moved',
  }),
};
