import type { Process } from '../physics/process.ts';
import { Body, type Shown } from '../physics/body.ts';
import { chance, seedOf, type Chance } from '../physics/chance.ts';
import type { ElectrodeTruth, Sense } from '../physics/electrode.ts';
import { BARE_BODY, type BodyTruth } from '../physics/truth.ts';

/**
 * Captures of a described population: one sensor of a family, fresh to worn, is put from its water or another cup into a
 * standard, and read on a channel of its own pace and step. The ranges are invented. An electrode's slow
 * way is spread over other time constants by up to a factor of 1.5 (standard deviation), so that it is no exponential; cells,
 * optics and thermometers follow by single ones, which they share with the judge of settling. A capture
 * is a `Body`, its truth the same body without noise, held at the temperature of the capture until ten times its slowest time
 * constant have passed: a cup that still drifts a few hundredths of a degree is another value of its standard, and no
 * error of settling.
 */
export interface SimulatedCapture {
  readonly family: CaptureFamily;
  readonly standardName: string;
  /** s between two samples, and the step of the channel, in the unit of the signal */
  readonly sampleSeconds: number;
  readonly resolution: number;
  /** the next sample, as the channel shows it */
  readonly next: () => { readonly t: number; readonly signal: number; readonly temperatureC: number };
  /** the noise-free signal where this capture ends, at a temperature */
  readonly truthAt: (temperatureC: number) => number;
}

export const CAPTURE_FAMILIES = [
  'ph',
  'orp',
  'ion',
  'conductivity',
  'salinity',
  'temperature',
  'nitrate',
  'chlorine',
  'oxygen-optical',
  'oxygen-membrane',
] as const;
/** Platinum in water that hardly poises it: no sound capture in any reasonable time, reported apart. */
export const WEAK_WATER = 'orp-weak';
export type CaptureFamily = (typeof CAPTURE_FAMILIES)[number] | typeof WEAK_WATER;

/** Between two figures, evenly or by their logarithms. */
const between = (dice: Chance, low: number, high: number) => low + (high - low) * dice.uniform();
const byDecades = (dice: Chance, low: number, high: number) => low * (high / low) ** dice.uniform();
const oneOf = <T>(dice: Chance, of: readonly T[]): T => of[Math.floor(dice.uniform() * of.length)]!;

/** A glass, a platinum or a tip somewhere between fresh and worn. */
function electrode(dice: Chance, of: 'ph' | 'orp' | 'ion'): ElectrodeTruth {
  const worn = dice.uniform();
  const common = {
    zeroMv: 10 * dice.normal(),
    noiseMv: byDecades(dice, 0.05, 0.3),
    slowSpread: between(dice, 0, 0.4),
  };
  if (of === 'ph')
    return {
      ...common,
      slope: 1 - 0.15 * worn,
      fastSeconds: between(dice, 2, 4) * (1 + worn),
      slowSeconds: byDecades(dice, 12, 20) * (1 + 2 * worn),
      slowShare: between(dice, 0.05, 0.12) * (1 + 1.5 * worn),
      megohm: 120 * (1 + worn),
    };
  if (of === 'orp')
    return {
      ...common,
      slope: 1,
      fastSeconds: between(dice, 3, 8),
      slowSeconds: byDecades(dice, 15, 30) * (1 + worn),
      slowShare: between(dice, 0.2, 0.45),
      megohm: 0.01,
    };
  return {
    ...common,
    slope: 0.98 - 0.12 * worn,
    fastSeconds: between(dice, 3, 7) * (1 + worn),
    slowSeconds: byDecades(dice, 25, 45) * (1 + worn),
    slowShare: between(dice, 0.1, 0.25),
    megohm: 5,
  };
}

interface Kind {
  readonly cups: readonly string[];
  readonly sense?: Sense;
  readonly truth: (dice: Chance) => Partial<BodyTruth>;
  /** its truth is how warm it is itself */
  readonly itself?: boolean;
  readonly signal: (s: Shown) => number;
  /** steps of channels, in the unit of the signal */
  readonly steps: readonly number[];
}

const mv = (s: Shown) => s.electrodes['it']!;
const cell = (dice: Chance): Partial<BodyTruth> => ({
  cell: { constant: 1, gain: 1 + 0.02 * dice.normal(), scaled: 0.05 * dice.uniform(), filmUs: 2, mostUs: 2e6 },
});

const OXYGEN_CUPS = ['water-saturated air', 'zero oxygen', 'air-saturated water'];

const ORP: Kind = {
  cups: ['redox 430', 'redox pH 4'],
  sense: { of: 'orp' },
  truth: (d) => ({ electrodes: { it: electrode(d, 'orp') } }),
  signal: mv,
  steps: [0.1, 1],
};

