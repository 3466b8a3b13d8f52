import { Refusal } from '../../quantities/refusal.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { ionOf, IONS } from '../../solutions/salts.ts';
import { soakedFor } from '../../kin/electrodes.ts';
import { PLAINLY, type Family, type Model } from '../../sensor/family.ts';
import { daviesCoefficient, DAVIES_LIMIT } from '../../solutions/activity.ts';
import type { Conditions } from '../../sensor/conditions.ts';
import { byFactor, type Scale } from '../../sensor/scale.ts';
import { AMMONIUM_PER_N, NITRATE_PER_N } from '../../quantities/units.ts';
import { inChannelUnit } from '../../sensor/value-of-standard.ts';
import { usualPrior } from '../../sensor/prior.ts';
import { OF_TIPS } from './causes.ts';
import { ionAtWork } from './over-temperature.ts';
import { IN_ION_STANDARDS, ionIn } from './standards.ts';
import { TIP_BENCH } from './words.ts';

/** Junction between standard and sample on the shared reference, standard uncertainty, mV. Common practice, no source. */
const JUNCTION_MV = 0.6;

/** Lowest and highest activity that a tip answers to, mg/L. Common practice, no source. */
const ION_RANGE = { low: 0.01, high: 100_000 } as const;

/** Two standards nearer than this give a slope that is mostly noise: a factor of three. Common practice, no source. */
const MIN_RATIO = 3;

/** Mass of the nitrogen that is counted instead of the ion, by ion. */
const AS_NITROGEN: Readonly<Record<string, { readonly form: string; readonly perN: number }>> = {
  nitrate: { form: 'NO3-N', perN: NITRATE_PER_N },
  ammonium: { form: 'NH4-N', perN: AMMONIUM_PER_N },
};

/** Amount of activity; and concentrations: activity over the coefficient that Davies gives at the ionic strength of the water. */
function ionScales(id: string, ionicStrength: number): readonly Scale[] {
  const { charge, molarMass, name } = ionOf(id);
  const milli = 1 / molarMass;
  const gamma = ({ temperatureC }: Conditions) => daviesCoefficient(charge, ionicStrength, temperatureC);
  const concentration = (unit: string, perMg: number): Scale => ({
    id: unit,
    of: (own, at) => (own * perMg) / gamma(at),
    own: (written, at) => (written * gamma(at)) / perMg,
  });
  const nitrogen = AS_NITROGEN[id];
  return [
    byFactor('mmol/L activity', milli),
    concentration(`mg/L ${name}`, 1),
    concentration(`mmol/L ${name}`, milli),
    ...(nitrogen ? [concentration(`mg/L ${nitrogen.form}`, 1 / nitrogen.perN)] : []),
  ];
}

/**
 * E = zero + sensitivity · (k(T)/z) · log10(a + interference), a in mg/L activity; zero is the potential at 1 mg/L.
 *
 * @see Nikolsky-Eisenman; the interfering ions count as activity of the measured one (see `interference`)
 */
function ion(id: string, interferenceMgPerL: number, ionicStrength: number): Model {
  const { charge } = ionOf(id);
  const perDecade = (temperatureC: number) => nernstSlope(temperatureC) / charge;
  return {
    valueUnit: 'mg/L activity',
    signalUnit: 'mV',
    writes: () => ionScales(id, ionicStrength),
    range: ION_RANGE,
    origin: 0,
    ideal: (activity, { temperatureC }) => {
      const seen = activity + interferenceMgPerL;
      if (seen > 0) return perDecade(temperatureC) * Math.log10(seen);
      throw new Refusal('out-of-range', `An activity of ${activity} mg/L has no potential. Enter a figure above 0.`, {
        value: activity,
        low: 0,
      });
    },
    valueOf: (mv, { temperatureC }) => 10 ** (mv / perDecade(temperatureC)) - interferenceMgPerL,
    // A concentration is no activity: it is refused here, and the Reckoner turns one into the other.
    shows: (standard, value) => inChannelUnit(standard, value, 'mg/L activity'),
    workingRows: () => [
      {
        name: 'liquid junction, standard to sample',
        uncertainty: JUNCTION_MV,
        ofSignal: true,
        because: 'common practice, no source',
      },
    ],
  };
}

export const ION: Family = {
  id: 'ion',
  name: 'ion',
  zero: { name: 'zero', unit: 'mV', meaning: 'potential at 1 mg/L activity' },
  sensitivity: { name: 'slope', unit: '%', meaning: 'share of the ideal slope, k(T)/z a decade' },
  points: { least: 2, most: 4 },
  settings: {
    ion: {
      kind: 'choice',
      name: 'ion',
      usual: 'chloride',
      choices: IONS.map(({ id, word }) => ({ id, name: word })),
    },
    interference: {
      kind: 'figure',
      name: 'interference, as activity of the ion',
      unit: 'mg/L',
      usual: 0,
      low: 0,
      high: 100_000,
    },
    ionicStrength: {
      kind: 'figure',
      name: 'ionic strength of the water, for concentrations',
      unit: 'mol/L',
      usual: 0.01,
      low: 0,
      high: DAVIES_LIMIT,
      mayChange: true,
    },
  },
  // The gap of 40 to 55 mV between 46.2 and 319 mg/L is 81 to 111 % of the ideal slope.
  conditions: () => [],
  limits: {
    zero: Infinity,
    sensitivityLow: 0.81,
    sensitivityHigh: 1.11,
    sensitivityDead: 0.3,
    t90Seconds: 300,
    adjustAboveShare: 0.5,
  },
  suspects: {
    zero: 'mostly the reference',
    high: 'more than a tip can give, so suspect a standard',
    dead: 'both standards read alike, as with a worn tip or a dry reference',
    alike: {
      means: 'a worn tip, a dry reference, or cable',
      test: 'Refill or soak the reference, then move the tip from the low standard into the high one once more. If it stands still again, try another tip on the same cable.',
    },
  },
  step: { absolute: 0.3, relative: 0 },
  tail: { seconds: 50, spread: 0.7, share: 0.25, caution: 1.5, forecast: { usual: 0.96, times: [0.58, 1.19, 2.37] } },
  model: (s) => ion(String(s['ion']), Number(s['interference']), Number(s['ionicStrength'])),
  frees: () => 'both',
  tooClose: (values) => {
    const low = values[0] ?? 0;
    const high = values.at(-1) ?? 0;
    return low > 0 && high >= MIN_RATIO * low
      ? null
      : `The standards stand at ${low.toPrecision(3)} and ${high.toPrecision(3)} mg/L; a slope needs a factor of ${MIN_RATIO} or more. Use a weaker low or a stronger high one.`;
  },
  atWork: (model, points, workingC) => ionAtWork(ION, model, points, workingC),
  standards: IN_ION_STANDARDS,
  procedures: ['calibrate', 'check-first', 'verify', 'sample', 'electrical'],
  words: TIP_BENCH,
  soak: soakedFor(24 * 3600),
  prior: (step) => usualPrior(step, { anyZero: true }),
  befalls: OF_TIPS,
  onReference: 'last',
  thermometer: false,
  storedIn: null,
  compensation: () => null,
  scales: [],
  shown: { ...PLAINLY, line: 'logarithmic', variant: (s) => IONS.find(({ id }) => id === ionIn(s))?.word ?? '' },
  typed: { worksAt: '30', tolerance: '5', traces: false },
};
