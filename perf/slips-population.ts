import {
  buffer,
  CATALOGUE,
  chasesNoise,
  responseIn,
  settleIn,
  slipIn,
  STATISTICAL,
  temperatureSlip,
  typedFacts,
  watched,
  type Standard,
} from '@frustum/core';
import { chance, type Chance } from '@frustum/sim';

/** A slip of a typed figure, and what counts as having caught it. */
interface Slip {
  readonly name: string;
  readonly caught: readonly string[];
  readonly of: 'ph' | 'conductivity' | 'temperature';
  /** what the hand makes of the figure that stands on the display */
  readonly typed: (text: string, dice: Chance) => string;
}

const pick = <T>(dice: Chance, of: readonly T[]): T => of[Math.floor(dice.uniform() * of.length)]!;
const figured = (value: number) => String(Number(value.toPrecision(5)));

function swapped(text: string, dice: Chance): string {
  const places = [...text].flatMap((c, i) =>
    /\d/.test(c) && /\d/.test(text[i + 1] ?? '') && c !== text[i + 1] ? [i] : [],
  );
  if (!places.length) return text;
  const i = pick(dice, places);
  return text.slice(0, i) + text[i + 1]! + text[i]! + text.slice(i + 2);
}

/** One class: what would tell is the same display. */
const SLIP = ['tenfold', 'digits', 'typed-scale'];

/** Every slip that the bench knows of. */
export const SLIPS: readonly Slip[] = [
  { name: 'times ten, pH', of: 'ph', caught: SLIP, typed: (t, d) => figured(Number(t) * pick(d, [10, 0.1])) },
  { name: 'comma left out, pH', of: 'ph', caught: SLIP, typed: (t) => t.replace('.', '') },
  { name: 'mS for µS', of: 'conductivity', caught: SLIP, typed: (t) => figured(Number(t) / 1000) },
  { name: 'digits exchanged, pH', of: 'ph', caught: [...SLIP, 'far-figure', 'other-bottle'], typed: swapped },
  {
    name: 'digits exchanged, conductivity',
    of: 'conductivity',
    caught: [...SLIP, 'far-figure', 'other-bottle'],
    typed: swapped,
  },
  {
    name: 'another scale',
    of: 'conductivity',
    caught: SLIP,
    typed: (t, d) => figured(Number(t) * pick(d, [0.5, 0.64, 0.7])),
  },
  {
    name: 'mV typed as pH',
    of: 'ph',
    caught: [...SLIP, 'other-unit', 'other-bottle', 'far-figure'],
    typed: (t) => (59.16 * (7 - Number(t))).toFixed(1),
  },
  { name: '°F typed as °C', of: 'temperature', caught: ['fahrenheit'], typed: (t) => figured(Number(t) * 1.8 + 32) },
];

const SEVEN = buffer('technical-7.00');
const KCL = CATALOGUE.find((s) => s.name === '1413 µS/cm')!;

/** One figure, typed with or without a slip. The effect is how far it is off, in what was known of it. */
export function slipped(slip: Slip | null, seed: number): { effect: number; caught: boolean } {
  const dice = chance(seed);
  const of = slip?.of ?? pick(dice, ['ph', 'conductivity', 'temperature'] as const);
  const doubted = (id: string | undefined) => (slip ? slip.caught.includes(id ?? '') : id !== undefined);
  const hand = (text: string) => (slip ? slip.typed(text, dice) : text);
  const temperatureC = 18 + 8 * dice.uniform();
  if (of === 'temperature') {
    const text = hand(temperatureC.toFixed(1));
    const about = 25;
    return {
      effect: Math.abs(Number(text) - temperatureC) / 5,
      caught: doubted(temperatureSlip({ text, celsius: Number(text), about }).warning?.id),
    };
  }
  const ph = of === 'ph';
  const asked: Standard = ph ? SEVEN : KCL;
  const zeroSd = ph ? 1 + 3 * dice.uniform() : 0.2;
  const sensitivitySd = ph ? 0.01 : 0.006 + 0.01 * dice.uniform();
  const plan = { family: of, settings: {}, expected: { zero: 0, zeroSd, sensitivity: 1, sensitivitySd } };
  const shelf = CATALOGUE.filter((s) => s.family === of && (!ph || s.id.startsWith('technical')));
  const unit = ph ? 'pH' : 'µS/cm';
  const reading = { text: '', value: 0, unit, temperatureC };
  const known = typedFacts(plan, { zero: 0, sensitivity: 1 }, asked, reading, shelf)!;
  const shown = known.expected + known.sd * dice.normal();
  const text = hand(shown.toFixed(ph ? 2 : 0));
  const value = Number(text);
  return {
    effect: Math.abs(value - shown) / known.sd,
    caught: doubted(slipIn({ ...known, text, value }).warning?.id),
  };
}

/** A read-back in the cup that was captured last: what does not agree is off by so many standard uncertainties. */
export function readBack(effect: number, seed: number): { effect: number; caught: boolean } {
  const dice = chance(seed);
  const plan = {
    family: 'ph',
    settings: {},
    expected: { zero: 0, zeroSd: 3, sensitivity: 1, sensitivitySd: 0.02 },
    workingC: 22,
  };
  const before = -1 + 4 * dice.normal();
  const sd = 0.15 + 0.2 * dice.uniform();
  // Combined with what no reading is better than, 1 mV.
  const combined = Math.hypot(sd, 1);
  const off = effect * combined * (dice.uniform() < 0.5 ? -1 : 1);
  const samples = Array.from({ length: 100 }, (_, i) => ({
    t: i / 2,
    signal: before + sd * dice.uniform() + off + 0.12 * dice.normal(),
    temperatureC: 22,
  }));
  const cup = { plan, asked: SEVEN, shelf: [SEVEN], before: [], fresh: false, anchor: { signal: before, sd } };
  const settling = settleIn(responseIn(plan, SEVEN), samples, STATISTICAL, 0.1);
  return { effect, caught: watched(cup, settling, samples)?.warning?.id === 'read-back' };
}

/** An adjustment of an error: none that is real (`effect` 0), or one of so many standard uncertainties. */
export function adjusted(effect: number, seed: number): { effect: number; caught: boolean } {
  const dice = chance(seed);
  const tolerance = 0.1;
  const uncertainty = 0.01 + 0.02 * dice.uniform();
  const error = uncertainty * (effect + dice.normal());
  return { effect, caught: chasesNoise({ error, uncertainty, tolerance, unit: 'pH', digits: 2 }).warning !== null };
}
