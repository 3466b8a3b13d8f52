import {
  MS_PER_DAY,
  significantStep,
  familyOf,
  modelOf,
  type FamilyPrior,
  type Observation,
  type Working,
} from '@frustum/core';
import { chance, seedOf, type Chance } from '@frustum/sim';

/**
 * Sensors whose hidden courses are none of the drift engine's own: it believes in random walks, damped rates and jumps;
 * these follow closed curves, and jump at random. Shared with the core: how an error follows from zero and sensitivity,
 * and the size of a step that counts in each family. The ranges are invented.
 */
export const KINDS = ['damped drift', 'exponential ageing', 'jumps'] as const;
/** The same, and one that the oracle does not know: a year that goes up and down, and a loss by the root of time. */
export const COURSES = [...KINDS, 'seasons'] as const;
export type Kind = (typeof COURSES)[number];

/** Where each family's loop works. */
const LOOPS: Readonly<
  Record<string, { value: number; temperatureC: number; settings?: Record<string, number | string> }>
> = {
  ph: { value: 5.8, temperatureC: 22 },
  orp: { value: 650, temperatureC: 25, settings: { reference: 'silver-chloride-3.5', scale: 'own' } },
  conductivity: { value: 1850, temperatureC: 22, settings: { cellConstant: 1, alpha: 2 } },
  salinity: { value: 35, temperatureC: 25, settings: { cellConstant: 1 } },
  ion: { value: 120, temperatureC: 22, settings: { ion: 'chloride' } },
  chlorine: { value: 0.5, temperatureC: 20, settings: { nominalSlope: 100 } },
  nitrate: { value: 8, temperatureC: 18 },
  temperature: { value: 25, temperatureC: 25 },
};
export const FAMILIES = Object.keys(LOOPS);

/** What is measured where, and what is known of it beforehand. */
export interface Place {
  readonly family: string;
  readonly working: Working;
  readonly prior: FamilyPrior;
  /** one step that counts, in the unit of the signal */
  readonly step: number;
  /** the sensitivity is one by nature */
  readonly fixed: boolean;
  /** share of the population's moves that the sensitivity makes: a thermometer's gain hardly moves */
  readonly gain: number;
}

export function placeOf(id: string): Place {
  const family = familyOf(id);
  const { value, temperatureC, settings } = LOOPS[id]!;
  const model = modelOf(family, settings);
  const step = significantStep(family, model, { value, temperatureC });
  const prior = family.prior(step);
  const fixed = prior.sensitivity.sd === 0;
  return {
    family: id,
    working: { model, value, temperatureC },
    prior,
    step,
    fixed,
    gain: id === 'temperature' ? 0.05 : 1,
  };
}

export interface Parameters {
  readonly zero: number;
  readonly sensitivity: number;
}
const between = (dice: Chance, low: number, high: number) => low + (high - low) * dice.uniform();

/** What a population of a kind is like; the oracle knows these figures, and not what a sensor has drawn from them. Zero in steps. */
export const POPULATION = {
  zeroSd: 6,
  sensitivitySd: 0.02,
  noise: { zero: 0.8, sensitivity: 0.004 },
  damped: { days: 150, spread: 0.5, zero: { mean: -6, sd: 6 }, loss: { mean: 0.03, sd: 0.02 } },
  ageing: { days: 2000, spread: 0.5, rateSd: 0.04 },
  seasons: { zero: 4, sensitivity: 0.008, days: 365.25, loss: 0.04 },
  jumps: { zeroAYear: 1.5, zeroSd: 10, sensitivityAYear: 0.75, sensitivitySd: 0.03, rateSd: 0.02 },
} as const;
export const freshSensitivity = (family: string) => (family === 'ph' ? 0.97 : 1);

