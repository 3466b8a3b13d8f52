import type { Cause, Expected, Piece } from '../sensor/befalls.ts';
import type { NextTest } from './next-test.ts';
import { BOTTLE, SOUND_ELECTRODE } from './of-electrodes.ts';

/**
 * What a sound cell, membrane, optical sensor or thermometer shows: a zero in steps that count, a sensitivity in percent, about
 * what it has been. Common practice, no source, as all figures here.
 */
export const SOUND_OTHER: Readonly<Record<Piece, Expected>> = {
  ...SOUND_ELECTRODE,
  zeroMoved: { mean: 0, sd: 3 },
  sensitivityLost: { mean: 0.3, sd: 1.5 },
};

const tested = (what: string, service: NextTest['service'], ...outcomes: readonly string[]): NextTest => ({
  what,
  procedure: 'buffers',
  service,
  outcomes,
});
const DESCALE = tested(
  'Take the scale off and test again in the same standard.',
  'cleaned',
  'The gain comes back: it was scale.',
  'Nothing changes: the plates are worn; plan a new cell.',
);
const DRY_LEAD = tested(
  'Dry and clean the plug and the lead, then look at the cell in air.',
  'plug dried',
  'The air zero comes back: it was a leak.',
  'The zero stays: the cell itself holds water; dry it, or plan a new one.',
);
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
const WASH = tested(
  'Clean the window and test again in the same standards.',
  'cleaned',
  'The zero comes back: it was dirt.',
  'Nothing changes: the lamp; have it serviced.',
);
const OTHER_INSTRUMENT = tested(
  'Hold it against another instrument.',
  null,
  'It agrees with the other one: the first instrument was wrong.',
  'It differs by the same: it is the sensor.',
);
const TERMINALS = tested(
  'Open, clean and close the terminals, then compare again.',
  'plug dried',
  'The offset is gone: it was a contact.',
  'The offset stays: the element has drifted.',
);
const SAMPLE_OF_WATER: NextTest = {
  what: 'Take a grab sample and hold it against the reading.',
  procedure: 'sample',
  service: null,
  outcomes: [
    'Sample and reading agree: the water has moved. Look at dosing and supply.',
    'The sample is where the water usually is: the sensor.',
  ],
};

const STANDARD_WRONG: Cause = {
  id: 'standard-wrong',
  name: 'a bottle was wrong',
  prior: 0.05,
  group: 'replace the standard',
  test: BOTTLE,
  expects: { zeroMoved: { mean: 0, sd: 6 }, sensitivityLost: { mean: 0.3, sd: 6 } },
  sudden: true,
  undone: true,
  moves: 'fellows',
};

/** One standard, or another instrument, moves one of the two. */
const BOTTLE_OF_GAIN: Cause = { ...STANDARD_WRONG, expects: { sensitivityLost: { mean: 0.3, sd: 6 } } };
const PHOTOMETER_WRONG: Cause = {
  ...BOTTLE_OF_GAIN,
  name: 'the value that it was held against was wrong',
  test: OTHER_INSTRUMENT,
};
const OTHER_THERMOMETER_WRONG: Cause = {
  ...STANDARD_WRONG,
  name: 'the thermometer that it was held against was wrong',
  test: OTHER_INSTRUMENT,
  expects: { zeroMoved: { mean: 0, sd: 8 } },
};

const PROCESS_MOVED: Cause = {
  id: 'process-moved',
  name: 'the water has moved, not the sensor',
  prior: 0.05,
  group: 'look at the process',
  test: SAMPLE_OF_WATER,
  expects: { readingMoved: { mean: 30, sd: 20, either: true } },
  moves: 'twins',
  needs: 'readingMoved',
};

/** Conductivity cells: scale on the plates takes the same share everywhere, a leaking lead adds the same amount. */
export const OF_CELLS: readonly Cause[] = [
  {
    id: 'cell-scaled',
    name: 'the cell is scaled',
    prior: 0.12,
    group: 'clean it',
    test: DESCALE,
    expects: { sensitivityLost: { mean: 7, sd: 4 }, slower: { mean: 0.2, sd: 0.3 } },
    curedBy: ['cleaned'],
  },
  {
    id: 'plates-worn',
    name: 'the plates are worn',
    prior: 0.03,
    group: 'replace the sensor',
    test: DESCALE,
    expects: { sensitivityLost: { mean: 6, sd: 4 } },
  },
  {
    id: 'lead-leaks',
    name: 'the plug or the lead leaks',
    prior: 0.04,
    group: 'look at the wiring',
    test: DRY_LEAD,
    expects: { zeroMoved: { mean: 12, sd: 8 } },
    curedBy: ['plug dried'],
  },
  BOTTLE_OF_GAIN,
  PROCESS_MOVED,
];

/** Chlorine behind a membrane. */
export const OF_CHLORINE: readonly Cause[] = [
  {
    id: 'membrane-fouled',
    name: 'the membrane is fouled',
    prior: 0.12,
    group: 'clean it',
    test: WIPE,
    expects: { sensitivityLost: { mean: 12, sd: 8 }, slower: { mean: 0.6, sd: 0.4 } },
    curedBy: ['cleaned', 'tip replaced'],
  },
  {
    id: 'electrolyte-spent',
    name: 'the electrolyte behind the membrane is spent',
    prior: 0.1,
    group: 'renew cap and electrolyte',
    test: NEW_CAP,
    expects: { sensitivityLost: { mean: 15, sd: 10 }, zeroMoved: { mean: 0, sd: 8 } },
    curedBy: ['refilled', 'tip replaced'],
  },
  PHOTOMETER_WRONG,
  PROCESS_MOVED,
];

/** Optical nitrate: dirt takes light from all water alike. */
export const OF_OPTICS: readonly Cause[] = [
  {
    id: 'window-dirty',
    name: 'the window is dirty',
    prior: 0.15,
    group: 'clean it',
    test: WASH,
    expects: { zeroMoved: { mean: 12, sd: 8 } },
    curedBy: ['cleaned'],
  },
  {
    id: 'lamp-aged',
    name: 'the lamp has aged',
    prior: 0.04,
    group: 'replace the sensor',
    test: WASH,
    expects: { sensitivityLost: { mean: 7, sd: 4 }, zeroMoved: { mean: 0, sd: 8 } },
  },
  STANDARD_WRONG,
  PROCESS_MOVED,
];

/** Thermometers. */
export const OF_THERMOMETERS: readonly Cause[] = [
  {
    id: 'element-drifted',
    name: 'the thermometer has drifted',
    prior: 0.05,
    group: 'replace the sensor',
    test: OTHER_INSTRUMENT,
    expects: { zeroMoved: { mean: 0, sd: 10 } },
  },
  {
    id: 'contact-poor',
    name: 'a contact of its lead has become poor',
    prior: 0.04,
    group: 'look at the wiring',
    test: TERMINALS,
    expects: { zeroMoved: { mean: 8, sd: 8 } },
    sudden: true,
    curedBy: ['plug dried'],
  },
  OTHER_THERMOMETER_WRONG,
  PROCESS_MOVED,
];
