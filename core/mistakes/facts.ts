import type { Family, Model } from '../sensor/family.ts';
import { expectedIn } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { RunPlan } from '../calibration/events.ts';
import { familyOfPlan, stepIn } from '../calibration/plan.ts';
import { noiseSd } from '../statistics/robust.ts';
import type { Settling } from '../settling/settle.ts';
import type { Sample } from '../settling/trace.ts';
import type { Standard } from '../solutions/standard.ts';
import { swingOf, type Swing } from './swing.ts';
import type { StandardPoint } from '../sensor/standard-point.ts';

/** What was captured before in this run, as far as a later cup must know of it. */
export type Before = Pick<StandardPoint, 'standard' | 'signal' | 'temperatureC'>;

/** What is asked of a cup. */
export interface Cup {
  readonly plan: Pick<RunPlan, 'family' | 'settings' | 'expected' | 'workingC'> &
    Partial<Pick<RunPlan, 'inForceKnown'>>;
  readonly asked: Standard;
  /** bottles that may have been taken instead */
  readonly shelf: readonly Standard[];
  /** earlier cups of this run, the last one last */
  readonly before: readonly Before[];
  /** it was put in just now, and watched since */
  readonly fresh: boolean;
  /**
   * how far the thermometer moved on the way, since the probe left its water: it was rinsed and carried, °C; absent where nobody
   * watched it
   */
  readonly wayC?: number;
  /** at read back: the signal in this same cup before the adjustment, and its standard deviation */
  readonly anchor?: { readonly signal: number; readonly sd: number };
}

/** Another liquid, and how far from the asked one it would put the signal, in steps that count, and how sure that is. */
export interface Instead {
  readonly standard: Standard;
  readonly off: number;
  readonly sd: number;
}

/**
 * What a trace says about a cup, each figure a number that a hypothesis can have an opinion of. Signals are in steps that
 * count for the family (0.01 pH of glass, 0.3 % of a cell), relative to what the history expects in the asked standard.
 */
export interface Facts {
  readonly cup: Cup;
  readonly family: Family;
  readonly model: Model;
  /** one step, in the unit of the signal */
  readonly step: number;
  /** where the signal is heading, and what it should be, in its unit */
  readonly signal: number;
  readonly expected: number;
  readonly off: number;
  /** how well that difference is known: the history's spread, the forecast's, and never better than `MIN_STEPS` */
  readonly sd: number;
  readonly others: readonly Instead[];
  /** with plus and minus of the input exchanged; null where a signal has no poles, or where it makes no difference */
  readonly mirrored: number | null;
  /** with the signal where the last cup left it */
  readonly unmoved: Instead | null;
  /** sample noise, in steps; what the channel's rounding makes of it is in it */
  readonly noise: number;
  readonly swing: Swing | null;
  /** what is still to come beyond what would be captured, in steps, and its spread */
  readonly toCome: number;
  readonly toComeSd: number;
  /** it would be captured now */
  readonly ready: boolean;
  readonly seconds: number;
  readonly temperatureC: number;
  /** how far the thermometer moved on the way and since it came into this cup, °C; null where it was not watched from the beginning */
  readonly warmed: number | null;
}

/** No history is better than this, in steps (1 mV of glass). Common practice, no source. */
export const MIN_STEPS = 1.7;
/** Standards whose signals lie nearer than this cannot be told apart by a tired sensor, in steps (half a pH). */
const APART_STEPS = 50;
/** The rounding of a channel makes no noise below this, in steps. */
const MIN_NOISE = 0.02;
/** Smallest beat that is not taken for chance, as a share of what moves, and in steps. */
const BEAT_SHARE = 0.5;
const BEAT_STEPS = 2;
/** Samples before a temperature course says anything, s. */
const WATCHED_S = 30;
/** A signal that stays where it was moves by no more than this, in steps. */
const UNMOVED_STEPS = 4;

/**
 * The facts of a cup.
 *
 * @param samples since the probe came into this cup
 * @returns null while nothing can be said: no settling yet, or a standard without a value at this temperature
 */
export function factsOf(cup: Cup, settling: Settling, samples: readonly Sample[]): Facts | null {
  if (settling.state === 'waiting') return null;
  const { plan, asked, shelf, before, anchor } = cup;
  const { family, model } = familyOfPlan(plan);
  const { zero, zeroSd, sensitivity, sensitivitySd } = plan.expected;
  const { temperatureC } = settling;
  const ideal = (standard: Standard, atC = temperatureC) =>
    unlessRefused(() => model.ideal(expectedIn(model, { standard, temperatureC: atC }), { temperatureC: atC }));
  const right = ideal(asked);
  if (right === null) return null;
  const step = stepIn(plan, asked, asked.nominalAtC);
  const expected = anchor?.signal ?? model.origin + zero + sensitivity * right;
  const inSteps = (signal: number) => (signal - expected) / step;
  const swing = swingOf(samples, step);
  // Where a signal swings, nobody knows its level better than by its height.
  const beat = swing && swing.share > BEAT_SHARE && swing.amplitude > BEAT_STEPS ? swing.amplitude * step : 0;
  const sdAt = (at: number) =>
    Math.hypot(...(anchor ? [anchor.sd] : [zeroSd, sensitivitySd * at]), settling.finalSd, beat, MIN_STEPS * step) /
    step;
  const others = shelf.flatMap((standard): Instead[] => {
    const other = ideal(standard);
    if (other === null || Math.abs(other - right) <= APART_STEPS * step) return [];
    return [{ standard, off: (sensitivity * (other - right)) / step, sd: sdAt(other) }];
  });
  const hasPoles = model.signalUnit === 'mV';
  // The other way round a signal is less nothing by as much as it was more: its zero turns with it.
  const swapped = (-2 * (expected - model.origin)) / step;
  const last = before.at(-1);
  const lastIdeal = last ? ideal(last.standard, last.temperatureC) : null;
  const unmoved =
    last && lastIdeal !== null && Math.abs(lastIdeal - right) > APART_STEPS * step
      ? { standard: last.standard, off: inSteps(last.signal), sd: Math.hypot(settling.finalSd / step, UNMOVED_STEPS) }
      : null;
  const first = samples[0];
  const watched = cup.fresh && first && samples.at(-1)!.t - first.t >= WATCHED_S;
  const temperatures = samples.map((s) => s.temperatureC);
  return {
    cup,
    family,
    model,
    step,
    signal: settling.final,
    expected,
    off: inSteps(settling.final),
    sd: sdAt(right),
    others,
    mirrored: hasPoles && Math.abs(swapped) > APART_STEPS ? swapped : null,
    unmoved,
    noise: Math.max(MIN_NOISE, noiseSd(samples.slice(-MAX_SAMPLES).map((s) => s.signal)) / step),
    swing,
    toCome: (settling.final - settling.level) / step,
    toComeSd: settling.finalSd / step,
    ready: settling.state === 'ready',
    seconds: settling.seconds,
    temperatureC,
    warmed: watched ? Math.max(cup.wayC ?? 0, Math.max(...temperatures) - Math.min(...temperatures)) : null,
  };
}
const MAX_SAMPLES = 120;
