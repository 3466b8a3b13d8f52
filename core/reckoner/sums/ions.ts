import { GAP_LIMITS, idealGap } from '../../families/ion/over-temperature.ts';
import { Refusal, requireWithin } from '../../quantities/refusal.ts';
import { DAVIES_LIMIT, daviesUncertainty } from '../../solutions/activity.ts';
import { preparedIon } from '../../solutions/ion-standard.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { ionOf, IONS, saltOf, SALTS } from '../../solutions/salts.ts';
import { shown } from '../figures.ts';
import type { Answer, Sum } from '../sum.ts';
import { INTERFERENCE_SUM } from './interference.ts';
import { temperatureOf } from './fields.ts';

const GROUP = 'Ions, chlorine, nitrogen';
const temperature = temperatureOf();

/** "chloride from KCl": salt and ion in one pick, so that no pair can be impossible. */
const PAIRS = SALTS.flatMap((s) =>
  s.ions.map((p) => ({ id: `${s.id} ${p.ion}`, name: `${ionOf(p.ion).word} from ${s.id}` })),
);
const pairOf = (id: string) => id.split(' ') as [salt: string, ion: string];

const activity: Sum = {
  id: 'activity',
  group: GROUP,
  title: 'Activity of an ion in a prepared standard',
  words: 'ion selective ionic strength davies chloride nitrate potassium coefficient ise kcl concentration',
  choices: [{ id: 'pair', name: 'Ion', usual: 'KCl chloride', options: PAIRS }],
  fields: [
    { id: 'c', name: 'Salt, as prepared', unit: 'mol/L', usual: 0.01, nudge: 0.001 },
    { id: 'b', name: 'Ionic strength of the background', unit: 'mol/L', usual: 0 },
    temperature,
    { id: 'a', name: 'The electrode sees', unit: 'mg/L activity', usual: 319.6, decimals: 2, nudge: 1 },
  ],
  ways: [
    {
      finds: ['a'],
      work: ({ c, b, t }, { pair }) => seen(c!, b!, t!, pair!, 'a'),
    },
    {
      finds: ['c'],
      work: ({ a, b, t }, { pair }) => seen(concentrationFor(a!, b!, t!, pair!), b!, t!, pair!, 'c'),
    },
  ],
  formula: 'a = γ c,  log γ = −A(T) z² (√I/(1+√I) − 0.3 I)',
  source: 'Davies (1962); A(T) with the permittivity of Malmberg & Maryott (1956)',
  validity: 'ionic strength to 0.5 mol/L, 0 to 50 °C; salts that fall wholly into ions',
  curve: { along: 'c', low: 0, high: 0.1 },
};

function seen(molPerL: number, backgroundMolPerL: number, temperatureC: number, pair: string, id: 'a' | 'c'): Answer {
  requireWithin(temperatureC, 0, 50, 'temperature', '°C', 'Bring the standard into that range.');
  const [salt, ion] = pairOf(pair);
  const p = preparedIon({ salt, ion, molPerL, backgroundMolPerL, temperatureC });
  return {
    found: id === 'a' ? { a: p.activityMgPerL } : { c: molPerL },
    plusMinus: 2 * daviesUncertainty(p.ionicStrength) * (id === 'a' ? p.activityMgPerL : molPerL),
    plusMinusBecause: `of Davies, ±${(200 * daviesUncertainty(p.ionicStrength)).toFixed(0)} % at this ionic strength; common practice, no source`,
    formula: `${shown(p.activityCoefficient, 4)} · ${shown(p.concentrationMgPerL, 2)} mg/L = ${shown(p.activityMgPerL, 2)} mg/L activity`,
    more: [
      { name: 'Concentration of the ion', value: p.concentrationMgPerL, unit: 'mg/L', decimals: 2 },
      { name: 'Activity coefficient γ', value: p.activityCoefficient, unit: '', decimals: 4 },
      { name: 'Ionic strength', value: p.ionicStrength, unit: 'mol/L' },
    ],
    note: 'An ion electrode answers to activity. A concentration entered as activity is a slip of the scale.',
  };
}

