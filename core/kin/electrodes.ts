import type { Befalls, Cause, Expected, NextTest, Piece } from '../sensor/befalls.ts';
import { OTHER } from './around.ts';
import { EVERY_BENCH } from './bench.ts';
import { SITE_FIRST, type BenchWords, type Soak, type Stand, type Words } from '../sensor/words.ts';

/** What electrodes with a reference have in common: their step sheet, what a sound one shows, and what befalls the reference. */

const HOUR = 3600;

/**
 * How a membrane takes up water: in its low standard where it takes hours, in KCl storage solution where one is enough.
 *
 * @example soakedFor(3600).words(true).title // 'Soak it: it stood dry'
 */
export const soakedFor = (seconds: number): Soak => ({
  seconds,
  words: (dry) => ({
    title: dry ? 'Soak it: it stood dry' : 'Soak it: it is new',
    text: `${seconds >= 2 * HOUR ? `${Math.round(seconds / HOUR)} hours` : 'An hour'} in ${seconds >= 2 * HOUR ? 'its low standard' : 'KCl storage solution'}, the cap off. A membrane that has not taken up water drifts for days, and is calibrated for nothing.`,
    caution: 'Never in distilled, deionised or RO water: that draws the electrolyte out.',
  }),
});

/** Glass, and whatever else is dipped with a reference beside it; in one place so that a reader can hear the words together. */
export const ELECTRODE_BENCH: BenchWords = {
  ...EVERY_BENCH,
  takeOut: {
    title: 'Probe out, rinsed, blotted',
    text: 'Rinse with RO, DI or tap water and blot. Do not wipe the glass, and do not clean it yet: the first look is the as-found one.',
    caution: `Pressurised line: isolate, depressurise, drain first. Keep connectors and wet hands away from mains. ${SITE_FIRST}`,
  },
  place: ({ name }: Stand, previous?: Stand): Words => ({
    title: previous ? `Rinse, blot, into fresh ${name}` : `Into a fresh cup of ${name}`,
    text: previous
      ? `A drop of ${previous.name} carried over pulls the reading toward it. Rinse well, blot, then into a fresh cup of ${name}.`
      : `Pour ${name} fresh into a small plastic cup, at the temperature of the water. Tip fully under, no bubbles on the glass.`,
    caution:
      'Blown glass breaks: plastic cup, no force. Eye protection and gloves with pH 10. Never pour used buffer back.',
  }),
  settle: ({ name }: Stand): Words => ({
    title: `Settle in ${name}`,
    text: 'Tip fully under, no bubbles on the glass. Swirl once, then let it be.',
    caution: 'Blown glass: plastic cup, no force.',
  }),
  repeat: {
    first: {
      title: 'Wiggle, settle to the same number',
      text: 'Swirl once more and let it settle again. The second number must agree with the first.',
    },
    again: {
      title: 'They differ: wiggle once more',
      text: 'The last two settlings do not agree, as with a bubble on the glass. Tap it off, swirl, settle again: two in a row must agree.',
    },
  },
  clean: {
    title: 'Clean the probe',
    text: 'Soft brush and mild detergent for growth, a short soak in a cleaner meant for pH glass for scale, then rinse and ten minutes in KCl storage solution. Fresh buffer for the second look.',
    caution:
      'Eye protection and gloves for acid or caustic cleaners. Never mix cleaners. No hard brush on the bulb. Discard used solution as the local rules say.',
  },
};

