import {
  CATALOGUE,
  factsOf,
  modelOf,
  familyOf,
  responseIn,
  settleIn,
  signalOf,
  expectedIn,
  STATISTICAL,
  watched,
  type Before,
  type Cup,
  type Facts,
  type Sample,
  type School,
  type Settings,
  type Settling,
  type Standard,
} from '@frustum/core';
import { BARE_BODY, Body, chance, FAULTS, seedOf, type BodyTruth, type Chance } from '@frustum/sim';

/** A mistake that is provoked: how, how much of it, and which warnings count as having caught it. */
export interface Provoked {
  readonly name: string;
  readonly family: 'ph' | 'conductivity';
  /** ids of hypotheses, those of one class together */
  readonly caught: readonly string[];
  /** dials, from hardly to grossly */
  readonly severities: readonly number[];
  /** hidden truth with the mistake in it */
  readonly truth?: (truth: BodyTruth, severity: number, dice: Chance) => BodyTruth;
  /** which cups are asked for, which ones it is put into, and what else is done differently */
  readonly does?: (severity: number, dice: Chance) => Partial<Doing>;
  /** size of the effect in its own standard uncertainty, where it is not one of the level */
  readonly size?: (seen: Seen, severity: number) => number;
}

interface Doing {
  readonly asked: readonly string[];
  readonly into: readonly string[];
  readonly school: School;
  /** poles of the input exchanged */
  readonly turned: boolean;
  /** the channel's figure over the right one */
  readonly times: (temperatureC: number) => number;
  readonly blot: boolean;
  /** °C that the room is from the water */
  readonly roomApart: number;
}

/** What came of the last cup of a run. */
export interface Seen {
  /** every warning of the run, in the order in which they came */
  readonly said: readonly string[];
  /** effect over its combined standard uncertainty */
  readonly effect: number;
  readonly offSd: number;
  readonly toCome: number;
  readonly warmed: number;
  readonly amplitude: number;
  readonly noise: number;
  readonly apart: number;
}

const fault = (name: string) => FAULTS.find((f) => f.name === name)!;
const by = (name: string) => (truth: BodyTruth, severity: number) => fault(name).on(truth, severity, 0);

const PH = ['7.00', '4.01'];
const EC = ['air', '1413 µS/cm'];

