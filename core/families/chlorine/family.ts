import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { still } from '../../solutions/standard.ts';
import { OF_MEMBRANES } from './causes.ts';
import { CHLORINE_BENCH } from './words.ts';

/** Flow, pH and film at the membrane between two samples, share of the value, standard uncertainty. Common practice, no source. */
const FLOW_SHARE = 0.02;

/** I = zero + sensitivity · nominal slope · c, amperometric; the slope comes from a photometer's grab sample. */
function chlorine(nominal: number): Model {
  return {
    valueUnit: 'mg/L',
    signalUnit: 'nA',
    range: { low: 0, high: 200 },
    origin: 0,
    ideal: (value) => value * nominal,
    valueOf: (response) => response / nominal,
    shows: (standard, value) => inChannelUnit(standard, value, 'mg/L'),
    workingRows: ({ value }) => [
      { name: 'flow and pH at the membrane', uncertainty: value * FLOW_SHARE, because: 'common practice, no source' },
    ],
  };
}

export const CHLORINE: Family = {
  id: 'chlorine',
  name: 'free chlorine',
  zero: { name: 'zero', unit: 'nA', meaning: 'current in chlorine-free water' },
  sensitivity: { name: 'slope', unit: '%', meaning: 'share of the nominal slope' },
  points: { least: 1, most: 2 },
  settings: {
    nominalSlope: { kind: 'figure', name: 'nominal slope', unit: 'nA per mg/L', usual: 100, low: 0.01, high: 100_000 },
  },
  limits: {
    zero: 5,
    sensitivityLow: 0.5,
    sensitivityHigh: 1.5,
    sensitivityDead: 0.1,
    t90Seconds: 180,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'a leaking membrane',
    high: 'suspect the photometer or the sample',
    dead: 'no flow, or a spent membrane',
    alike: {
      means: 'no flow, a spent membrane, or cable',
      test: 'Look for flow and bubbles at the membrane. Then change cap and electrolyte and measure again.',
    },
  },
  step: { absolute: 0.5, relative: 0.01 },
  tail: { seconds: 35, spread: 0.7, share: 0.3, forecast: { usual: 0.41, times: [1.47, 2.58, 3.76] } },
  model: (s) => chlorine(Number(s['nominalSlope'])),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.5, 'Take the slope alone, or chlorine-free water as a blank.'),
  atWork: () => null,
  standards: {
    all: [still('chlorine', 'chlorine-free', 'chlorine-free', 'mg/L', 0)],
    serves: ({ family }) => family === 'chlorine',
    sets: () => [['chlorine-free']],
    usedBy: () => 'sensors of free chlorine',
    mixedUp: () => true,
    openedDays: 180,
    cupsOfOne: 1,
    pairC: null,
    about: null,
  },
  procedures: ['sample', 'calibrate', 'verify'],
  words: CHLORINE_BENCH,
  soakSeconds: null,
  prior: usualPrior,
  befalls: OF_MEMBRANES,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PLAINLY,
  typed: { worksAt: '0.5', tolerance: '0.1', traces: false },
};
