import type { Cause, Expected, Piece } from '../sensor/befalls.ts';
import type { NextTest } from './next-test.ts';

/** What a sound electrode shows. */
export const SOUND_ELECTRODE: Readonly<Record<Piece, Expected>> = {
  zeroMoved: { mean: 0, sd: 3.5 },
  sensitivityLost: { mean: 0.7, sd: 1.2 },
  sensitivity: { mean: 96, sd: 3 },
  slower: { mean: 0.1, sd: 0.1 },
  sampleOff: { mean: 0, sd: 3 },
  readingMoved: { mean: 0, sd: 5 },
  // ln of MΩ and kΩ: membranes of 60 to 240 MΩ, references of 3 to 20 kΩ.
  membrane: { mean: 4.8, sd: 0.45 },
  reference: { mean: 2, sd: 0.5 },
};

const CLEAN: NextTest = {
  what: 'Clean it and test again in both standards.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: [
    'Slope and response come back: it was dirt, and it goes on.',
    'Nothing changes: the glass itself has aged; plan a new one.',
  ],
};
const SAMPLE: NextTest = {
  what: 'Take a grab sample and hold it against the reading.',
  procedure: 'sample',
  service: null,
  outcomes: [
    'The sample differs though the standards agree: the junction.',
    'Sample and standards agree: the junction is clear.',
  ],
};
const SAMPLE_OF_WATER: NextTest = {
  what: 'Take a grab sample and hold it against the reading.',
  procedure: 'sample',
  service: null,
  outcomes: [
    'Sample and reading agree: the water has moved. Look at dosing and supply.',
    'The sample is where the water usually is: the sensor, or its junction.',
  ],
};
export const BOTTLE: NextTest = {
  what: 'Test again in fresh standard from another bottle.',
  procedure: 'buffers',
  service: null,
  outcomes: ['It reads as before the last run: the last bottle was wrong.', 'It reads the same: it is the sensor.'],
};
const REFERENCE: NextTest = {
  what: 'Refill or exchange the reference electrolyte, then test again in both standards.',
  procedure: 'buffers',
  service: 'refilled',
  outcomes: [
    'The zero comes back: the electrolyte was diluted.',
    'The zero stays where it is, or comes back in part: the reference is contaminated, or it is the membrane.',
  ],
};
const POLISH: NextTest = {
  what: 'Clean the platinum and test again in a redox standard.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: ['It answers fast again: it was a film.', 'It stays slow: look at the reference.'],
};
const NEW_TIP: NextTest = {
  what: 'Clean and condition the tip, then test again in both standards.',
  procedure: 'buffers',
  service: 'cleaned',
  outcomes: ['The slope comes back: it was dirt.', 'The slope stays low: fit a new tip.'],
};
const DRY: NextTest = {
  what: 'Dry and clean the plug and the cable, then test again in both standards.',
  procedure: 'buffers',
  service: 'plug dried',
  outcomes: ['The slope comes back: it was moisture.', 'The slope stays low: the glass.'],
};

/**
 * What befalls electrodes with a reference: four in five troubles of pH are the reference. A zero that falls by 27 mV is an
 * electrolyte of 3 mol/kg that has become one of 1 mol/kg; it is mostly noticed on the way there.
 */
export const OF_ELECTRODES: readonly Cause[] = [
  {
    id: 'electrolyte-diluted',
    name: 'the reference electrolyte is diluted',
    prior: 0.12,
    group: 'service the reference',
    test: REFERENCE,
    expects: { zeroMoved: { mean: -20, sd: 9 }, reference: { mean: 2.9, sd: 0.5 } },
    moves: 'siblings',
    curedBy: ['refilled'],
  },
  {
    id: 'reference-contaminated',
    name: 'the reference is contaminated',
    prior: 0.06,
    group: 'service the reference',
    test: REFERENCE,
    expects: { zeroMoved: { mean: 17, sd: 9, either: true }, slower: { mean: 0.2, sd: 0.3 } },
    moves: 'siblings',
    // What foreign ions have made of the silver wire stays; nobody knows how much that is.
    partlyCuredBy: ['refilled'],
  },
  {
    id: 'junction-blocked',
    name: 'the junction is blocked',
    prior: 0.1,
    group: 'clean it',
    test: SAMPLE,
    expects: {
      sampleOff: { mean: 25, sd: 14, either: true },
      slower: { mean: 0.4, sd: 0.3 },
      readingMoved: { mean: 0, sd: 12 },
      reference: { mean: 4.3, sd: 0.9 },
    },
    curedBy: ['cleaned'],
  },
  {
    id: 'glass-aged',
    families: ['ph'],
    name: 'the glass has aged',
    prior: 0.06,
    group: 'replace the sensor',
    test: CLEAN,
    expects: {
      sensitivityLost: { mean: 8, sd: 4 },
      sensitivity: { mean: 87, sd: 5 },
      slower: { mean: 0.8, sd: 0.4 },
      membrane: { mean: 5.7, sd: 0.5 },
    },
  },
  {
    id: 'tip-worn',
    families: ['ion'],
    name: 'the ion tip is worn',
    prior: 0.1,
    group: 'replace the sensor',
    test: NEW_TIP,
    expects: { sensitivityLost: { mean: 12, sd: 8 }, slower: { mean: 0.5, sd: 0.4 } },
    curedBy: ['tip replaced'],
  },
  {
    id: 'platinum-dirty',
    families: ['orp'],
    name: 'the platinum is dirty',
    prior: 0.1,
    group: 'clean it',
    test: POLISH,
    expects: { zeroMoved: { mean: 0, sd: 9 }, slower: { mean: 0.8, sd: 0.4 } },
    curedBy: ['cleaned'],
  },
  {
    id: 'connector-moist',
    families: ['ph'],
    name: 'moisture at the connector',
    prior: 0.03,
    group: 'look at the wiring',
    test: DRY,
    expects: {
      sensitivityLost: { mean: 12, sd: 8 },
      sensitivity: { mean: 82, sd: 10 },
      membrane: { mean: 3.9, sd: 0.7 },
    },
    curedBy: ['plug dried'],
  },
  {
    id: 'glass-cracked',
    families: ['ph'],
    name: 'the glass is cracked, or the input is shorted',
    prior: 0.01,
    group: 'replace the sensor',
    test: CLEAN,
    expects: {
      sensitivityLost: { mean: 85, sd: 15 },
      sensitivity: { mean: 5, sd: 12 },
      membrane: { mean: 0, sd: 1.2 },
    },
    sudden: true,
  },
  {
    id: 'standard-wrong',
    name: 'a bottle was wrong',
    prior: 0.05,
    group: 'replace the standard',
    test: BOTTLE,
    // 0.2 pH in one of two buffers is 12 mV of zero or 7 % of slope.
    expects: {
      zeroMoved: { mean: 0, sd: 12 },
      sensitivityLost: { mean: 0.7, sd: 4 },
      sensitivity: { mean: 96, sd: 4.5 },
    },
    sudden: true,
    undone: true,
    moves: 'fellows',
  },
  {
    id: 'process-moved',
    name: 'the water has moved, not the sensor',
    prior: 0.05,
    group: 'look at the process',
    test: SAMPLE_OF_WATER,
    expects: { readingMoved: { mean: 30, sd: 20, either: true } },
    moves: 'twins',
    needs: 'readingMoved',
  },
];
