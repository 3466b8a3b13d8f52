import type { Befalls } from '../../sensor/befalls.ts';
import { OTHER_THAN_THESE } from '../../kin/around.ts';
import { PROCESS_MOVED, SOUND_OTHER, STANDARD_WRONG, tested } from '../../kin/others.ts';

const WASH = tested(
  'Clean the window and test again in the same standards.',
  'cleaned',
  'The zero comes back: it was dirt.',
  'Nothing changes: the lamp; have it serviced.',
);

/** Optical nitrate: dirt takes light from all water alike. */
export const OF_OPTICS: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [
    {
      id: 'window-dirty',
      name: 'the window is dirty',
      prior: 0.03,
      group: 'clean it',
      test: WASH,
      expects: { zeroMoved: { mean: 12, sd: 8 } },
      curedBy: ['cleaned'],
    },
    {
      id: 'lamp-aged',
      name: 'the lamp has aged',
      prior: 0.008,
      group: 'replace the sensor',
      test: WASH,
      expects: { sensitivityLost: { mean: 7, sd: 4 }, zeroMoved: { mean: 0, sd: 8 } },
    },
    STANDARD_WRONG,
    PROCESS_MOVED,
    OTHER_THAN_THESE,
  ],
};