/** What a sound electrode shows. */
export const SOUND_ELECTRODE: Readonly<Record<Piece, Expected>> = {
  zeroMoved: { mean: 0, sd: 3.5 },
  sensitivityLost: { mean: 0.7, sd: 1.2 },
  sensitivity: { mean: 96, sd: 3 },
  slower: { mean: 0.1, sd: 0.03 },
  sampleOff: { mean: 0, sd: 3 },
  readingMoved: { mean: 0, sd: 5 },
  // ln of MΩ and kΩ: membranes of 60 to 240 MΩ, references of 3 to 20 kΩ.
  membrane: { mean: 4.8, sd: 0.45 },
  reference: { mean: 2, sd: 0.5 },
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

/**
 * The reference: four in five troubles of pH. A zero that falls by 27 mV is an electrolyte of 3 mol/kg that has become one of
 * 1 mol/kg; it is mostly noticed on the way there.
 */
const OF_THE_REFERENCE: readonly Cause[] = [
  {
    id: 'electrolyte-diluted',
    name: 'the reference electrolyte is diluted',
    prior: 0.024,
    group: 'service the reference',
    test: REFERENCE,
    expects: { zeroMoved: { mean: -20, sd: 9 }, reference: { mean: 2.9, sd: 0.5 } },
    moves: 'siblings',
    curedBy: ['refilled'],
  },
  {
    id: 'reference-contaminated',
    name: 'the reference is contaminated',
    prior: 0.012,
    group: 'service the reference',
    test: REFERENCE,
    expects: { zeroMoved: { mean: 20, sd: 8, either: true }, slower: { mean: 0.2, sd: 0.2 } },
    moves: 'siblings',
    // What foreign ions have made of the silver wire stays; nobody knows how much that is.
    partlyCuredBy: ['refilled'],
  },
  {
    id: 'junction-blocked',
    name: 'the junction is blocked',
    prior: 0.02,
    group: 'clean it',
    test: SAMPLE,
    expects: {
      // A junction that makes less than 5 mV is not called blocked.
      sampleOff: { mean: 28, sd: 8, either: true },
      slower: { mean: 0.57, sd: 0.18 },
      readingMoved: { mean: 0, sd: 12 },
      reference: { mean: 4.3, sd: 0.9 },
    },
    unseen: true,
    curedBy: ['cleaned'],
  },
];

/**
 * The water has moved, and the sensor is right.
 *
 * @param otherwise what it is where a sample shows the water as it usually is
 */
export const processMoved = (otherwise: string): Cause => ({
  id: 'process-moved',
  name: 'the water has moved, not the sensor',
  prior: 0.01,
  group: 'look at the process',
  test: {
    what: 'Take a grab sample and hold it against the reading.',
    procedure: 'sample',
    service: null,
    outcomes: [
      'Sample and reading agree: the water has moved. Look at dosing and supply.',
      `The sample is where the water usually is: ${otherwise}.`,
    ],
  },
  expects: { readingMoved: { mean: 30, sd: 20, either: true } },
  moves: 'twins',
  needs: 'readingMoved',
});

/** The water is at another potential than the earth of the instrument: a leak in a pump, a heater, a lamp. */
const STRAY_VOLTAGE: Cause = {
  id: 'stray-voltage',
  name: 'a voltage in the water',
  prior: 0.003,
  group: 'look at the wiring',
  test: {
    what: 'Hold the probe in a cup of the same water, then pull the plugs of pumps, heaters and lamps one after the other, with dry hands. Water under voltage can kill: keep hands out of it, and leave the rest to an electrician.',
    procedure: 'sample',
    service: null,
    outcomes: [
      'It reads otherwise in the cup, or jumps back with one of the plugs: that device leaks, and stays unplugged.',
      'It reads the same in the cup: the junction.',
    ],
  },
  expects: { sampleOff: { mean: 45, sd: 16, either: true }, readingMoved: { mean: 45, sd: 16, either: true } },
  unseen: true,
};

/** Causes outside the sensor that its figures cannot be told from at first: a wrong bottle, and water that has moved. */
const aroundAnElectrode = (gain: number): readonly Cause[] => [
  {
    id: 'standard-wrong',
    name: 'a bottle was wrong',
    prior: 0.01,
    group: 'replace the standard',
    test: BOTTLE,
    expects: {
      zeroMoved: { mean: 0, sd: 12 },
      sensitivityLost: { mean: 0.7, sd: gain },
    },
    sudden: true,
    undone: true,
    moves: 'fellows',
  },
  processMoved('the sensor, or its junction'),
  STRAY_VOLTAGE,
  OTHER,
];

/**
 * Causes for the electrodes of a family: of the reference, of the electrode itself, and of things outside the sensor.
 *
 * @param slopeKnown see `Befalls`
 * @param gain how much of the slope a wrong bottle gives or takes, percent: 10 % in one of two contents a decade apart is 4
 */
export const befallsElectrode = (slopeKnown: boolean, own: readonly Cause[], gain = 4): Befalls => ({
  slopeKnown,
  sound: SOUND_ELECTRODE,
  causes: [...OF_THE_REFERENCE, ...own, ...aroundAnElectrode(gain)],
});
