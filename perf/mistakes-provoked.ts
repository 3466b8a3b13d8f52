import type { School } from '@frustum/core';
import { FAULTS, type BodyTruth, type Chance } from '@frustum/sim';

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

export interface Doing {
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

/** What the water of every run has, °C. */
export const WATER_C = 25;
/** What a sound probe makes of each thing by itself, one standard deviation: see core/mistakes/sound.ts. */
const NOISE_SD = 0.35 * Math.exp(0.9);
const STILL_SD = 0.7;
const APART_SD = 1.3;
const WARMED_SD = 0.06;
const HUM_SD = 0.35;

const fault = (name: string) => FAULTS.find((f) => f.name === name)!;
const by = (name: string) => (truth: BodyTruth, severity: number) => fault(name).on(truth, severity, 0);

/** Cups that are asked for where a mistake does not say otherwise. */
export const PH = ['7.00', '4.01'];
export const EC = ['air', '1413 µS/cm'];

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
    caught: ['dry-tip', 'bubble'],
    severities: [0.1, 0.3, 1],
    truth: by('dry tip'),
    size: (seen) => seen.noise / NOISE_SD,
  },
  {
    name: 'bubble, electrode',
    family: 'ph',
    caught: ['bubble', 'dry-tip', 'unlike-itself'],
    severities: [0.5, 1, 2],
    truth: by('bubble'),
  },
  {
    name: 'bubble, cell',
    family: 'conductivity',
    caught: ['bubble', 'wrong-coefficient'],
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
    severities: [0.1, 0.2, 0.4, 1, 3],
    truth: (t) => ({ ...t, thermometer: { ...t.thermometer, elsewhereC: WATER_C } }),
    does: (severity) => ({ roomApart: -severity }),
    size: (_, severity) => severity / WARMED_SD,
  },
  {
    name: 'wet cell at air zero',
    family: 'conductivity',
    caught: ['wet-cell'],
    severities: [0.02, 0.05, 0.1, 0.3, 1],
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
    caught: ['wrong-coefficient', 'bubble'],
    severities: [0.5, 1.5, 3, 4.5],
    does: (severity) => ({ roomApart: -severity, times: (t) => 1 + 0.02 * (t - 25) }),
  },
  {
    name: 'mains hum or stray voltage',
    family: 'ph',
    caught: ['hum'],
    severities: [0.05, 0.1, 0.2, 0.5, 1],
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
