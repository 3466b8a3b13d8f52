import type { Cause, NextTest } from '../../sensor/befalls.ts';
import { befallsElectrode } from '../../kin/electrodes.ts';

const NEW_TIP: NextTest = {
  what: 'Clean and condition the tip, then test again in both standards.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: ['The slope comes back: it was dirt.', 'The slope stays low: fit a new tip.'],
};

const TIP_WORN: Cause = {
  id: 'tip-worn',
  name: 'the ion tip is worn',
  prior: 0.02,
  group: 'replace the sensor',
  test: NEW_TIP,
  // Its line turns about another content than that of the zero.
  expects: { zeroMoved: { mean: 0, sd: 12 }, sensitivityLost: { mean: 14, sd: 10 }, slower: { mean: 0.5, sd: 0.4 } },
  curedBy: ['tip replaced'],
};

const TIP_COATED: Cause = {
  id: 'tip-coated',
  name: 'the ion tip is coated',
  prior: 0.015,
  group: 'clean it',
  test: NEW_TIP,
  expects: { sensitivityLost: { mean: 4, sd: 4 }, slower: { mean: 0.9, sd: 0.4 } },
  curedBy: ['cleaned', 'tip replaced'],
};

/** What befalls ion tips. All figures are common practice without a source. */
export const OF_TIPS = befallsElectrode(false, [TIP_WORN, TIP_COATED]);
