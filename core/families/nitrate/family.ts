import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { byFactor } from '../../sensor/scale.ts';
import { molarMass } from '../../solutions/salts.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { NITRATE_PER_N } from '../../quantities/units.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { still } from '../../solutions/standard.ts';
import { OF_OPTICS } from './causes.ts';
import { OPTICAL_BENCH } from './words.ts';

/** Turbidity and film on the windows, mg/L NO3-N, standard uncertainty. Common practice, no source. */
const WINDOW_MG_PER_L = 0.05;

/** reading = zero + sensitivity · c, as N: an optical sensor that shows concentrations itself. */
const MODEL: Model = {
  valueUnit: 'mg/L NO3-N',
  signalUnit: 'mg/L NO3-N',
  writes: () => [byFactor('mmol/L N', 1 / molarMass('N'))],
  range: { low: 0, high: 1000 },
  origin: 0,
  ideal: (value) => value,
  valueOf: (response) => response,
  shows: (standard, value) => inChannelUnit(standard, value, 'mg/L NO3-N'),
  workingRows: () => [
    { name: 'windows and turbidity', uncertainty: WINDOW_MG_PER_L, because: 'common practice, no source' },
  ],
};

export const NITRATE: Family = {
  id: 'nitrate',
  name: 'nitrate, optical',
  zero: { name: 'zero', unit: 'mg/L NO3-N', meaning: 'shown in water without nitrate' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'shown for what is there' },
  points: { least: 1, most: 2 },
  settings: {},
  conditions: () => [],
  limits: {
    zero: 1,
    sensitivityLow: 0.8,
    sensitivityHigh: 1.2,
    sensitivityDead: 0.2,
    t90Seconds: 180,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'dirty windows, or light in the cup',
    high: 'suspect the standard or its unit',
    dead: 'dirty windows, or the lamp',
    alike: {
      means: 'dirty windows, the lamp, or stray light',
      test: 'Clean the windows, shade the cup, and measure both standards again.',
    },
  },
  step: { absolute: 0.02, relative: 0.005 },
  tail: { seconds: 15, spread: 0.7, share: 0.1, forecast: { usual: 1.35, times: [0.3, 0.62, 1.2] } },
  model: () => MODEL,
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.5, 'Take one point alone, or a blank.'),
  atWork: () => null,
  standards: {
    all: [
      still('nitrate', 'nitrate-free', 'nitrate-free', 'mg/L NO3-N', 0),
      still('nitrate', 'nitrate-n-5', 'nitrate 5 as N', 'mg/L NO3-N', 5),
    ],
    serves: ({ family }) => family === 'nitrate',
    sets: () => [['nitrate-n-5'], ['nitrate-free', 'nitrate-n-5']],
    usedBy: () => 'sensors of nitrate, optical',
    mixedUp: () => true,
    openedDays: 180,
    cupsOfOne: 1,
    pairC: null,
    about: null,
  },
  procedures: ['calibrate', 'check-first', 'verify', 'sample'],
  words: OPTICAL_BENCH,
  soak: null,
  prior: usualPrior,
  befalls: OF_OPTICS,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [NITRATE_PER_N, 1 / NITRATE_PER_N],
  shown: PLAINLY,
  typed: { worksAt: '5', tolerance: '0.5', traces: false },
};