/** Concentration that has this activity: bisection up to the strength where Davies ends. */
function concentrationFor(activityMgPerL: number, background: number, temperatureC: number, pair: string): number {
  const [salt, ion] = pairOf(pair);
  const strength = saltOf(salt).ions.reduce((s, p) => s + (p.count * ionOf(p.ion).charge ** 2) / 2, 0);
  const top = Math.max(0, DAVIES_LIMIT - background) / strength;
  const at = (molPerL: number) =>
    preparedIon({ salt, ion, molPerL: Math.min(molPerL, top), backgroundMolPerL: background, temperatureC })
      .activityMgPerL;
  // Davies turns back up at high strength, so the activity rises throughout.
  const most = at(top * (1 - 1e-12));
  if (!(activityMgPerL >= 0 && activityMgPerL <= most)) {
    throw new Refusal(
      'out-of-range',
      `An activity of ${shown(activityMgPerL)} mg/L is outside 0 to ${shown(most)}, where Davies ends. Dilute, or use a standard made in the same background.`,
      { value: activityMgPerL, low: 0, high: most },
    );
  }
  let low = 0;
  let high = top * (1 - 1e-12);
  for (let i = 0; i < 80; i++) {
    const middle = (low + high) / 2;
    if (at(middle) < activityMgPerL) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

const gap: Sum = {
  id: 'ion-gap',
  group: GROUP,
  title: 'Gap of an ion electrode, low to high',
  words: 'slope ise tip wear chloride nitrate mv decade efficiency',
  choices: [{ id: 'ion', name: 'Ion', usual: 'chloride', options: IONS.map((i) => ({ id: i.id, name: i.word })) }],
  fields: [
    { id: 'low', name: 'Low standard', unit: 'mg/L activity', usual: 46.2 },
    { id: 'high', name: 'High standard', unit: 'mg/L activity', usual: 319 },
    temperature,
    { id: 'mv', name: 'Gap measured', unit: 'mV', usual: 47, decimals: 2, nudge: 1 },
    { id: 's', name: 'Slope, share of the ideal', unit: '%', usual: 95, decimals: 1, nudge: 1 },
  ],
  ways: [
    {
      finds: ['s'],
      work: ({ low, high, t, mv }, { ion }) => {
        const ideal = idealOf(low!, high!, t!, ion!);
        requireWithin(Math.abs(mv!), 0, 1000, 'gap', 'mV', 'Enter high less low, as a size.');
        return gapAnswer({ s: (100 * Math.abs(mv!)) / ideal }, ideal, Math.abs(mv!), t!, ion!, 100 / ideal);
      },
    },
    {
      finds: ['mv'],
      work: ({ low, high, t, s }, { ion }) => {
        const ideal = idealOf(low!, high!, t!, ion!);
        requireWithin(s!, 0, 200, 'slope', '%', 'The ideal one is 100 %.');
        return gapAnswer({ mv: (ideal * s!) / 100 }, ideal, (ideal * s!) / 100, t!, ion!, 1);
      },
    },
  ],
  formula: 'gap = slope · k(T)/z · log₁₀(high/low)',
  source: 'Nernst, CODATA 2018; what is accepted is common practice, no source',
  validity: 'activities above 0, 0 to 50 °C',
};

function idealOf(low: number, high: number, t: number, ion: string): number {
  requireWithin(t, 0, 50, 'temperature', '°C', 'Bring the standards into that range.');
  requireWithin(low, 1e-6, 1e6, 'low standard', 'mg/L', 'Enter an activity above 0.');
  requireWithin(high, 1e-6, 1e6, 'high standard', 'mg/L', 'Enter an activity above 0.');
  if (!(high > 1.5 * low)) {
    throw new Refusal(
      'standards-not-distinct',
      `High ${shown(high)} and low ${shown(low)} mg/L make no gap. Use standards a factor of three or more apart.`,
    );
  }
  return idealGap(low, high, ionOf(ion).charge, t);
}

function gapAnswer(
  found: Record<string, number>,
  ideal: number,
  mv: number,
  t: number,
  ion: string,
  perMv: number,
): Answer {
  const accepted = mv / ideal >= GAP_LIMITS.low && mv / ideal <= GAP_LIMITS.high;
  return {
    found,
    // Two readings of ±0.3 mV.
    plusMinus: 0.42 * perMv,
    plusMinusBecause: 'two readings of ±0.3 mV; common practice, no source',
    formula: `ideal ${shown(ideal, 2)} mV, measured ${shown(mv, 2)} mV = ${shown((100 * mv) / ideal, 1)} %`,
    more: [
      { name: 'Ideal gap', value: ideal, unit: 'mV', decimals: 2 },
      { name: 'Ideal slope', value: Math.abs(nernstSlope(t) / ionOf(ion).charge), unit: 'mV/decade', decimals: 2 },
      { name: 'Accepted from', value: GAP_LIMITS.low * ideal, unit: 'mV', decimals: 1 },
      { name: 'Accepted to', value: GAP_LIMITS.high * ideal, unit: 'mV', decimals: 1 },
    ],
    note: accepted
      ? 'Inside what practice accepts.'
      : 'Outside what practice accepts (81 to 111 % of ideal): fresh standards and a repeat first, then a new tip.',
  };
}

export const ION_SUMS: readonly Sum[] = [activity, gap, INTERFERENCE_SUM];
