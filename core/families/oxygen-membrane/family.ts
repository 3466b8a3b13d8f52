import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { oxygenPressure } from '../../solutions/oxygen.ts';
import { OF_OXYGEN_MEMBRANES } from './causes.ts';
import { IN_OXYGEN } from './standards.ts';
import { MEMBRANE_BENCH } from './words.ts';
import {
  OXYGEN_RANGE,
  oxygenConditions,
  oxygenRows,
  oxygenScales,
  oxygenShown,
  pressureOf,
  unitIn,
  valueOfPressure,
  WRITTEN_IN,
  type OxygenUnit,
} from './values.ts';

/** A membrane uses oxygen up: what flow and film before it take, share of the value, standard uncertainty. Common practice, no source. */
const FLOW_SHARE = 0.01;
/** Air at sea level that is full of water vapour, 25 °C: where the current of the data sheet holds. */
const FULL_KPA = oxygenPressure({ temperatureC: 25 });

/**
 * Membranes differ by a fifth of their current, and lose more of it than they gain of a current of their own: that stays small
 * beside the one in air. Common practice, no source.
 */
const membranePrior: Family['prior'] = (step) => {
  const { zero, sensitivity, paceSd } = usualPrior(step);
  return {
    zero: {
      ...zero,
      sd: 3 * step,
      walk: 0.05 * step,
      rateSd: 0.01 * step,
      firstRateSd: 0.01 * step,
      jumpSd: 3 * step,
    },
    sensitivity: { ...sensitivity, sd: 0.2, walk: 0.002, rateSd: 0.0008, firstRateSd: 0.0008 },
    paceSd,
  };
};

/**
 * I = zero + sensitivity · nominal slope · e^(α(t − 25)) · p(O2): the current goes with the partial pressure, and the membrane
 * passes more when it is warm.
 *
 * @param inAir current in moist air at 25 °C and sea level, nA
 * @param perC what the membrane passes more, %/°C
 */
function membrane(unit: OxygenUnit, inAir: number, perC: number): Model {
  const slope = (temperatureC: number) => (inAir / FULL_KPA) * Math.exp((perC / 100) * (temperatureC - 25));
  return {
    valueUnit: unit,
    signalUnit: 'nA',
    writes: () => oxygenScales(unit),
    range: OXYGEN_RANGE[unit],
    origin: 0,
    ideal: (value, at) => slope(at.temperatureC) * pressureOf(value, unit, at),
    valueOf: (response, at) => valueOfPressure(response / slope(at.temperatureC), unit, at),
    shows: oxygenShown(unit),
    workingRows: oxygenRows(unit, 'flow and film before the membrane', FLOW_SHARE),
  };
}

export const OXYGEN_MEMBRANE: Family = {
  id: 'oxygen-membrane',
  name: 'dissolved oxygen, membrane',
  zero: { name: 'zero current', unit: 'nA', meaning: 'current where there is no oxygen' },
  sensitivity: { name: 'slope', unit: '%', meaning: 'share of the nominal current for a partial pressure' },
  points: { least: 1, most: 2 },
  settings: {
    writtenIn: WRITTEN_IN,
    inAir: { kind: 'figure', name: 'current in air at 25 °C', unit: 'nA', usual: 60, low: 0.1, high: 1_000_000 },
    perC: { kind: 'figure', name: 'the membrane passes more', unit: '%/°C', usual: 3, low: 0, high: 8 },
  },
  conditions: oxygenConditions,
  limits: {
    zero: 2,
    sensitivityLow: 0.6,
    sensitivityHigh: 1.4,
    sensitivityDead: 0.1,
    t90Seconds: 120,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'a leak past the membrane, or sulfite that is spent',
    high: 'a torn or wrinkled membrane, or the pressure of the air',
    dead: 'a spent electrolyte, or no voltage on the cathode',
    alike: {
      means: 'a torn membrane, spent sulfite, or cable',
      test: 'Mix fresh sulfite and look again. Then fit a new membrane with fresh electrolyte, let it run in, and measure both again.',
    },
  },
  step: { absolute: 0.2, relative: 0.005 },
  tail: { seconds: 15, spread: 0.7, share: 0.2, forecast: { usual: 1, times: [0.2, 0.8, 2.6] } },
  model: (s) => membrane(unitIn(s), Number(s['inAir']), Number(s['perC'])),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.5, 'Take water-saturated air alone, or zero oxygen with it.'),
  atWork: () => null,
  standards: IN_OXYGEN,
  procedures: ['calibrate', 'verify', 'clean-and-test', 'sample'],
  words: MEMBRANE_BENCH,
  soak: {
    seconds: 6 * 3600,
    words: (dry) => ({
      title: dry ? 'Let it run in: it stood dry' : 'Let it run in: it is new',
      text: 'Fresh electrolyte, the membrane tight and without a bubble, plugged in, in water or moist air. Until its cathode has used up the oxygen behind the membrane it reads too high; six hours are usual.',
      caution: 'Gloves and eye protection: the electrolyte may be caustic.',
    }),
  },
  prior: membranePrior,
  befalls: OF_OXYGEN_MEMBRANES,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PLAINLY,
  typed: { worksAt: '8', tolerance: '0.3', traces: false },
};
