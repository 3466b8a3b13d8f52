import { ALPHA_UNCERTAINTY, linearFactor } from '../../solutions/pure-water.ts';
import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { byFactor, type Scale } from '../../sensor/scale.ts';
import { convertTo, unitsOf } from '../../quantities/units.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { ALPHA, CELL_CONSTANT, CELL_PRACTICE, CELL_SHARE, inCells } from '../../kin/cells.ts';

/** The same water brought to 20 °C instead of 25 °C by the same line: κ20 = κ25 · (1 + α(20 − 25)). */
const at20 = (alphaPercent: number): readonly Scale[] =>
  unitsOf('conductivity').map((unit) =>
    byFactor(`${unit} 20 °C`, convertTo(linearFactor(20, alphaPercent), 'µS/cm', unit)!),
  );

/** G = zero + sensitivity · κ(T)/K. The display shows κ at 25 °C by α, or as measured with α = 0. */
function conductivity(cellConstant: number, alphaPercent: number): Model {
  const factor = (temperatureC: number) => linearFactor(temperatureC, alphaPercent) / cellConstant;
  return {
    valueUnit: 'µS/cm',
    signalUnit: 'µS',
    writes: () => (alphaPercent ? at20(alphaPercent) : []),
    range: { low: 0, high: 2_000_000 },
    origin: 0,
    ideal: (value, { temperatureC }) => value * factor(temperatureC),
    valueOf: (conductance, { temperatureC }) => conductance / factor(temperatureC),
    shows: (standard, value, { temperatureC }) =>
      inChannelUnit(standard, value, 'µS/cm') / linearFactor(temperatureC, alphaPercent),
    workingRows: ({ value, temperatureC }) => [
      {
        name: 'temperature coefficient of the water',
        uncertainty: alphaPercent
          ? (value * Math.abs(temperatureC - 25) * ALPHA_UNCERTAINTY) / 100 / linearFactor(temperatureC, alphaPercent)
          : 0,
        because: 'real waters differ by about 0.1 %/°C from what is set; common practice, no source',
      },
    ],
  };
}

export const CONDUCTIVITY: Family = {
  id: 'conductivity',
  name: 'conductivity',
  zero: { name: 'air zero', unit: 'µS', meaning: 'conductance shown by a dry cell' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'nominal cell constant over the real one' },
  points: { least: 1, most: 3 },
  settings: { cellConstant: CELL_CONSTANT, alpha: ALPHA },
  ...CELL_PRACTICE,
  model: (s) => conductivity(Number(s['cellConstant']), Number(s['alpha'])),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, CELL_SHARE, 'Take air for the zero, or another standard.'),
  standards: inCells('conductivity', [
    ['air', 'kcl-0.01'],
    ['air', 'kcl-0.02'],
    ['kcl-0.01'],
    ['kcl-84', 'kcl-0.01'],
    ['kcl-0.01', 'kcl-0.1'],
  ]),
  compensation: (s) => Number(s['alpha'] ?? ALPHA.usual),
  shown: PLAINLY,
  typed: { worksAt: '1800', tolerance: '60', traces: false },
};
