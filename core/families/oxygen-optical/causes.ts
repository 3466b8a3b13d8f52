import type { Befalls } from '../../sensor/befalls.ts';
import { OTHER_THAN_THESE, thermometerWrong } from '../../kin/around.ts';
import { PROCESS_MOVED, SOUND_OTHER, tested } from '../../kin/others.ts';
import { NOT_FULL } from '../oxygen-membrane/causes.ts';

const WIPE_CAP = tested(
  'Wipe the cap clean and test again in water-saturated air.',
  'cleaned',
  'It answers as fast as before: it was growth.',
  'Nothing changes: the dye has faded.',
);
const NEW_CAP = tested(
  'Fit a new cap with its own coefficients and test again in water-saturated air and in zero oxygen.',
  'tip replaced',
  'Zero and slope come back: the dye had faded.',
  'Nothing changes: lamp or detector; have it serviced.',
);

/** What befalls a dye in a cap: it bleaches, and things grow on it. Common practice, no source. */
export const OF_CAPS: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [
    {
      id: 'cap-faded',
      name: 'the dye in the cap has faded',
      prior: 0.024,
      group: 'renew the cap',
      test: NEW_CAP,
      // K = k τ0: a dye that lives shorter is quenched less, and τ0 of the data sheet over its τ keeps the slope.
      expects: { sensitivityLost: { mean: 2, sd: 4 }, zeroMoved: { mean: 15, sd: 10 } },
      curedBy: ['tip replaced'],
    },
    {
      id: 'cap-fouled',
      name: 'the cap is overgrown',
      prior: 0.02,
      group: 'clean it',
      test: WIPE_CAP,
      expects: { sensitivityLost: { mean: 4, sd: 4 }, slower: { mean: 0.6, sd: 0.4 } },
      curedBy: ['cleaned', 'tip replaced'],
    },
    thermometerWrong(3, 0.3),
    NOT_FULL,
    PROCESS_MOVED,
    OTHER_THAN_THESE,
  ],
};
