import type { Befalls, Cause } from '../../sensor/befalls.ts';
import { OTHER_THAN_THESE } from '../../kin/around.ts';
import {
  BOTTLE_OF_GAIN,
  membraneCauses,
  OTHER_INSTRUMENT,
  PROCESS_MOVED,
  SOUND_OTHER,
  tested,
} from '../../kin/others.ts';

const WIPE = tested(
  'Clean the membrane and hold it against a photometer again.',
  'cleaned',
  'The slope comes back: it was a film.',
  'The slope stays low: the electrolyte behind it is spent.',
);
const NEW_CAP = tested(
  'Fit a new cap with fresh electrolyte, let it run in, and hold it against a photometer again.',
  'tip replaced',
  'The slope comes back: the electrolyte was spent.',
  'The slope stays low: the sensor itself; plan a new one.',
);

const PHOTOMETER_WRONG: Cause = {
  ...BOTTLE_OF_GAIN,
  name: 'the value that it was held against was wrong',
  test: OTHER_INSTRUMENT,
};

/** What befalls a sensor behind a membrane. */
export const OF_MEMBRANES: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [...membraneCauses(WIPE, NEW_CAP), PHOTOMETER_WRONG, PROCESS_MOVED, OTHER_THAN_THESE],
};
