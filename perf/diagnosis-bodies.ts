import { MS_PER_DAY, significantStep, familyOf, modelOf, type Observation } from '@frustum/core';
import { DEEDS, FAULTS, foundInBuffers, phBodyAt, SOUND, type BodyTruth, type Chance, type Fault } from '@frustum/sim';

/**
 * Histories of pH electrodes, each with one named fault or none, made by the simulator's bodies and its faults: it shares no
 * density and no filter with the core; `significantStep` gives the step in which both count, and the runs go through the core's own
 * filter, as they do in the application.
 */
export const BEFALLEN = [
  'sound',
  'electrolyte-diluted',
  'reference-contaminated',
  'junction-blocked',
  'glass-aged',
  'connector-moist',
  'glass-cracked',
  'standard-wrong',
  'process-moved',
  'glass-coated',
  'stray-voltage',
] as const;
export type Befallen = (typeof BEFALLEN)[number];

/** The simulator's fault behind a cause, how bad it is in the end, and whether it comes at once. */
const DIALS: Readonly<Partial<Record<Befallen, { fault: string; from: number; to: number; sudden?: boolean }>>> = {
  'electrolyte-diluted': { fault: 'electrolyte diluted', from: 0.2, to: 0.5 },
  'reference-contaminated': { fault: 'reference contaminated', from: 0.3, to: 0.8 },
  'junction-blocked': { fault: 'junction blocked', from: 0.4, to: 1 },
  'glass-aged': { fault: 'glass aged', from: 0.3, to: 0.8 },
  'glass-coated': { fault: 'glass coated', from: 0.4, to: 1 },
  // 12 to 48 mV, either way.
  'stray-voltage': { fault: 'stray voltage', from: 0.15, to: 0.6 },
  'connector-moist': { fault: 'moist connector', from: 0.06, to: 0.3 },
  'glass-cracked': { fault: 'glass cracked', from: 0.6, to: 1, sudden: true },
};
export const RUNS = 9;
export const K_25 = 59.16;
export const BUFFERS = [7, 4.01] as const;
/** Of one buffer reading, mV: bottle, settling, junction. */
export const READ_SD = 0.5;
export const SAMPLE_SD_STEPS = 4;
export const READING_SD_STEPS = 2;
export const DIRTY = 1.15;

export const family = familyOf('ph');
export const model = modelOf(family, {});
export const PLACE = { model, value: 6, temperatureC: 25 };
export const STEP = significantStep(family, model, PLACE);
export const PRIOR = family.prior(STEP);

export const between = (dice: Chance, from: number, to: number) => from + (to - from) * dice.uniform();
export const sign = (dice: Chance) => (dice.uniform() < 0.5 ? -1 : 1);

/** What a two-point calibration makes of two readings. */
function twoPoints(readings: readonly [number, number], atMs: number): Observation {
  const span = K_25 * (BUFFERS[0] - BUFFERS[1]);
  const sensitivity = (readings[1] - readings[0]) / span;
  const [sdZero, sdSlope] = [READ_SD, (READ_SD * Math.SQRT2) / span];
  const found = { zero: readings[0], sensitivity };
  return {
    atMs,
    kind: 'calibration',
    found,
    covariance: [
      [sdZero ** 2, -(READ_SD ** 2) / span],
      [-(READ_SD ** 2) / span, sdSlope ** 2],
    ],
    inForceAfter: found,
    cleaned: false,
  };
}

/** Nine tenths of a step by a fast and a slow way, by bisection, s. */
function t90Of({
  fastSeconds,
  slowSeconds,
  slowShare,
}: {
  fastSeconds: number;
  slowSeconds: number;
  slowShare: number;
}) {
  let [low, high] = [0, 10 * slowSeconds];
  for (let i = 0; i < 40; i++) {
    const t = (low + high) / 2;
    const left = (1 - slowShare) * Math.exp(-t / fastSeconds) + slowShare * Math.exp(-t / slowSeconds);
    if (left > 0.1) low = t;
    else high = t;
  }
  return high;
}

