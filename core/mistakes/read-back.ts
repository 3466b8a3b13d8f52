import type { Facts } from './facts.ts';
import { anySizeLog, normalLog, type Hypothesis } from './hypothesis.ts';
import { countsFigure } from './words.ts';

/** What a figure that did not arrive may make, of any size up to this, in steps. */
const AMISS_STEPS = 60;

/** After an adjustment the standard is not read as it should be. */
export const READ_BACK: Hypothesis<Facts> = {
  id: 'read-back',
  prior: 0.15,
  mark: 'Read back it was',
  stops: true,
  about: 'level',
  // Minutes later, in the same cup: no sensor is restive there.
  weight: ({ off, sd }) => anySizeLog(Math.abs(off), sd, AMISS_STEPS, sd) - Math.LN2 - normalLog(off, 0, sd),
  says: ({ off, step, model, cup }) => ({
    title: `Read back in ${cup.asked.name} it does not agree.`,
    because: `${countsFigure(off * step, step)} ${model.signalUnit} from what it gave before the adjustment, ${Math.abs(off).toFixed(0)} times what counts.`,
    tells:
      'What would tell: look at the figures in the controller. One that was mistyped, the wrong point, or a figure that was not stored reads like this.',
    mended: 'Put right, settle again',
    stands: 'Keep it, and note that',
    record: `Read back it was ${countsFigure(off * step, step)} ${model.signalUnit} off`,
  }),
};