const KINDS: Readonly<Record<CaptureFamily, Kind>> = {
  ph: {
    cups: ['7.00', '4.01', '10.01', '9.00 (20 °C)'],
    sense: { of: 'ph' },
    truth: (d) => ({ electrodes: { it: electrode(d, 'ph') } }),
    signal: mv,
    // The last is a display of hundredths.
    steps: [0.01, 0.1, 0.59],
  },
  orp: ORP,
  'orp-weak': ORP,
  ion: {
    cups: ['chloride 46', 'chloride 319'],
    sense: { of: 'chloride' },
    truth: (d) => ({ electrodes: { it: electrode(d, 'ion') } }),
    signal: mv,
    steps: [0.01, 0.1],
  },
  conductivity: {
    cups: ['1413 µS/cm', '2765 µS/cm', '12.88 mS/cm'],
    truth: cell,
    signal: (s) => s.conductance,
    steps: [0.1, 1],
  },
  salinity: { cups: ['S 35'], truth: cell, signal: (s) => s.conductance, steps: [1, 10] },
  temperature: { cups: ['7.00'], truth: () => ({}), signal: (s) => s.temperatureC, steps: [0.01, 0.1], itself: true },
  nitrate: {
    cups: ['nitrate 5 as N'],
    truth: (d) => ({
      optics: { zero: 0.05 * d.normal(), gain: 1 - 0.1 * d.uniform(), dirt: 0.05 * d.uniform(), straylight: 0 },
    }),
    signal: (s) => s.nitrateN,
    steps: [0.01],
  },
  chlorine: {
    cups: ['chlorine-free'],
    truth: (d) => ({ chlorine: { zeroNa: 2 * d.uniform(), slopeNa: between(d, 60, 110), flow: 35 } }),
    signal: (s) => s.chlorine,
    steps: [0.1],
  },
  'oxygen-optical': {
    cups: OXYGEN_CUPS,
    truth: (d) => ({
      oxygen: { kind: 'cap', faded: 0.15 * d.uniform(), quenching: between(d, 0.07, 0.14), fouled: 0.15 * d.uniform() },
    }),
    signal: (s) => s.oxygen,
    steps: [0.0001, 0.001],
  },
  'oxygen-membrane': {
    cups: OXYGEN_CUPS,
    truth: (d) => ({
      oxygen: { kind: 'membrane', zeroNa: d.uniform(), slopeNa: between(d, 1.8, 3.2), fouled: 0.2 * d.uniform() },
    }),
    signal: (s) => s.oxygen,
    steps: [0.01, 0.1],
  },
};

/** Channels give a sample every so many seconds. */
const PACES = [0.1, 0.25, 0.5, 1, 2, 5];
const STEP_S = 0.25;
/** Ten times the slowest of all that count, s; in weak water many times that. */
const LONG_S = 3600;
const WEAK_LONG_S = 36_000;

/** A body that has come out of what it stood in before, rinsed, into its cup. */
function bodyIn(made: {
  of: BodyTruth;
  sense: Readonly<Record<string, Sense>>;
  process: Process;
  seed: number;
  roomC: number;
  before: string;
  into: string;
}): Body {
  const { of, sense, process, seed, roomC, before, into } = made;
  const body = new Body({ senses: sense, truth: () => of, process, seed, atMs: 0, roomC });
  const goes = (place: string) => {
    body.moveTo('rinse');
    runs(body, 5);
    body.blot();
    body.moveTo(place);
    // What is asked here is how a sound capture settles: the bubble that comes with some cups is tapped off.
    body.tap();
  };
  if (before !== 'process') {
    goes(before);
    runs(body, 200);
  }
  goes(into);
  return body;
}

/** What a quiet body shows in the end: in a cup of one temperature, or in weak water (null). */
function endOf(quiet: Body, cupC: number | null, signal: (shown: Shown) => number): number {
  // Nothing but the end is asked for: long steps lose nothing there.
  for (let s = 0; s < (cupC === null ? WEAK_LONG_S : LONG_S); s += 4) {
    if (cupC !== null) quiet.cupsTo(cupC);
    quiet.step(4, 0);
  }
  // What noise is left, a share of the reading, is averaged away.
  let sum = 0;
  for (let i = 0; i < 200; i++) sum += signal(quiet.shown());
  return sum / 200;
}

/**
 * One capture of the population.
 *
 * @param seed decides everything about it
 */
export function captureOf(family: CaptureFamily, seed: number): SimulatedCapture {
  const dice = chance(seedOf(seed, family));
  const kind = KINDS[family];
  const weak = family === WEAK_WATER;
  const truth: BodyTruth = { ...BARE_BODY, ...kind.truth(dice) };
  const roomC = between(dice, 16, 28);
  const water = {
    ph: between(dice, 5.5, 8.3),
    dailySwing: 0,
    temperatureC: roomC + 3 * dice.normal(),
    us25: byDecades(dice, 200, 3000),
    chlorine: 0.5,
    ions: { nitrate: 0.2, chloride: 1 },
    ...(weak ? { poise: byDecades(dice, 0.01, 0.3) } : {}),
  };
  const standardName = oneOf(dice, kind.cups);
  const others = kind.cups.filter((c) => weak || c !== standardName).map((c) => `cup-${c}`);
  const before = oneOf(dice, weak ? others : ['process', ...others]);
  const into = weak ? 'process' : `cup-${standardName}`;
  const sampleSeconds = oneOf(dice, PACES);
  const resolution = oneOf(dice, kind.steps);
  const made = (of: BodyTruth) =>
    bodyIn({ of, sense: kind.sense ? { it: kind.sense } : {}, process: water, seed, roomC, before, into });
  const body = made(truth);
  let count = 0;
  return {
    family,
    standardName,
    sampleSeconds,
    resolution,
    next() {
      if (count > 0) runs(body, sampleSeconds);
      const shown = body.shown();
      const signal = Math.round(kind.signal(shown) / resolution) * resolution;
      return { t: sampleSeconds * count++, signal, temperatureC: Math.round(shown.temperatureC * 100) / 100 };
    },
    truthAt(temperatureC) {
      // A thermometer is right when it is as warm as what it stands in.
      if (kind.itself) return body.surroundingsC();
      return endOf(made(withoutNoise(truth)), weak ? null : temperatureC, kind.signal);
    },
  };
}

/** In steps that are short enough to be exact on the way. */
function runs(body: Body, seconds: number): void {
  for (let left = seconds; left > 1e-9; left -= STEP_S) body.step(Math.min(STEP_S, left), 0);
}

const withoutNoise = (truth: BodyTruth): BodyTruth => ({
  ...truth,
  electrodes: Object.fromEntries(Object.entries(truth.electrodes).map(([k, e]) => [k, { ...e, noiseMv: 0 }])),
});