/** Every mistake of a cup that the bench knows of. */
export const PROVOKED: readonly Provoked[] = [
  {
    name: 'wrong cup, cups swapped',
    family: 'ph',
    caught: ['wrong-cup', 'polarity'],
    severities: [1],
    does: (_, dice) => ({
      into: [['4.01', '10.01', '9.00 (20 °C)'][Math.floor(3 * dice.uniform())]!],
      asked: ['7.00'],
    }),
  },
  {
    name: 'polarity reversed',
    family: 'ph',
    caught: ['wrong-cup', 'polarity'],
    severities: [1],
    does: () => ({ turned: true }),
  },
  {
    name: 'carry-over',
    family: 'ph',
    caught: ['carry-over', 'unlike-itself'],
    severities: [0.3, 1, 3, 10, 30],
    truth: by('carry-over'),
    does: () => ({ blot: false }),
  },
  {
    name: 'cap on',
    family: 'ph',
    caught: ['cap-on', 'same-reading', 'wrong-cup', 'polarity'],
    severities: [1],
    truth: by('cap on'),
  },
  {
    name: 'same reading in both (still in the last cup)',
    family: 'ph',
    caught: ['cap-on', 'same-reading', 'wrong-cup', 'polarity'],
    severities: [1],
    does: () => ({ into: ['7.00', '7.00'] }),
  },
  {
    name: 'tip dry',
    family: 'ph',
    caught: ['dry-tip'],
    severities: [0.1, 0.3, 1],
    truth: by('dry tip'),
    size: (seen) => seen.noise / NOISE_SD,
  },
  {
    name: 'bubble, electrode',
    family: 'ph',
    caught: ['bubble', 'unlike-itself'],
    severities: [0.5, 1, 2],
    truth: by('bubble'),
  },
  {
    name: 'bubble, cell',
    family: 'conductivity',
    caught: ['bubble'],
    severities: [0.05, 0.2, 0.5, 1],
    truth: by('bubble'),
  },
  {
    name: 'captured while moving',
    family: 'ph',
    caught: ['still-moving'],
    severities: [120, 60, 40, 20],
    does: (seconds) => ({ school: { kind: 'fixed-time', seconds } }),
    size: (seen) => Math.abs(seen.toCome) / STILL_SD,
  },
  {
    name: 'cup too cold',
    family: 'ph',
    caught: ['cup-cold'],
    severities: [1, 3, 5, 8, 12],
    does: (severity) => ({ roomApart: -severity }),
    size: (seen) => seen.apart / APART_SD,
  },
  {
    name: 'thermometer elsewhere',
    family: 'ph',
    caught: ['thermometer-elsewhere'],
    severities: [1, 3, 6],
    truth: (t) => ({ ...t, thermometer: { ...t.thermometer, elsewhereC: WATER_C } }),
    does: (severity) => ({ roomApart: -severity }),
    size: (_, severity) => severity / WARMED_SD,
  },
  {
    name: 'wet cell at air zero',
    family: 'conductivity',
    caught: ['wet-cell'],
    severities: [0.02, 0.1, 0.3, 1],
    truth: by('wet cell'),
    does: () => ({ asked: ['air'], into: ['air'], blot: false }),
  },
  {
    name: 'wrong range',
    family: 'conductivity',
    caught: ['wrong-range'],
    severities: [1],
    truth: (t, _, dice) => ({ ...t, cell: { ...t.cell!, mostUs: [1000, 500, 200][Math.floor(3 * dice.uniform())]! } }),
  },
  {
    name: 'wrong temperature coefficient',
    family: 'conductivity',
    caught: ['wrong-coefficient'],
    severities: [0.5, 1.5, 3, 4.5],
    does: (severity) => ({ roomApart: -severity, times: (t) => 1 + 0.02 * (t - 25) }),
  },
  {
    name: 'mains hum or stray voltage',
    family: 'ph',
    caught: ['hum'],
    severities: [0.05, 0.2, 0.5, 1],
    truth: by('mains hum'),
    size: (seen) => seen.amplitude / HUM_SD,
  },
  {
    name: 'scale mix-up',
    family: 'conductivity',
    caught: ['scale'],
    severities: [1],
    does: (_, dice) => {
      const k = [0.5, 0.64, 0.7][Math.floor(3 * dice.uniform())]!;
      return { times: () => k };
    },
  },
  {
    name: 'change too large for its history',
    family: 'ph',
    caught: ['unlike-itself', 'carry-over'],
    severities: [1, 2, 4, 6, 10],
    truth: (t, severity, dice) => {
      const up = dice.uniform() < 0.5 ? -1 : 1;
      const it = t.electrodes['it']!;
      return { ...t, electrodes: { it: { ...it, zeroMv: it.zeroMv + up * severity * 5 } } };
    },
  },
];

const WATER_C = 25;
/** What a sound probe makes of each thing by itself, one standard deviation: see core/mistakes/sound.ts. */
const NOISE_SD = 0.35 * Math.exp(0.9);
const STILL_SD = 0.7;
const APART_SD = 1.3;
const WARMED_SD = 0.06;
const HUM_SD = 0.35;
const LOOK_EVERY_S = 5;
const LONGEST_S = 300;
const STEP_S = 0.25;

const standardOf = (name: string): Standard => CATALOGUE.find((s) => (s.id === name ? true : s.name === name))!;
const AIR = CATALOGUE.find((s) => s.family === 'conductivity' && s.nominal === 0)!;
const named = (name: string) => (name === 'air' ? AIR : standardOf(name));

function runs(body: Body, seconds: number): void {
  for (let left = seconds; left > 1e-9; left -= STEP_S) body.step(Math.min(STEP_S, left), 0);
}