/** A hidden course: what the sensor is on a day. */
function courseOf(kind: Kind, { step, fixed, family, gain }: Place, dice: Chance): (day: number) => Parameters {
  const p = POPULATION;
  const zero0 = p.zeroSd * step * dice.normal();
  const s0 = fixed ? 1 : freshSensitivity(family) + gain * p.sensitivitySd * dice.normal();
  if (kind === 'damped drift') {
    const days = p.damped.days * Math.exp(p.damped.spread * dice.normal());
    const far = step * (p.damped.zero.mean + p.damped.zero.sd * dice.normal());
    const loss = fixed ? 0 : gain * (p.damped.loss.mean + p.damped.loss.sd * dice.normal());
    return (day) => {
      const gone = 1 - Math.exp(-day / days);
      return { zero: zero0 + far * gone, sensitivity: s0 - loss * gone };
    };
  }
  if (kind === 'exponential ageing') {
    const days = (p.ageing.days / gain) * Math.exp(p.ageing.spread * dice.normal());
    const rate = p.ageing.rateSd * step * dice.normal();
    return (day) => ({ zero: zero0 + rate * day, sensitivity: fixed ? 1 : s0 * Math.exp(-day / days) });
  }
  if (kind === 'seasons') {
    const { seasons } = p;
    const phase = 2 * Math.PI * dice.uniform();
    const [swing, gainSwing] = [seasons.zero * step * dice.normal(), gain * seasons.sensitivity * dice.normal()];
    const loss = gain * seasons.loss * dice.uniform();
    return (day) => {
      const wave = Math.sin((2 * Math.PI * day) / seasons.days + phase);
      const lost = loss * Math.sqrt(day / seasons.days);
      return { zero: zero0 + swing * wave, sensitivity: fixed ? 1 : s0 + gainSwing * wave - lost };
    };
  }
  const rate = p.jumps.rateSd * step * dice.normal();
  const jumps = (aYear: number, sd: number) => {
    const list: { day: number; by: number }[] = [];
    for (let day = 0; day < 2000;) {
      day += (-Math.log(1 - dice.uniform()) * 365.25) / aYear;
      list.push({ day, by: sd * dice.normal() });
    }
    return (until: number) => list.reduce((sum, j) => (j.day <= until ? sum + j.by : sum), 0);
  };
  const zeroJumps = jumps(p.jumps.zeroAYear, p.jumps.zeroSd * step);
  const gainJumps = jumps(p.jumps.sensitivityAYear, gain * p.jumps.sensitivitySd);
  return (day) => ({
    zero: zero0 + rate * day + zeroJumps(day),
    sensitivity: fixed ? 1 : s0 + gainJumps(day),
  });
}

/** One sensor with so many runs, and what it is on a later day. */
export interface Lived {
  readonly history: readonly Observation[];
  readonly days: readonly number[];
  readonly laterDay: number;
  readonly later: Parameters;
  readonly inForce: Parameters;
  readonly course: (day: number) => Parameters;
}

/** What a run finds of a sensor, with the noise of the population. */
export function measured(place: Place, is: Parameters, dice: Chance): Pick<Observation, 'found' | 'covariance'> {
  const { noise } = POPULATION;
  const sd = { zero: noise.zero * place.step, sensitivity: place.fixed ? 0 : place.gain * noise.sensitivity };
  return {
    found: {
      zero: is.zero + sd.zero * dice.normal(),
      sensitivity: is.sensitivity + sd.sensitivity * dice.normal(),
    },
    covariance: [
      [sd.zero ** 2, 0],
      [0, sd.sensitivity ** 2],
    ],
  };
}

/** Runs every 15 to 60 days; the first one adjusts, of the others six in ten. */
export function lived(kind: Kind, place: Place, runs: number, seed: number): Lived {
  const dice = chance(seedOf(seed, `${kind}/${place.family}`));
  const course = courseOf(kind, place, dice);
  const history: Observation[] = [];
  const days: number[] = [];
  let day = between(dice, 0, 20);
  let inForce: Parameters = { zero: 0, sensitivity: 1 };
  for (let i = 0; i < runs; i++) {
    const { found, covariance } = measured(place, course(day), dice);
    const adjusts = i === 0 || dice.uniform() < 0.6;
    if (adjusts) inForce = found;
    history.push({
      atMs: day * MS_PER_DAY,
      kind: adjusts ? 'calibration' : 'verification',
      found,
      covariance,
      inForceAfter: inForce,
      cleaned: false,
    });
    days.push(day);
    if (i < runs - 1) day += between(dice, 15, 60);
  }
  const laterDay = day + between(dice, 15, 90);
  return { history, days, laterDay, later: course(laterDay), inForce, course };
}
