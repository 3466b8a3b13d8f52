import type { Befalls, Cause } from '../../sensor/befalls.ts';
import { OTHER_THAN_THESE, thermometerWrong } from '../../kin/around.ts';
import { BOTTLE_OF_GAIN, membraneCauses, PROCESS_MOVED, SOUND_OTHER, tested } from '../../kin/others.ts';

const WIPE = tested(
  'Wipe the membrane clean and test again in water-saturated air.',
  'cleaned',
  'The slope comes back: it was a film.',
  'The slope stays low: the electrolyte behind it is spent.',
);
const NEW_MEMBRANE = tested(
  'Fit a new membrane with fresh electrolyte, let it run in, and test again in water-saturated air and in zero oxygen.',
  'tip replaced',
  'Slope and zero come back: it was the membrane or what is behind it.',
  'Nothing changes: the cathode itself; have it serviced.',
);

/** What was taken for 100 % was not: a wrong pressure, water that was too full or not full. */
export const NOT_FULL: Cause = {
  ...BOTTLE_OF_GAIN,
  name: 'what was taken for 100 % was not',
  test: tested(
    'Test again in water-saturated air, with the pressure read off a barometer beside it.',
    null,
    'The slope comes back: the air or the water of the last run was not what it was taken for.',
    'The slope stays: it is the sensor.',
  ),
};

/** What befalls a cathode behind a membrane. Common practice, no source. */
export const OF_OXYGEN_MEMBRANES: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [
    ...membraneCauses(WIPE, NEW_MEMBRANE),
    {
      id: 'membrane-torn',
      name: 'the membrane is torn or wrinkled',
      prior: 0.01,
      group: 'renew cap and electrolyte',
      test: NEW_MEMBRANE,
      expects: { sensitivityLost: { mean: -25, sd: 15 }, zeroMoved: { mean: 15, sd: 10 } },
      sudden: true,
      curedBy: ['tip replaced'],
    },
    thermometerWrong(3, 0.3),
    NOT_FULL,
    PROCESS_MOVED,
    OTHER_THAN_THESE,
  ],
};
