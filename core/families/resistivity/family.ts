import { Refusal } from '../../quantities/refusal.ts';
import { courseOf, COURSES, type Compensation } from '../../solutions/compensation.ts';
import {
  PURE_WATER_RELATIVE,
  pureCompensationUncertainty,
  pureFrom25,
  pureTo25,
  pureWater,
} from '../../solutions/pure-water.ts';
import { ALPHA, CELL_BENCH, CELL_PRACTICE, inCells } from '../../kin/cells.ts';
import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import type { BenchWords } from '../../sensor/words.ts';
import type { Scale } from '../../sensor/scale.ts';
import { convertTo } from '../../quantities/units.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';

/** Its reciprocal, at 25 °C, too. */
const AS_CONDUCTIVITY: readonly Scale[] = (['µS/cm', 'mS/m'] as const).map((unit) => ({
  id: unit,
  of: (own) => convertTo(1 / own, 'µS/cm', unit)!,
  own: (written) => 1 / convertTo(written, unit, 'µS/cm')!,
}));

/** G = zero + sensitivity · κ(T)/K in high-purity water; the display shows 1/κ at 25 °C in MΩ·cm. */
function resistivity(cellConstant: number, by: Compensation): Model {
  return {
    valueUnit: 'MΩ·cm',
    signalUnit: 'µS',
    writes: () => AS_CONDUCTIVITY,
    range: { low: 1e-5, high: (1 + PURE_WATER_RELATIVE) / pureWater(25) },
    origin: 0,
    ideal: (value, { temperatureC }) => pureFrom25(1 / value, temperatureC, by) / cellConstant,
    valueOf: (conductance, { temperatureC }) => 1 / pureTo25(conductance * cellConstant, temperatureC, by),
    shows: (standard, value, { temperatureC }) => {
      if (standard.unit !== 'µS/cm') return inChannelUnit(standard, value, 'MΩ·cm');
      if (value > 0) return 1 / pureTo25(value, temperatureC, by);
      throw new Refusal(
        'no-resistivity-in-air',
        'In air a cell’s resistivity has no end. Set its zero as conductance, in µS, and take a standard here.',
        { value },
      );
    },
    workingRows: ({ value, temperatureC }) => {
      const { table, coefficient } = pureCompensationUncertainty(1 / value, temperatureC, by);
      // d(1/κ) = −dκ/κ²
      return [
        {
          name: 'conductivity of pure water',
          uncertainty: value * value * table,
          because: 'table good to ±2 % (k = 2), ±4 % at 0 °C, from memory',
        },
        {
          name: 'temperature coefficient of what is dissolved',
          uncertainty: value * value * coefficient,
          because: 'real waters differ by about 0.1 %/°C from what is set; common practice, no source',
        },
      ];
    },
  };
}

const RESISTIVITY_BENCH: BenchWords = {
  ...CELL_BENCH,
  clean: {
    title: 'Rinse the cell',
    text: 'Rinse with the purest water at hand for some minutes, without touching the electrodes. In high-purity water most errors are air, flow and static: do not calibrate them away.',
  },
};

export const RESISTIVITY: Family = {
  id: 'resistivity',
  name: 'resistivity',
  zero: { name: 'air zero', unit: 'µS', meaning: 'conductance shown by a dry cell, set as conductivity' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'nominal cell constant over the real one' },
  points: { least: 1, most: 3 },
  settings: {
    cellConstant: { kind: 'figure', name: 'cell constant', unit: '/cm', usual: 0.01, low: 0.001, high: 100 },
    alpha: ALPHA,
    salts: {
      kind: 'choice',
      name: 'what is dissolved goes to 25 °C',
      usual: 'line',
      choices: COURSES.filter(({ id }) => id !== 'natural water'),
    },
  },
  ...CELL_PRACTICE,
  // High-purity water is held to closer bounds.
  limits: { ...CELL_PRACTICE.limits, zero: 1, sensitivityLow: 0.9, sensitivityHigh: 1.1, t90Seconds: 180 },
  step: { absolute: 0.001, relative: 0.003 },
  words: RESISTIVITY_BENCH,
  model: (s) => resistivity(Number(s['cellConstant']), courseOf(s['salts'], Number(s['alpha']))),
  frees: () => 'sensitivity',
  tooClose: () => 'A resistivity channel has a gain to be found, and no zero. Calibrate its gain.',
  standards: {
    ...inCells('resistivity', [['kcl-84']]),
    // In air a resistivity has no end.
    serves: ({ family, nominal }) => family === 'conductivity' && nominal !== 0,
  },
  shown: { ...PLAINLY, leastFigures: 3 },
  typed: { worksAt: '10', tolerance: '0.5', traces: false },
};
