import type { Cause, NextTest } from '../../sensor/befalls.ts';
import { thermometerWrong } from '../../kin/around.ts';
import { befallsElectrode } from '../../kin/electrodes.ts';

const CLEAN: NextTest = {
  what: 'Clean it and test again in both standards.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: [
    'Slope and response come back: it was dirt, and it goes on.',
    'Nothing changes: the glass itself has aged; plan a new one.',
  ],
};
const DRY: NextTest = {
  what: 'Dry and clean the plug and the cable, then test again in both standards.',
  procedure: 'buffers',
  service: 'plug dried',
  outcomes: ['The slope comes back: it was moisture.', 'The slope stays low: the glass.'],
};

const GLASS_AGED: Cause = {
  id: 'glass-aged',
  name: 'the glass has aged',
  prior: 0.012,
  group: 'replace the sensor',
  test: CLEAN,
  after: ['connector-moist', 'glass-coated'],
  expects: {
    sensitivityLost: { mean: 8, sd: 4 },
    sensitivity: { mean: 87, sd: 5 },
    slower: { mean: 0.8, sd: 0.4 },
    membrane: { mean: 5.7, sd: 0.5 },
  },
};
/** Dirt, growth, oil or protein on the glass: it answers late, and comes back when it is cleaned. */
const GLASS_COATED: Cause = {
  id: 'glass-coated',
  name: 'the glass is coated',
  prior: 0.015,
  group: 'clean it',
  test: CLEAN,
  expects: {
    sensitivityLost: { mean: 4, sd: 1 },
    slower: { mean: 1, sd: 0.25 },
    membrane: { mean: 5.2, sd: 0.5 },
  },
  curedBy: ['cleaned'],
};
const CONNECTOR_MOIST: Cause = {
  id: 'connector-moist',
  name: 'moisture at the connector',
  prior: 0.006,
  group: 'look at the wiring',
  test: DRY,
  expects: {
    sensitivityLost: { mean: 12, sd: 8 },
    sensitivity: { mean: 82, sd: 10 },
    membrane: { mean: 3.9, sd: 0.7 },
  },
  curedBy: ['plug dried'],
};
const GLASS_CRACKED: Cause = {
  id: 'glass-cracked',
  name: 'the glass is cracked, or the input is shorted',
  prior: 0.002,
  group: 'replace the sensor',
  test: CLEAN,
  expects: {
    sensitivityLost: { mean: 85, sd: 15 },
    sensitivity: { mean: 5, sd: 12 },
    membrane: { mean: 0, sd: 1.2 },
  },
  sudden: true,
};

/** What befalls glass. All figures are common practice without a source. */
export const OF_GLASS = befallsElectrode(
  true,
  [GLASS_AGED, GLASS_COATED, CONNECTOR_MOIST, GLASS_CRACKED, thermometerWrong(0.34, 0.7)],
  // 0.2 pH in one of two buffers is 12 mV of zero or 7 % of slope.
  7,
);
