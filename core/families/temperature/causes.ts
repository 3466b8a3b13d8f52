import type { Befalls, Cause } from '../../sensor/befalls.ts';
import { OTHER_THAN_THESE } from '../../kin/around.ts';
import { OTHER_INSTRUMENT, PROCESS_MOVED, SOUND_OTHER, STANDARD_WRONG, tested } from '../../kin/others.ts';

const TERMINALS = tested(
  'Open, clean and close the terminals, then compare again.',
  'plug dried',
  'The offset is gone: it was a contact.',
  'The offset stays: the element has drifted.',
);

const OTHER_THERMOMETER_WRONG: Cause = {
  ...STANDARD_WRONG,
  name: 'the thermometer that it was held against was wrong',
  test: OTHER_INSTRUMENT,
  expects: { zeroMoved: { mean: 0, sd: 8 } },
};

/** Thermometers. */
export const OF_THERMOMETERS: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [
    {
      id: 'element-drifted',
      name: 'the thermometer has drifted',
      prior: 0.01,
      group: 'replace the sensor',
      test: OTHER_INSTRUMENT,
      expects: { zeroMoved: { mean: 0, sd: 10 } },
    },
    {
      id: 'contact-poor',
      name: 'a contact of its lead has become poor',
      prior: 0.008,
      group: 'look at the wiring',
      test: TERMINALS,
      expects: { zeroMoved: { mean: 8, sd: 8 } },
      sudden: true,
      curedBy: ['plug dried'],
    },
    OTHER_THERMOMETER_WRONG,
    PROCESS_MOVED,
    OTHER_THAN_THESE,
  ],
};
