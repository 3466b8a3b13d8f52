import { courseFactor, courseOf, COURSES, type Compensation } from '../../solutions/compensation.ts';
import { ALPHA_UNCERTAINTY } from '../../solutions/pure-water.ts';
import { PLAINLY, type Family, type Model, type SettingField, type Settings } from '../../sensor/family.ts';
import { byFactor, type Scale } from '../../sensor/scale.ts';
import { convertTo, unitsOf } from '../../quantities/units.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { ALPHA, CELL_CONSTANT, CELL_PRACTICE, CELL_SHARE, inCells } from '../../kin/cells.ts';

/** The same water brought to 20 °C instead of 25 °C by the same course: κ20 = κ25 · f(20). */
const at20 = (by: Compensation): readonly Scale[] =>
  unitsOf('conductivity').map((unit) => byFactor(`${unit} 20 °C`, convertTo(courseFactor(20, by), 'µS/cm', unit)!));

/** G = zero + sensitivity · κ(T)/K. The display shows κ at 25 °C by its course, or as measured with α = 0. */
function conductivity(cellConstant: number, by: Compensation): Model {
  const factor = (temperatureC: number) => courseFactor(temperatureC, by) / cellConstant;
  return {
    valueUnit: 'µS/cm',
    signalUnit: 'µS',
    writes: () => (by ? at20(by) : []),
    range: { low: 0, high: 2_000_000 },
    origin: 0,
    ideal: (value, { temperatureC }) => value * factor(temperatureC),
    valueOf: (conductance, { temperatureC }) => conductance / factor(temperatureC),
    shows: (standard, value, { temperatureC }) =>
      inChannelUnit(standard, value, 'µS/cm') / courseFactor(temperatureC, by),
    workingRows: ({ value, temperatureC }) => [
      {
        name: 'temperature coefficient of the water',
        uncertainty: by
          ? (value * Math.abs(temperatureC - 25) * ALPHA_UNCERTAINTY) / 100 / courseFactor(temperatureC, by)
          : 0,
        because: 'real waters differ by about 0.1 %/°C from what is set; common practice, no source',
      },
    ],
  };
}

/** How its channel brings a reading to 25 °C. */
const COURSE: SettingField = {
  kind: 'choice',
  name: 'compensation to 25 °C',
  usual: 'line',
  choices: COURSES,
};
const courseIn = (s: Settings): Compensation => courseOf(s['course'], Number(s['alpha'] ?? ALPHA.usual));

export const CONDUCTIVITY: Family = {
  id: 'conductivity',
  name: 'conductivity',
  zero: { name: 'air zero', unit: 'µS', meaning: 'conductance shown by a dry cell' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'nominal cell constant over the real one' },
  points: { least: 1, most: 3 },
  settings: { cellConstant: CELL_CONSTANT, alpha: ALPHA, course: COURSE },
  ...CELL_PRACTICE,
  model: (s) => conductivity(Number(s['cellConstant']), courseIn(s)),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, CELL_SHARE, 'Take air for the zero, or another standard.'),
  standards: inCells('conductivity', [
    ['air', 'kcl-0.01'],
    ['air', 'kcl-0.02'],
    ['kcl-0.01'],
    ['kcl-84', 'kcl-0.01'],
    ['kcl-0.01', 'kcl-0.1'],
  ]),
  // Another course is no line: a figure beside it explains nothing.
  compensation: (s) => (typeof courseIn(s) === 'number' ? Number(s['alpha'] ?? ALPHA.usual) : null),
  shown: PLAINLY,
  typed: { worksAt: '1800', tolerance: '60', traces: false },
};
