import { GLASS_TAIL } from '../ph/limits.ts';
import { OF_WATER, PH, phAt25, phTooClose, phWorkingRows, ZERO_PH } from '../ph/family.ts';
import type { Family, Model, Settings } from '../../sensor/family.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { usualPrior } from '../../sensor/prior.ts';

/**
 * A channel that shows pH and nothing else: its signal is a pH, made with coefficients that stay in the instrument. Zero
 * and gain are relative to those.
 */
const shownOnly = (settings: Settings): Model => ({
  valueUnit: 'pH',
  signalUnit: 'pH',
  range: { low: -1, high: 15 },
  origin: ZERO_PH,
  ideal: (ph) => ph - ZERO_PH,
  valueOf: (response) => ZERO_PH + response,
  shows: (standard, value) => inChannelUnit(standard, value, 'pH'),
  workingRows: phWorkingRows(settings),
  ...phAt25(settings),
});

export const PH_SHOWN: Family = {
  id: 'ph-shown',
  name: 'pH, shown only',
  zero: { name: 'zero', unit: 'pH', meaning: 'pH shown at pH 7, less 7, relative to the coefficients in force' },
  sensitivity: { name: 'relative gain', unit: '%', meaning: 'pH shown for a pH unit, relative to those in force' },
  points: PH.points,
  settings: OF_WATER,
  conditions: () => [],
  limits: {
    zero: 0.5,
    sensitivityLow: 0.85,
    sensitivityHigh: 1.18,
    sensitivityDead: 0.2,
    t90Seconds: 180,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'mostly the reference',
    high: 'more than glass can give, so suspect a standard',
    dead: 'all standards read alike, as with broken glass, a short or a cap still on',
    alike: {
      means: 'cracked glass, cap on, or cable',
      test: 'Take the cap off and look at the glass under a lamp. Then unplug it and short the input: if that shows near 0 mV, instrument and cable are sound, and it is the glass.',
    },
  },
  step: { absolute: 0.01, relative: 0 },
  tail: GLASS_TAIL,
  model: shownOnly,
  frees: (values) => PH.frees(values),
  tooClose: phTooClose,
  atWork: PH.atWork,
  standards: { ...PH.standards, usedBy: () => 'sensors of pH, shown only' },
  procedures: PH.procedures,
  words: PH.words,
  soak: PH.soak,
  prior: usualPrior,
  befalls: null,
  onReference: PH.onReference,
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: PH.shown,
  typed: PH.typed,
};
