import { Refusal } from '../quantities/refusal.ts';
import { isUnit, UNITS, type Unit } from '../quantities/units.ts';
import { PLAINLY, type Family, type Model } from '../sensor/family.ts';
import { usualPrior } from '../sensor/prior.ts';
import { ELECTRODE_BENCH } from '../kin/electrodes.ts';
import { apartBy, zeroOrGain } from '../sensor/points.ts';
import { inChannelUnit } from '../sensor/value-of-standard.ts';

/** What a box stands for is what should be shown: shown = zero + sensitivity · applied. */
function electrical(unit: Unit): Model {
  return {
    valueUnit: unit,
    signalUnit: unit,
    range: { low: -1e9, high: 1e9 },
    origin: 0,
    ideal: (value) => value,
    valueOf: (response) => response,
    shows: (standard, value) => inChannelUnit(standard, value, unit),
    workingRows: () => [],
  };
}

/**
 * A transmitter without its sensor. It is no family of sensors, and no loop has it: only electrical checks are made in it.
 */
export const ELECTRICAL: Family = {
  id: 'electrical',
  name: 'electrical check',
  zero: { name: 'offset', unit: '', meaning: 'shown with a box that stands for nothing' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'shown for what is applied' },
  points: { least: 1, most: 5 },
  settings: {
    unit: { kind: 'choice', name: 'unit', usual: 'mV', choices: UNITS.map((id) => ({ id, name: id })) },
  },
  conditions: () => [],
  limits: {
    zero: Infinity,
    sensitivityLow: 0,
    sensitivityHigh: Infinity,
    sensitivityDead: 0,
    t90Seconds: Infinity,
    adjustAboveShare: 1,
  },
  suspects: {
    zero: 'a terminal',
    high: 'a box',
    dead: 'a terminal that is open',
    alike: { means: 'an open terminal', test: 'Check the terminals and both boxes, and measure again.' },
  },
  step: { absolute: 1e-6, relative: 0.0005 },
  tail: { seconds: 2, spread: 0.7, share: 0.05, forecast: { usual: 1.1, times: [0.35, 0.88, 1.15] } },
  model: (s) => {
    const unit = String(s['unit']);
    if (isUnit(unit)) return electrical(unit);
    throw new Refusal('choice-unknown', `There is no unit “${unit}”.`, { unit });
  },
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.9, 'Take boxes further apart.'),
  atWork: () => null,
  standards: {
    all: [],
    serves: () => false,
    sets: () => [],
    usedBy: () => 'electrical checks',
    mixedUp: () => true,
    openedDays: Infinity,
    cupsOfOne: Infinity,
    pairC: null,
    about: null,
  },
  procedures: [],
  // Its steps are those of boxes; only what is put on hold is said from here.
  words: ELECTRODE_BENCH,
  soak: null,
  prior: (step) => usualPrior(step, { anyZero: true }),
  befalls: null,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  // An electrical check has its tolerance in % of span: what it shows is printed as its boxes are.
  shown: { ...PLAINLY, digits: 2 },
  typed: { worksAt: '', tolerance: '', traces: false },
};
