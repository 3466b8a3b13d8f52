import { isCell } from '../sensor/family.ts';
import { MIN_STEPS, type Facts } from './facts.ts';
import { logSum } from '../statistics/chances.ts';
import { normalLog } from './hypothesis.ts';

/** Some sensors move by about so much between two runs, whatever their history says, in steps. Common practice, no source. */
const RESTIVE = 0.015;
const RESTIVE_STEPS = 6;
/** Noise of a sound sensor, in steps, and how far it scatters in logarithm. Common practice, no source. */
const USUAL_NOISE = 0.35;
const NOISE_SPREAD = 0.7;
/** Chance peaks of a periodogram fall off like this with their share. */
const PEAK_RATE = 11;
/** A cup that comes from elsewhere changes the thermometer by about so much, °C, and never by less than its noise. */
const USUAL_WARMED_C = 4;
const STILL_C = 0.06;
/** Half of the cups are floated in the water first, as the bench advises: then nothing moves. Common practice, no source. */
const FLOATED = 0.5;
/** Cups are as warm as the water within this, °C. Common practice, no source. */
const USUAL_APART_C = 1.15;

/** A cell in air, and long enough for a shake to show, s. */
const SHAKEN_S = 20;
export const isInAir = ({ cup, model, seconds }: Facts) =>
  seconds >= SHAKEN_S && cup.asked.nominal === 0 && isCell(model);
/** How far it stands from where it should, in steps, and how well that is known: what it heads for has no part in it. */
export const standing = ({ off, toCome, sd, toComeSd }: Facts) => ({
  off: off - toCome,
  sd: Math.max(MIN_STEPS, Math.sqrt(Math.max(0, sd ** 2 - toComeSd ** 2))),
});

/** How a stuck thermometer moves. */
export const stillLog = (warmed: number) => Math.log(2) + normalLog(warmed, 0, STILL_C);

/** Logarithms of the densities of a sound cup, one for each thing that a hypothesis may override. */
const SOUND = {
  off: ({ off, sd }: Facts) =>
    logSum([
      Math.log(1 - RESTIVE) + normalLog(off, 0, sd),
      Math.log(RESTIVE) + normalLog(off, 0, Math.hypot(sd, RESTIVE_STEPS)),
    ]),
  noise: ({ noise }: Facts) => normalLog(Math.log(noise), Math.log(USUAL_NOISE), NOISE_SPREAD),
  swing: ({ swing }: Facts) => (swing ? Math.log(PEAK_RATE) - PEAK_RATE * swing.share : 0),
  warmed: ({ warmed, cup }: Facts) => {
    if (warmed === null) return 0;
    const elsewhere = Math.log(2) + normalLog(warmed, 0, USUAL_WARMED_C);
    // Rinsed and carried through the room it moves, whatever the cup; the cup alone says less.
    if (cup.wayC !== undefined) return elsewhere;
    return logSum([Math.log(1 - FLOATED) + elsewhere, Math.log(FLOATED) + stillLog(warmed)]);
  },
  apart: ({ temperatureC, cup }: Facts) => normalLog(temperatureC - cup.plan.workingC, 0, USUAL_APART_C),
  /** dry, it shows its zero within seconds */
  inAir: (facts: Facts) => (isInAir(facts) ? normalLog(standing(facts).off, 0, standing(facts).sd) : 0),
  toCome: ({ toCome, toComeSd }: Facts) => normalLog(toCome, 0, Math.hypot(0.5, Math.min(0.5, toComeSd))),
} as const;
type Part = keyof typeof SOUND;

/** What restlessness does to the noise: so many times the usual. */
export const noiseLog = (noise: number, times: number, spread: number) =>
  normalLog(Math.log(noise), Math.log(USUAL_NOISE * times), spread);

/** The weight of a hypothesis that overrides these parts and leaves the rest as in a sound cup. */
export function instead(facts: Facts, parts: Partial<Record<Part, number>>): number {
  return Object.entries(parts).reduce((sum, [part, log]) => sum + log - SOUND[part as Part](facts), 0);
}
