import { GLASS_TAIL } from '../ph/limits.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { OF_WATER, PH, phAt25, phTooClose, phWorkingRows, ZERO_PH } from '../ph/family.ts';
import type { Family, Model, Settings } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { usualPrior } from '../../sensor/prior.ts';

/**
 * A channel that gives the bare counts of its converter: counts = at 7 + zero + sensitivity · counts a pH · (pH − 7),
 * the slope following k(T). By itself such a number means nothing, only whether it stands still; what counts at 7 and for
 * a pH are worth is found in the buffers, relative to what was noted at set-up.
 */
function counts(settings: Settings): Model {
  const [atSeven, aPh] = [Number(settings['atSeven']), Number(settings['aPh']) || -592];
  const perPh = (temperatureC: number) => (aPh * nernstSlope(temperatureC)) / nernstSlope(25);
  return {
    valueUnit: 'pH',
    signalUnit: 'counts',
    range: { low: -1, high: 15 },
    origin: atSeven,
    ideal: (ph, { temperatureC }) => perPh(temperatureC) * (ph - ZERO_PH),
    valueOf: (response, { temperatureC }) => ZERO_PH + response / perPh(temperatureC),
    shows: (standard, value) => inChannelUnit(standard, value, 'pH'),
    workingRows: phWorkingRows(settings),
    ...phAt25(settings),
  };
}

export const PH_COUNTS: Family = {
  id: 'ph-counts',
  name: 'pH, raw counts',
  zero: { name: 'zero', unit: 'counts', meaning: 'counts at pH 7 beyond what was noted at set-up' },
  sensitivity: {
    name: 'relative gain',
    unit: '%',
    meaning: 'counts for a pH unit, relative to what was noted at set-up',
  },
  points: PH.points,
  settings: {
    atSeven: { kind: 'figure', name: 'counts at pH 7', unit: 'counts', usual: 0, low: -4e9, high: 4e9 },
    aPh: { kind: 'figure', name: 'counts a pH at 25 °C', unit: 'counts', usual: -592, low: -1e8, high: 1e8 },
    ...OF_WATER,
  },
  // What counts are worth is the converter's own affair: nothing of glass can be read off them.
  conditions: () => [],
  limits: {
    zero: Infinity,
    sensitivityLow: 0.5,
    sensitivityHigh: 2,
    sensitivityDead: 0.05,
    t90Seconds: 180,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'mostly the reference',
    high: 'check the counts a pH of the set-up',
    dead: 'all standards count alike, as with broken glass, a short or a cap still on',
    alike: {
      means: 'cracked glass, cap on, or cable',
      test: 'Take the cap off and look at the glass under a lamp. Then unplug it and short the input: if that shows near 0 mV, instrument and cable are sound, and it is the glass.',
    },
  },
  // A hundredth of the usual counts a pH.
  step: { absolute: 6, relative: 0 },
  tail: GLASS_TAIL,
  model: counts,
  frees: (values) => PH.frees(values),
  tooClose: phTooClose,
  atWork: PH.atWork,
  standards: { ...PH.standards, usedBy: () => 'sensors of pH, raw counts' },
  procedures: PH.procedures,
  words: PH.words,
  soak: PH.soak,
  prior: (step) => usualPrior(step, { anyZero: true }),
  befalls: null,
  onReference: PH.onReference,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PH.shown,
  typed: PH.typed,
};
