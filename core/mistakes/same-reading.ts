import { LIKE_CAP, unmovedWeight } from './cap-on.ts';
import type { Facts } from './facts.ts';
import type { Hypothesis } from './hypothesis.ts';

/** Still in the last cup, or glass that is broken or short: the same in both standards, as with a cap. */
export const SAME_READING: Hypothesis<Facts> = {
  ...LIKE_CAP,
  id: 'same-reading',
  prior: 0.015,
  weight: unmovedWeight,
};
