import { kelvin } from '../../quantities/temperature.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import {
  PLAINLY,
  type Family,
  type Model,
  type SettingField,
  type Settings,
  type WorkingPoint,
  type WorkingRow,
} from '../../sensor/family.ts';
import { GLASS_TAIL, PH_LIMITS } from './limits.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { ELECTRODE_BENCH, soakedFor } from '../../kin/electrodes.ts';
import { OF_GLASS } from './causes.ts';
import { PH_PRIOR } from './prior.ts';
import { IN_BUFFERS } from './standards.ts';

/** pH where practice places the zero of a pH channel. */
export const ZERO_PH = 7;

/**
 * Residual liquid-junction potential between buffer and sample, standard uncertainty in pH, by the water: weak water leaves
 * the junction to itself, seawater has far more salt than a buffer. Common practice, no source.
 */
const JUNCTION_UNCERTAINTY_PH: Readonly<Record<string, number>> = { usual: 0.01, weak: 0.05, sea: 0.03 };

/** In which water a probe stands: it changes how well its pH is known, and no figure. */
const PH_WATER: SettingField = {
  kind: 'choice',
  name: 'water',
  usual: 'usual',
  choices: [
    { id: 'usual', name: 'usual: nutrient, tap, process' },
    { id: 'weak', name: 'weak, below about 100 µS/cm' },
    { id: 'sea', name: 'seawater, on the scale of the buffers' },
  ],
  mayChange: true,
};

/** What a pH channel's water does besides: how well its pH is known, and how it goes with temperature. */
export const OF_WATER: Readonly<Record<string, SettingField>> = {
  water: PH_WATER,
  liquid: {
    kind: 'figure',
    name: 'the liquid’s own coefficient, 0 = not known',
    unit: 'pH/°C',
    usual: 0,
    low: -0.1,
    high: 0.1,
    mayChange: true,
  },
};

/** pH(25) = pH + c · (25 − T): the liquid's own, where somebody has measured it. */
export const phAt25 = (settings: Settings): Pick<Model, 'liquidAt25'> => {
  const perC = Number(settings['liquid'] ?? 0);
  return perC === 0 ? {} : { liquidAt25: (value, { temperatureC }) => value + perC * (25 - temperatureC) };
};

/** Spread of the isopotential point of real probes about pH 7, standard uncertainty in pH. Common practice, no source. */
const ISOPOTENTIAL_UNCERTAINTY_PH = 0.3;

/** Standards closer than this give a slope that is mostly noise, pH. Common practice, no source. */
const MIN_SPAN_PH = 1;

/** What stays unknown of any pH channel at its working point, whatever the buffers. */
export const phWorkingRows =
  (settings: Settings) =>
  ({ temperatureC, calibrationC }: WorkingPoint): readonly WorkingRow[] => [
    {
      name: 'liquid junction, buffer to sample',
      uncertainty: JUNCTION_UNCERTAINTY_PH[String(settings['water'] ?? 'usual')] ?? JUNCTION_UNCERTAINTY_PH['usual']!,
      because: 'common practice, no source',
    },
    {
      name: 'isopotential point',
      uncertainty: (Math.abs(temperatureC - calibrationC) / kelvin(calibrationC)) * ISOPOTENTIAL_UNCERTAINTY_PH,
      because: 'real probes cross a few tenths of pH away from 7; common practice, no source',
    },
  ];

/** E = zero − sensitivity · k(T) · (pH − 7): compensates the electrode's slope only, never the liquid's chemistry. */
const ph = (settings: Settings): Model => ({
  valueUnit: 'pH',
  signalUnit: 'mV',
  range: { low: -1, high: 15 },
  origin: 0,
  ideal: (ph, { temperatureC }) => -nernstSlope(temperatureC) * (ph - ZERO_PH),
  valueOf: (mv, { temperatureC }) => ZERO_PH - mv / nernstSlope(temperatureC),
  shows: (standard, value) => inChannelUnit(standard, value, 'pH'),
  workingRows: phWorkingRows(settings),
  ...phAt25(settings),
});

/** Is the lines' least span kept? Shared by the channel that shows pH itself. */
export function phTooClose(values: readonly number[]): string | null {
  const span = values.length ? values.at(-1)! - values[0]! : 0;
  return span >= MIN_SPAN_PH
    ? null
    : `The standards lie ${span.toFixed(2)} pH apart; a slope needs at least ${MIN_SPAN_PH}. Use two that differ more.`;
}

export const PH: Family = {
  id: 'ph',
  name: 'pH',
  zero: { name: 'zero', unit: 'mV', meaning: 'potential in pH 7' },
  sensitivity: { name: 'slope', unit: '%', meaning: 'share of the ideal slope, k(T) a pH unit' },
  points: { least: 1, most: 5 },
  settings: OF_WATER,
  conditions: () => [],
  limits: PH_LIMITS,
  suspects: {
    zero: 'mostly the reference',
    high: 'more than glass can give, so suspect a standard',
    dead: 'all standards read alike, as with broken glass, a short or a cap still on',
    alike: {
      means: 'cracked glass, cap on, or cable',
      test: 'Take the cap off and look at the glass under a lamp. Then unplug it and short the input: if that shows near 0 mV, instrument and cable are sound, and it is the glass.',
    },
  },
  step: { absolute: 0.59, relative: 0 },
  tail: GLASS_TAIL,
  model: ph,
  frees: (values) => (values.length < 2 ? 'zero' : 'both'),
  tooClose: phTooClose,
  atWork: () => null,
  standards: IN_BUFFERS,
  procedures: ['calibrate', 'check-first', 'verify', 'sample', 'electrical'],
  words: ELECTRODE_BENCH,
  soak: soakedFor(3600),
  prior: () => PH_PRIOR,
  befalls: OF_GLASS,
  onReference: 'first',
  thermometer: false,
  // Potassium chloride in the cap, pH 4 to 6.
  storedIn: { value: 5.1, sd: 0.5 },
  compensation: () => null,
  scales: [],
  shown: { ...PLAINLY, steady: '0.01 pH' },
  typed: { worksAt: '5.8, or 8.1', tolerance: '0.1', traces: true },
};
