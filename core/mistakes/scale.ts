import { PPM_SCALES } from '../quantities/units.ts';
import { isCell } from '../sensor/family.ts';
import type { Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { normalLog, type Hypothesis } from './hypothesis.ts';
import { instead } from './sound.ts';
import { levelOf } from './words.ts';

/** Off by one of the ppm scales, either way. */
const RATIOS = PPM_SCALES.flatMap((s) => [s, 1 / s]);
/** How exactly a ratio fits, as a share. */
const FITS = 0.01;

/** The channel shows, or is read, in another scale. */
export const SCALE: Hypothesis<Facts> = {
  id: 'scale',
  prior: 0.02,
  stops: true,
  about: 'level',
  weight(facts) {
    const { model, expected, step, off, sd, cup } = facts;
    if (!isCell(model) || cup.asked.nominal === 0) return -Infinity;
    const logs = RATIOS.map((r) =>
      normalLog(off, (expected * (r - 1)) / step, Math.hypot(sd, (FITS * expected * r) / step)),
    );
    return instead(facts, { off: logSum(logs) - Math.log(RATIOS.length) });
  },
  // A forecast that is still on its way passes many figures.
  sayable: ({ ready }) => ready,
  facts: levelOf,
};
