import { PH, phTooClose, ISOPOTENTIAL_UNCERTAINTY_PH, JUNCTION_UNCERTAINTY_PH, ZERO_PH } from '../ph/family.ts';
import type { Family, Model } from '../family.ts';
import { inChannelUnit } from '../value-of-standard.ts';

/**
 * A channel that shows pH and nothing else: its signal is a pH, made with coefficients that stay in the instrument. Zero
 * and gain are relative to those.
 */
const MODEL: Model = {
  valueUnit: 'pH',
  signalUnit: 'pH',
  range: { low: -1, high: 15 },
  origin: ZERO_PH,
  ideal: (ph) => ph - ZERO_PH,
  valueOf: (response) => ZERO_PH + response,
  shows: (standard, value) => inChannelUnit(standard, value, 'pH'),
  workingRows: ({ temperatureC, calibrationC }) => [
    {
      name: 'liquid junction, buffer to sample',
      uncertainty: JUNCTION_UNCERTAINTY_PH,
      because: 'common practice, no source',
    },
    {
      name: 'isopotential point',
      uncertainty: (Math.abs(temperatureC - calibrationC) / (calibrationC + 273.15)) * ISOPOTENTIAL_UNCERTAINTY_PH,
      because: 'as for a pH channel in mV; common practice, no source',
    },
  ],
};

export const PH_SHOWN: Family = {
  id: 'ph-shown',
  name: 'pH, shown only',
  zero: { name: 'zero', unit: 'pH', meaning: 'pH shown at pH 7, less 7, relative to the coefficients in force' },
  sensitivity: { name: 'relative gain', unit: '%', meaning: 'pH shown for a pH unit, relative to those in force' },
  points: PH.points,
  settings: {},
  model: () => MODEL,
  frees: (values) => PH.frees(values),
  tooClose: phTooClose,
};
