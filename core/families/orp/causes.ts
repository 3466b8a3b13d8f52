import type { Cause, NextTest } from '../../sensor/befalls.ts';
import { befallsElectrode } from '../../kin/electrodes.ts';

const POLISH: NextTest = {
  what: 'Clean the platinum and test again in a redox standard.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: ['It answers fast again: it was a film.', 'It stays slow: look at the reference.'],
};

const PLATINUM_DIRTY: Cause = {
  id: 'platinum-dirty',
  name: 'the platinum is dirty',
  prior: 0.02,
  group: 'clean it',
  test: POLISH,
  expects: { zeroMoved: { mean: 0, sd: 9 }, slower: { mean: 0.8, sd: 0.4 } },
  curedBy: ['cleaned'],
};

/** What befalls platinum. All figures are common practice without a source. */
export const OF_PLATINUM = befallsElectrode(false, [PLATINUM_DIRTY]);