/** The slope that an input of this insulation shows. */
export const seenSlope = (truth: BodyTruth, slope: number) => {
  const { megohm } = truth.electrodes['ph']!;
  const { insulationMohm } = truth.input;
  return Number.isFinite(insulationMohm) ? (slope * insulationMohm) / (insulationMohm + megohm) : slope;
};

/** The life that a body leads, and what befalls it when: one fault, or two at once. */
export function lifeOf(dice: Chance, truths: readonly Befallen[], seed: number) {
  const life = {
    ...SOUND,
    newZeroMv: 3 * dice.normal(),
    newSlope: between(dice, 0.955, 0.995),
    fastSeconds: between(dice, 3, 8),
    slowSeconds: between(dice, 15, 40),
    megohm: between(dice, 70, 220),
    wearPerDay: between(dice, 0.00002, 0.00008),
    wanderMv: between(dice, 0.6, 1.8),
  };
  const days = Array.from({ length: RUNS + 1 }, () => between(dice, 24, 40)).reduce<number[]>(
    (all, d) => [...all, (all.at(-1) ?? 40) + d],
    [],
  );
  const last = days[RUNS - 1]!;
  const befallen = truths.flatMap((truth) => {
    const dial = DIALS[truth];
    const worst = dial ? between(dice, dial.from, dial.to) : 0;
    const turned = truth === 'reference-contaminated' || truth === 'stray-voltage' ? sign(dice) : 1;
    const onset = dial?.sudden ? last - 1 : days[RUNS - (dice.uniform() < 0.5 ? 4 : 5)]!;
    const fault = FAULTS.find((f) => f.name === dial?.fault);
    return dial && fault ? [{ fault, sudden: dial.sudden, severity: turned * worst, onset }] : [];
  });
  const bodyAt = (day: number): BodyTruth =>
    befallen.reduce(
      (body, { fault, sudden, severity, onset }) => {
        const share = sudden ? Number(day > onset) : Math.min(1, Math.max(0, (day - onset) / (last - onset)));
        return share > 0 ? fault.on(body, severity * share, Infinity) : body;
      },
      phBodyAt(life, day, seed),
    );
  return { days: days.slice(0, RUNS), last, bodyAt };
}

export interface Timed {
  readonly observation: Observation;
  readonly timed: { readonly t90: number; readonly temperatureC: number };
}

/** A run in two bottles, of which one may be off, after somebody did something to the sensor or not. */
type RunOn = (day: number, offPh: number, deed?: Fault) => Timed;

/** @param which the bottle that is off, if one is */
export function runsOf(dice: Chance, bodyAt: (day: number) => BodyTruth, which: 0 | 1): RunOn {
  // What a refill leaves of a contamination: anything from nothing to all of it.
  const onWire = dice.uniform();
  return (day, off, deed) => {
    const was = bodyAt(day);
    const after = deed ? deed.on(was, 1, Infinity) : was;
    const contaminationMv =
      deed === DEEDS.refill ? onWire * was.reference.contaminationMv : after.reference.contaminationMv;
    const body = { ...after, reference: { ...after.reference, contaminationMv } };
    const { zeroMv, slope } = foundInBuffers(body, 'ph');
    const read = (k: 0 | 1) =>
      zeroMv - seenSlope(body, slope) * K_25 * (BUFFERS[k] + (k === which ? off : 0) - 7) + READ_SD * dice.normal();
    const temperatureC = between(dice, 17, 26);
    const t90 = t90Of(body.electrodes['ph']!) * DIRTY ** dice.normal() * Math.exp(0.027 * (25 - temperatureC));
    return { observation: twoPoints([read(0), read(1)], day * MS_PER_DAY), timed: { t90, temperatureC } };
  };
}
