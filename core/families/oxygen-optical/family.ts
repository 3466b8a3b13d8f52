import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { oxygenPressure } from '../../solutions/oxygen.ts';
import { IN_OXYGEN } from '../oxygen-membrane/standards.ts';
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
} from '../oxygen-membrane/values.ts';
import { OF_CAPS } from './causes.ts';
import { CAP_BENCH } from './words.ts';

/** Growth on the cap uses oxygen up, share of the value, standard uncertainty. Common practice, no source. */
const GROWTH_SHARE = 0.005;
/** Air at sea level that is full of water vapour, 25 °C: where the ratio of the data sheet holds. */
const FULL_KPA = oxygenPressure({ temperatureC: 25 });

/**
 * τ0/τ = 1 + zero + sensitivity · nominal K · (1 + α(t − 25)) · p(O2), by Stern and Volmer: oxygen shortens the time that a dye
 * glows after a flash. τ0 is the figure of its data sheet, as the instrument knows it; a faded dye shows as a zero.
 *
 * @param inAir τ0/τ in moist air at 25 °C and sea level
 * @param perC what it is quenched more, %/°C
 */
function cap(unit: OxygenUnit, inAir: number, perC: number): Model {
  // 2 %/°C at most, and 0 to 40 °C: half of it is left at the coldest.
  const quenching = (temperatureC: number) => ((inAir - 1) / FULL_KPA) * (1 + (perC / 100) * (temperatureC - 25));
  return {
    valueUnit: unit,
    signalUnit: 'τ0/τ',
    writes: () => oxygenScales(unit),
    range: OXYGEN_RANGE[unit],
    origin: 1,
    ideal: (value, at) => quenching(at.temperatureC) * pressureOf(value, unit, at),
    valueOf: (response, at) => valueOfPressure(response / quenching(at.temperatureC), unit, at),
    shows: oxygenShown(unit),
    workingRows: oxygenRows(unit, 'growth on the cap', GROWTH_SHARE),
  };
}

export const OXYGEN_OPTICAL: Family = {
  id: 'oxygen-optical',
  name: 'dissolved oxygen, optical',
  zero: { name: 'zero', unit: 'τ0/τ', meaning: 'lifetime of the data sheet over that without oxygen, less 1' },
  sensitivity: { name: 'quenching', unit: '%', meaning: 'share of the nominal quenching by oxygen' },
  points: { least: 1, most: 2 },
  settings: {
    writtenIn: WRITTEN_IN,
    inAir: { kind: 'figure', name: 'in air at 25 °C', unit: 'τ0/τ', usual: 3, low: 1.05, high: 100 },
    perC: { kind: 'figure', name: 'quenched more', unit: '%/°C', usual: 1, low: 0, high: 2 },
  },
  conditions: oxygenConditions,
  limits: {
    zero: 0.15,
    sensitivityLow: 0.7,
    sensitivityHigh: 1.3,
    sensitivityDead: 0.1,
    t90Seconds: 120,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'a faded dye, or sulfite that is spent',
    high: 'the pressure of the air, or coefficients of another cap',
    dead: 'the cap is off, or its dye is gone',
    alike: {
      means: 'no cap, a bleached dye, or spent sulfite',
      test: 'Look at the cap: its layer is dark and whole. Mix fresh sulfite and measure both again.',
    },
  },
  step: { absolute: 0.005, relative: 0.003 },
  tail: { seconds: 12, spread: 0.5, share: 0.1, forecast: { usual: 1, times: [0.15, 0.65, 1.5] } },
  model: (s) => cap(unitIn(s), Number(s['inAir']), Number(s['perC'])),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, 0.5, 'Take water-saturated air alone, or zero oxygen with it.'),
  atWork: () => null,
  standards: IN_OXYGEN,
  procedures: ['calibrate', 'check-first', 'verify', 'clean-and-test', 'sample'],
  words: CAP_BENCH,
  soak: null,
  // Caps differ by a tenth.
  prior: (step) => ({ ...usualPrior(step), sensitivitySd: 0.1 }),
  befalls: OF_CAPS,
  onReference: null,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PLAINLY,
  typed: { worksAt: '8', tolerance: '0.3', traces: false },
};
