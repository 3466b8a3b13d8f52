import type { Facts } from './facts.ts';
import type { Hypothesis } from './hypothesis.ts';
import { instead, stillLog } from './sound.ts';

/** The thermometer hangs where it was: the temperature does not move when the probe changes its liquid. */
export const THERMOMETER_ELSEWHERE: Hypothesis<Facts> = {
  id: 'thermometer-elsewhere',
  prior: 0.03,
  mark: 'The thermometer did not move',
  weight(facts) {
    const { warmed, cup } = facts;
    // From one cup to the next of the same room nothing has to move.
    if (warmed === null || cup.before.length > 0) return -Infinity;
    return instead(facts, { warmed: stillLog(warmed) });
  },
  says: ({ warmed, temperatureC, cup }) => ({
    title: `Is the thermometer in this cup? Its reading has not moved since the probe ${cup.wayC === undefined ? 'was put in' : 'left its water'}.`,
    because: `${temperatureC.toFixed(1)} °C, within ${warmed!.toFixed(2)} °C all the time${cup.wayC === undefined ? '; a cup is rarely that near to the water' : ', rinsed and carried'}.`,
    tells: 'What would tell: hold it in the hand for ten seconds, then put it into the cup beside the probe.',
    mended: 'It is in the cup now, settle again',
    stands: 'It is in the cup',
    record: 'The thermometer did not move',
  }),
};
