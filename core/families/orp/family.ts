import { againstReference, isOneSeries, referencePotential, REFERENCES } from '../../solutions/references.ts';
import { soakedFor } from '../../kin/electrodes.ts';
import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import type { Scale } from '../../sensor/scale.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { OF_PLATINUM } from './causes.ts';
import { IN_REDOX } from './standards.ts';
import { REDOX_BENCH } from './words.ts';

/** Junction and slow platinum in weak water, standard uncertainty, mV. Common practice, no source. */
const JUNCTION_MV = 2;

/** The same potential on other references: those whose tables are of one series with its own. */
const onReferences = (own: string): readonly Scale[] =>
  REFERENCES.filter(({ id }) => id !== own && isOneSeries(own, id)).map(({ id, name }) => ({
    id: `mV on ${name}`,
    of: (value, { temperatureC }) => againstReference(value, own, id, temperatureC),
    own: (written, { temperatureC }) => againstReference(written, id, own, temperatureC),
  }));

/** One offset, no slope: signal = zero + E against the sensor's own reference. */
function orp(reference: string, scale: string): Model {
  const hydrogen = scale === 'hydrogen';
  const shift = (temperatureC: number) => (hydrogen ? referencePotential(reference, temperatureC) : 0);
  return {
    valueUnit: 'mV',
    signalUnit: 'mV',
    writes: () => onReferences(hydrogen ? 'hydrogen' : reference),
    range: { low: -2000, high: 2000 },
    origin: 0,
    ideal: (value, { temperatureC }) => value - shift(temperatureC),
    valueOf: (mv, { temperatureC }) => mv + shift(temperatureC),
    shows: (standard, value, { temperatureC }) =>
      againstReference(
        inChannelUnit(standard, value, 'mV'),
        standard.against ?? 'hydrogen',
        hydrogen ? 'hydrogen' : reference,
        temperatureC,
      ),
    workingRows: () => [
      { name: 'junction, standard to water', uncertainty: JUNCTION_MV, because: 'common practice, no source' },
    ],
  };
}

const OWN = REFERENCES.filter((r) => r.id !== 'hydrogen');

export const ORP: Family = {
  id: 'orp',
  name: 'ORP',
  zero: { name: 'offset', unit: 'mV', meaning: 'shown beyond what the standard has' },
  sensitivity: { name: 'gain', unit: '%', meaning: 'always 100 %: ORP has one offset and no slope' },
  points: { least: 1, most: 2 },
  settings: {
    reference: {
      kind: 'choice',
      name: 'reference electrode',
      usual: 'silver-chloride-saturated',
      choices: OWN.map(({ id, name }) => ({ id, name })),
    },
    scale: {
      kind: 'choice',
      name: 'scale of the display',
      usual: 'own',
      choices: [
        { id: 'own', name: 'against its own reference' },
        { id: 'hydrogen', name: 'against standard hydrogen' },
      ],
    },
  },
  conditions: () => [],
  limits: {
    zero: 30,
    sensitivityLow: 0.99,
    sensitivityHigh: 1.01,
    sensitivityDead: 0.5,
    t90Seconds: 600,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'mostly the reference, or a tired standard',
    high: 'suspect the standard',
    dead: 'the platinum does not answer: clean it, and check the plug',
    alike: {
      means: 'coated platinum, or cable',
      test: 'Clean the platinum and measure again. Then short the input: near 0 mV, the instrument is sound.',
    },
  },
  step: { absolute: 0.5, relative: 0 },
  tail: { seconds: 35, spread: 0.7, share: 0.35, forecast: { usual: 0.77, times: [0.6, 1.57, 3.65] } },
  model: (s) => orp(String(s['reference']), String(s['scale'])),
  frees: () => 'zero',
  tooClose: () => 'ORP has no slope to be found. Calibrate its offset with one standard.',
  atWork: () => null,
  standards: IN_REDOX,
  procedures: ['calibrate', 'check-first', 'verify', 'sample', 'electrical'],
  words: REDOX_BENCH,
  soak: soakedFor(3600),
  prior: (step) => usualPrior(step, { noGain: true }),
  befalls: OF_PLATINUM,
  onReference: 'first',
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: { ...PLAINLY, sensitivity: false },
  typed: { worksAt: '350', tolerance: '20', traces: false },
};
