import { THERMISTOR_ROWS, thermistorOf } from '../../electrical/thermistor.ts';
import { PLAINLY, type Family, type Model, type SettingField } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { OF_THERMOMETERS } from './causes.ts';
import { THERMOMETER_BENCH } from './words.ts';

/** How far probe and thermometer in one cup may differ in temperature, standard uncertainty, °C. Common practice, no source. */
const GRADIENT_C = 0.05;

/** shown = zero + sensitivity · t. The display may take whole steps only: what remains is known, not lost. */
const MODEL: Model = {
  valueUnit: '°C',
  signalUnit: '°C',
  range: { low: -50, high: 250 },
  origin: 0,
  ideal: (value) => value,
  valueOf: (response) => response,
  shows: (standard, value) => inChannelUnit(standard, value, '°C'),
  workingRows: () => [
    { name: 'gradient, probe to thermometer', uncertainty: GRADIENT_C, because: 'common practice, no source' },
  ],
};

/**
 * A thermometer keeps its gain to the class of its element, and wiping it changes nothing but what stuck to it: a fifth of a
 * step. Common practice, no source.
 */
const thermometerPrior: Family['prior'] = (step) => {
  const { zero, sensitivity, paceSd } = usualPrior(step);
  return {
    zero: { ...zero, cleanedSd: 0.2 * step },
    sensitivity: {
      ...sensitivity,
      sd: 0.004,
      walk: 0.00005,
      rateSd: 0.00001,
      firstRateSd: 0.00001,
      jumpSd: 0.003,
      cleanedSd: 0.0002,
    },
    paceSd,
  };
};

const ohmsAt = (atC: number, usual: number): SettingField => ({
  kind: 'figure',
  name: `thermistor at ${atC} °C`,
  unit: 'Ω',
  usual,
  low: 1,
  high: 1e8,
  mayChange: true,
  onlyWith: { setting: 'element', is: 'thermistor' },
});

/** Two baths closer than this say nothing about a slope, °C. Common practice, no source. */
const MIN_SPAN_C = 5;

export const TEMPERATURE: Family = {
  id: 'temperature',
  name: 'temperature',
  zero: { name: 'offset', unit: '°C', meaning: 'shown at 0 °C' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'degrees shown for a degree' },
  points: { least: 1, most: 5 },
  settings: {
    element: {
      kind: 'choice',
      name: 'thermometer',
      usual: 'Pt1000',
      choices: [
        { id: 'Pt1000', name: 'Pt1000' },
        { id: 'Pt100', name: 'Pt100' },
        { id: 'thermistor', name: 'thermistor, by three rows' },
        { id: 'another', name: 'another, by its own table' },
      ],
      mayChange: true,
    },
    ...Object.fromEntries(THERMISTOR_ROWS.map(({ key, atC, usual }) => [key, ohmsAt(atC, usual)])),
  },
  conditions: () => [],
  limits: {
    zero: 2,
    sensitivityLow: 0.98,
    sensitivityHigh: 1.02,
    sensitivityDead: 0.5,
    t90Seconds: 180,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'compare with a second thermometer before anything is entered',
    high: 'suspect a bath',
    dead: 'the thermometer does not move: cable, or not in the cup',
    alike: {
      means: 'a loose cable, or not in the bath',
      test: 'Hold it in the hand for ten seconds: a sound thermometer follows at once. If it does not, measure its resistance at the plug.',
    },
  },
  step: { absolute: 0.05, relative: 0 },
  tail: { seconds: 30, spread: 0.7, share: 0.3, forecast: { usual: 0.68, times: [0.4, 1.1, 3] } },
  model: (settings) => {
    // Three rows that are of no thermistor are refused when they are typed.
    thermistorOf(settings);
    return MODEL;
  },
  frees: (values) => (values.length > 1 && values.at(-1)! - values[0]! >= MIN_SPAN_C ? 'both' : 'zero'),
  tooClose: (values) => {
    const span = values.length ? values.at(-1)! - values[0]! : 0;
    return span >= MIN_SPAN_C
      ? null
      : `The baths lie ${span.toFixed(1)} °C apart; a gain needs at least ${MIN_SPAN_C}. Enter an offset only, or use a warmer bath.`;
  },
  atWork: () => null,
  standards: {
    all: [],
    serves: ({ family }) => family === 'temperature',
    sets: () => [],
    usedBy: () => 'sensors of temperature',
    mixedUp: () => true,
    openedDays: Infinity,
    cupsOfOne: 1,
    pairC: null,
    about: null,
  },
  procedures: ['thermometers', 'electrical'],
  words: THERMOMETER_BENCH,
  soak: null,
  prior: thermometerPrior,
  befalls: OF_THERMOMETERS,
  onReference: null,
  thermometer: true,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PLAINLY,
  typed: { worksAt: '25', tolerance: '0.5', traces: false },
};
