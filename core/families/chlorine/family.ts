import { CONDITIONS, type Conditions } from '../../sensor/conditions.ts';
import { PLAINLY, type Family, type Model, type WorkingPoint } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { hypochlorousShare } from '../../solutions/dissociation.ts';
import { still } from '../../solutions/standard.ts';
import { OF_MEMBRANES } from './causes.ts';
import { CHLORINE_BENCH } from './words.ts';

/** Flow, pH and film at the membrane between two samples, share of the value, standard uncertainty. Common practice, no source. */
const FLOW_SHARE = 0.02;
const NO_SOURCE = 'common practice, no source';

/** How well the pH is known that a sensor of the acid is compensated with, pH, standard uncertainty. Common practice, no source. */
const PH_KNOWN = 0.05;

/** Share of the acid against what it is at pH 7 and 25 °C, where the nominal slope holds. */
const acidShare = ({ temperatureC, ph = CONDITIONS.ph.usual }: Conditions) =>
  hypochlorousShare(ph, temperatureC) / hypochlorousShare(7, 25);

/** I = zero + sensitivity · nominal slope · c, amperometric; the slope comes from a photometer's grab sample. */
function chlorine(nominal: number, acidOnly: boolean): Model {
  const slopeAt = (at: Conditions) => nominal * (acidOnly ? acidShare(at) : 1);
  // d ln(share)/dpH = −ln 10 · (1 − share)
  const ofPh = ({ value, temperatureC, ph = CONDITIONS.ph.usual }: WorkingPoint) =>
    value * PH_KNOWN * Math.LN10 * (1 - hypochlorousShare(ph, temperatureC) / 100);
  return {
    valueUnit: 'mg/L',
    signalUnit: 'nA',
    range: { low: 0, high: 200 },
    origin: 0,
    ideal: (value, at) => value * slopeAt(at),
    valueOf: (response, at) => response / slopeAt(at),
    shows: (standard, value) => inChannelUnit(standard, value, 'mg/L'),
    workingRows: (at) => [
      { name: 'flow and pH at the membrane', uncertainty: at.value * FLOW_SHARE, because: NO_SOURCE },
      ...(acidOnly ? [{ name: 'pH of the water', uncertainty: ofPh(at), because: NO_SOURCE }] : []),
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
    senses: {
      kind: 'choice',
      name: 'senses',
      usual: 'all',
      choices: [
        { id: 'all', name: 'free chlorine at any pH' },
        { id: 'acid', name: 'hypochlorous acid only' },
      ],
    },
  },
  conditions: ({ senses }) => (senses === 'acid' ? ['ph'] : []),
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
  model: (s) => chlorine(Number(s['nominalSlope']), s['senses'] === 'acid'),
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
  soak: null,
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
