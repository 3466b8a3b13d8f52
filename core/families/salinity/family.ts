import type { Conditions } from '../../sensor/conditions.ts';
import { Refusal } from '../../quantities/refusal.ts';
import { conductivityOfSeawater, salinity as practicalSalinity } from '../../solutions/seawater/practical-salinity.ts';
import { salinityOfGravity, specificGravity, type GravityAt } from '../../solutions/seawater/density.ts';
import { byFactor, type Scale } from '../../sensor/scale.ts';
import { CELL_CONSTANT, CELL_PRACTICE, CELL_SHARE, inCells } from '../../kin/cells.ts';
import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { apartBy, zeroOrGain } from '../../sensor/points.ts';

/** The scale's own spread, and water that is not quite sea water, standard uncertainty. Common practice, no source. */
const COMPOSITION = 0.02;

/** g of salt in a kg of sea water for one unit of practical salinity: TEOS-10 manual (2010), equation 2.4.1. */
const GRAMS_PER_KG = 35.16504 / 35;

const gravity = (at: GravityAt): Scale => ({
  id: `SG ${at}/${at}`,
  of: (own) => specificGravity(own, at),
  own: (written) => salinityOfGravity(written, at),
});

/** Gravity at its two temperatures, reference salinity, and the conductivity that such water has at 25 °C. */
const OF_SEAWATER: readonly Scale[] = [
  gravity(25),
  gravity(20),
  byFactor('g/kg', GRAMS_PER_KG),
  {
    id: 'mS/cm 25 °C',
    of: (own) => conductivityOfSeawater(own, 25) / 1000,
    own: (written) => practicalSalinity({ conductivityUsPerCm: 1000 * written, temperatureC: 25 }),
  },
];

/** G = zero + sensitivity · κ(S, T)/K, κ by PSS-78 at the surface. */
function salinity(cellConstant: number): Model {
  const ofCell = (conductance: number, { temperatureC }: Conditions) => {
    if (!(conductance > 0)) {
      throw new Refusal(
        'out-of-range',
        `A conductance of ${conductance.toPrecision(3)} µS has no salinity. Look for a dry cell, a bubble or a cable.`,
        { value: conductance, low: 0 },
      );
    }
    return practicalSalinity({ conductivityUsPerCm: conductance * cellConstant, temperatureC });
  };
  return {
    valueUnit: 'PSS-78',
    signalUnit: 'µS',
    writes: () => OF_SEAWATER,
    range: { low: 0, high: 42 },
    origin: 0,
    // A dry cell is the zero of the cell, though not of the scale.
    ideal: (s, { temperatureC }) => (s === 0 ? 0 : conductivityOfSeawater(s, temperatureC) / cellConstant),
    valueOf: ofCell,
    shows: (standard, value, { temperatureC }) => {
      if (value === 0) return 0;
      if (standard.unit === 'µS/cm') return practicalSalinity({ conductivityUsPerCm: value, temperatureC });
      return inChannelUnit(standard, value, 'PSS-78');
    },
    workingRows: () => [
      { name: 'composition of the water', uncertainty: COMPOSITION, because: 'common practice, no source' },
    ],
  };
}

export const SALINITY: Family = {
  id: 'salinity',
  name: 'salinity',
  zero: { name: 'air zero', unit: 'µS', meaning: 'conductance shown by a dry cell' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'nominal cell constant over the real one' },
  points: { least: 1, most: 3 },
  settings: { cellConstant: CELL_CONSTANT },
  ...CELL_PRACTICE,
  model: (s) => salinity(Number(s['cellConstant'])),
  frees: zeroOrGain,
  tooClose: (values) => apartBy(values, CELL_SHARE, 'Take air for the zero.'),
  standards: inCells('salinity', [['air', 'seawater-35'], ['seawater-35']]),
  shown: PLAINLY,
  typed: { worksAt: '35', tolerance: '0.5', traces: false },
};