/** One run with a mistake in it (or without), watched as the bench watches. */
export function provoked(
  mistake: Provoked | null,
  family: 'ph' | 'conductivity',
  severity: number,
  seed: number,
): Seen {
  const name = mistake?.name ?? 'clean';
  const dice = chance(seedOf(seed, `${name}/${family}/${severity}`));
  const ph = family === 'ph';
  const cell = { constant: 1, gain: 1 + 0.01 * dice.normal(), scaled: 0, filmUs: 0.05, mostUs: 2e6 };
  const worn = dice.uniform();
  const it = {
    zeroMv: 8 * dice.normal(),
    slope: 1 - 0.08 * worn,
    fastSeconds: 2 + 3 * dice.uniform(),
    slowSeconds: 15 + 20 * worn,
    slowShare: 0.06 + 0.1 * worn,
    noiseMv: 0.08 + 0.15 * dice.uniform(),
    megohm: 120,
    slowSpread: 0.2,
  };
  const sound: BodyTruth = ph ? { ...BARE_BODY, electrodes: { it } } : { ...BARE_BODY, cell };
  const truth = mistake?.truth?.(sound, severity, dice) ?? sound;
  const doing: Doing = {
    asked: ph ? PH : EC,
    into: ph ? PH : EC,
    school: STATISTICAL,
    turned: false,
    times: () => 1,
    blot: true,
    roomApart: (dice.uniform() < 0.5 ? -1 : 1) * (0.8 + 2 * dice.uniform()),
    ...mistake?.does?.(severity, dice),
  };
  const zeroSd = ph ? 1 + 2 * dice.uniform() : 0.1;
  const sensitivitySd = ph ? 0.004 + 0.008 * dice.uniform() : 0.006 + 0.006 * dice.uniform();
  const settings: Settings = ph ? {} : { cellConstant: 1, alpha: 2 };
  const expected = {
    zero: (ph ? it.zeroMv : 0) + zeroSd * dice.normal(),
    zeroSd,
    sensitivity: (ph ? it.slope : cell.gain) + sensitivitySd * dice.normal(),
    sensitivitySd,
  };
  const plan = { family, settings, expected, workingC: WATER_C };
  const model = modelOf(familyOf(family), settings);
  const process = { ph: 6.5, dailySwing: 0, temperatureC: WATER_C, us25: 900, chlorine: 0, ions: {} };
  const roomC = WATER_C + doing.roomApart;
  const body = new Body({ senses: ph ? { it: { of: 'ph' } } : {}, truth: () => truth, process, seed, atMs: 0, roomC });
  const read = () => {
    const shown = body.shown();
    const raw = (ph ? shown.electrodes['it']! : shown.conductance) * doing.times(shown.temperatureC);
    return {
      signal: Math.round((doing.turned ? -raw : raw) * 10) / 10,
      temperatureC: Math.round(shown.temperatureC * 100) / 100,
    };
  };
  const before: Before[] = [];
  const said: string[] = [];
  let stopped = false;
  let facts: Facts | null = null;
  let last: { settling: Settling; cup: Cup; samples: Sample[] } | null = null;
  for (const [i, askedName] of doing.asked.entries()) {
    const into = doing.into[i] ?? doing.into.at(-1)!;
    const asked = named(askedName);
    const place = into === 'air' ? 'air' : `cup-${into}`;
    if (!(i > 0 && doing.into[i - 1] === into)) {
      body.moveTo('rinse');
      runs(body, 6);
      if (doing.blot) body.blot();
      body.moveTo(place);
      if (into !== 'air') body.tap();
      else if (doing.blot) body.blot();
    }
    const cup: Cup = { plan, asked, shelf: ph ? PH_SHELF : EC_SHELF, before, fresh: i === 0 };
    const response = responseIn(plan, asked);
    const samples: Sample[] = [];
    const answered: string[] = [];
    let checked: Settling['checked'] | undefined;
    for (let t = 0; t <= LONGEST_S; t += 0.5) {
      samples.push({ t, ...read() });
      runs(body, 0.5);
      if (t === 0 || t % LOOK_EVERY_S !== 0) continue;
      const settling = settleIn(response, samples, doing.school, 0.1, undefined, checked);
      checked = settling.checked;
      last = { settling, cup, samples };
      facts = factsOf(cup, settling, samples) ?? facts;
      const warning = watched(cup, settling, samples, answered)?.warning;
      if (warning && !said.includes(warning.id)) said.push(warning.id);
      // Who looks and finds it otherwise says so, and goes on.
      if (warning && mistake?.caught.includes(warning.id)) stopped = warning.stops;
      else if (warning) answered.push(`${warning.record}.`);
      if (settling.state === 'ready' || stopped) break;
    }
    if (stopped) break;
    before.push({ standard: asked, signal: last!.settling.level, temperatureC: last!.settling.temperatureC });
  }
  if (!facts) throw new Error('nothing was ever read');
  // The effect of the mistake: what it reads against what it would have read, by the hidden sensor itself.
  const right = signalOf(
    model,
    expectedIn(model, { standard: last!.cup.asked, temperatureC: body.shown().temperatureC }),
    facts.temperatureC,
    {
      zero: ph ? it.zeroMv : 0,
      sensitivity: ph ? it.slope : cell.gain,
    },
  );
  const seen = {
    said,
    effect: Math.abs(facts.signal - right) / facts.step / facts.sd,
    offSd: facts.sd,
    toCome: facts.toCome,
    warmed: facts.warmed ?? 0,
    amplitude: facts.swing?.amplitude ?? 0,
    noise: facts.noise,
    apart: Math.abs(facts.temperatureC - WATER_C),
  };
  return mistake?.size ? { ...seen, effect: mistake.size(seen, severity) } : seen;
}

const PH_SHELF = CATALOGUE.filter((s) => s.family === 'ph' && s.id.startsWith('technical'));
const EC_SHELF = CATALOGUE.filter((s) => s.family === 'conductivity');
