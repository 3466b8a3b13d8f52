import type { Facts } from './facts.ts';
import type { Hypothesis } from './hypothesis.ts';
import { instead, stillLog } from './sound.ts';

/** The thermometer hangs where it was: the temperature does not move when the probe changes its liquid. */
export const THERMOMETER_ELSEWHERE: Hypothesis<Facts> = {
  id: 'thermometer-elsewhere',
  prior: 0.03,
  weight(facts) {
    const { warmed, cup } = facts;
    // From one cup to the next of the same room nothing has to move.
    if (warmed === null || cup.before.length > 0) return -Infinity;
    return instead(facts, { warmed: stillLog(warmed) });
  },
  facts: ({ warmed, temperatureC, cup }) => ({
    cupC: temperatureC,
    moved: warmed!,
    carried: cup.wayC !== undefined,
  }),
};
