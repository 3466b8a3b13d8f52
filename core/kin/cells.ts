import { PPM_SCALES } from '../quantities/units.ts';
import type { Befalls } from '../sensor/befalls.ts';
import type { Family, Poured, SettingField } from '../sensor/family.ts';
import { usualPrior } from '../sensor/prior.ts';
import { SITE_FIRST, type BenchWords } from '../sensor/words.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from '../solutions/conductivity-standards.ts';
import { called, type Standard } from '../solutions/standard.ts';
import { AIR } from '../solutions/without-liquid.ts';
import { EVERY_BENCH } from './bench.ts';
import { OTHER_THAN_THESE, thermometerWrong } from './around.ts';
import { BOTTLE_OF_GAIN, PROCESS_MOVED, SOUND_OTHER, tested } from './others.ts';

/** What every contacting cell has in common. */

/** Settings that every contacting cell has. */
export const CELL_CONSTANT: SettingField = {
  kind: 'figure',
  name: 'cell constant',
  unit: '/cm',
  usual: 1,
  low: 0.001,
  high: 100,
};

export const ALPHA = {
  kind: 'figure',
  name: 'temperature coefficient',
  unit: '%/°C',
  usual: 2,
  low: 0,
  high: 10,
} as const satisfies SettingField;

/** The two ends of a cell's line differ by a fifth or more. Common practice, no source. */
export const CELL_SHARE = 0.8;

const kcl = (id: string, name: string) =>
  called(
    CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!,
    id,
    name,
  );

/** Air, and the bottles that cells stand in. */
const CELL_STANDARDS: readonly Standard[] = [
  AIR,
  called(conductivityBottle({ label: 84, labelC: 25, salt: 'KCl' }), 'kcl-84', '84 µS/cm'),
  kcl('kcl-0.01', '1413 µS/cm'),
  kcl('kcl-0.02', '2765 µS/cm'),
  kcl('kcl-0.1', '12.88 mS/cm'),
  called(
    conductivityBottle({ label: 53_065, labelC: 25, salt: 'seawater', plusMinusPercent: 0.5 }),
    'seawater-35',
    'S 35',
  ),
  kcl('kcl-1', '111.8 mS/cm'),
];

/**
 * What cells of a family stand in.
 *
 * @param name of what they measure
 * @param sets as usual
 */
export const inCells = (name: string, sets: readonly (readonly string[])[]): Poured => ({
  all: CELL_STANDARDS,
  serves: ({ family }) => family === 'conductivity',
  sets: () => sets,
  usedBy: () => `sensors of ${name}`,
  mixedUp: () => true,
  openedDays: 180,
  cupsOfOne: 1,
  pairC: null,
  about: null,
});

/** What a value is off by in another ppm scale, either way. */
const BY_A_SCALE = [...PPM_SCALES, ...PPM_SCALES.map((scale) => 1 / scale)];

/** Facts of the trade: common practice, no source. */
export const CELL_BENCH: BenchWords = {
  ...EVERY_BENCH,
  takeOut: {
    title: 'Cell out, rinsed, shaken dry',
    text: 'Rinse with RO or DI water and shake. Never touch the face of the cell with fingers, and do not clean it yet: the first look is the as-found one.',
    caution: `Pressurised line: isolate, depressurise, drain first. Keep connectors and wet hands away from mains. ${SITE_FIRST}`,
  },
  place: ({ name, inAir }, previous) =>
    inAir
      ? {
          title: 'Into the air, bone dry',
          text: 'Blow the cell out and let it stand: a drop between the electrodes is a false zero. Hold it clear of everything.',
        }
      : {
          title: `Into fresh ${name}`,
          text: `${previous && !previous.inAir ? `Rinse with a little ${name}, discard it, then fill afresh. ` : ''}Float the standard beside the thermometer until it is as warm as the water. Vent holes up, at an angle; no water of the process may leak in.`,
          caution: 'Plastic cup or sachet, no force. Never pour used standard back.',
        },
  settle: ({ name, inAir }) =>
    inAir
      ? {
          title: 'Settle in air',
          text: 'It must fall to nothing and stay there. If it creeps, the cell is still wet: blow it out again.',
        }
      : {
          title: `Settle in ${name}`,
          text: 'Tap the bubbles out, then let it be. Bubbles and mains cables beside the lead are the usual false alarms.',
        },
  repeat: {
    first: {
      title: 'Tap, settle to the same number',
      text: 'Tap the cell and let it settle again: a bubble shows as a second, higher number.',
    },
    again: {
      title: 'They differ: tap once more',
      text: 'The last two settlings do not agree, as with a bubble in the cell. Tap, settle again: two in a row must agree.',
    },
  },
  clean: {
    title: 'Clean the cell',
    text: 'Soft brush and mild detergent for growth, a short soak in a mild acid meant for cells for scale, then rinse well. Fresh standard for the second look, before the cell is blamed.',
    caution: 'Eye protection and gloves for acid. Never mix cleaners. Discard used solution as the local rules say.',
  },
};

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

/** Conductivity cells: scale on the plates takes the same share everywhere, a leaking lead adds the same amount. */
const OF_CELLS: Befalls = {
  slopeKnown: false,
  sound: SOUND_OTHER,
  causes: [
    {
      id: 'cell-scaled',
      name: 'the cell is scaled',
      prior: 0.024,
      group: 'clean it',
      test: DESCALE,
      expects: { sensitivityLost: { mean: 7, sd: 4 }, slower: { mean: 0.2, sd: 0.3 } },
      curedBy: ['cleaned'],
    },
    {
      id: 'plates-worn',
      name: 'the plates are worn',
      prior: 0.006,
      group: 'replace the sensor',
      test: DESCALE,
      expects: { sensitivityLost: { mean: 6, sd: 4 } },
    },
    {
      id: 'lead-leaks',
      name: 'the plug or the lead leaks',
      prior: 0.008,
      group: 'look at the wiring',
      test: DRY_LEAD,
      expects: { zeroMoved: { mean: 12, sd: 8 } },
      curedBy: ['plug dried'],
    },
    thermometerWrong(2, 0.3),
    BOTTLE_OF_GAIN,
    PROCESS_MOVED,
    OTHER_THAN_THESE,
  ],
};

/** What practice expects of every contacting cell. Common practice, no source. */
export const CELL_PRACTICE: Omit<
  Family,
  | 'id'
  | 'name'
  | 'zero'
  | 'sensitivity'
  | 'points'
  | 'settings'
  | 'model'
  | 'frees'
  | 'tooClose'
  | 'standards'
  | 'shown'
  | 'typed'
> = {
  conditions: () => [],
  limits: {
    zero: 20,
    sensitivityLow: 0.85,
    sensitivityHigh: 1.15,
    sensitivityDead: 0.2,
    t90Seconds: 120,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'a wet cell, or a cable that leaks',
    high: 'suspect the standard or the cell constant',
    dead: 'the cell is dry, bridged by a bubble or not connected',
    alike: {
      means: 'a bubble, a bridged or dry cell, or cable',
      test: 'Shake the bubbles out in each cup. Then lift it into the air: a sound, dry cell shows next to nothing there.',
    },
  },
  step: { absolute: 0.1, relative: 0.003 },
  tail: { seconds: 5, spread: 1, share: 0.05, forecast: { usual: 1.1, times: [0.35, 0.88, 1.15] } },
  procedures: ['calibrate', 'check-first', 'verify', 'clean-and-test', 'sample', 'electrical'],
  atWork: () => null,
  words: CELL_BENCH,
  soak: null,
  prior: usualPrior,
  befalls: OF_CELLS,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: BY_A_SCALE,
};
