import { Matrix, inverse } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { modelOf } from '../sensor/sensor.ts';
import { normalCdf } from '../statistics/normal.ts';
import { withFigures } from '../testing/with-figures.ts';
import { cone, coneAlong } from './cone.ts';
import { filtered } from './course.ts';
import { merged } from './branches.ts';
import { withoutEvidence } from './explained.ts';
import type { Observation, ServiceEvent } from './history.ts';
import { lookBacks } from './look-back.ts';
import { within } from './model-fleet.ts';
import { filteredAtPaces, pacesOf } from './pace.ts';
import { pastOf } from './past.ts';
import { ofFleet } from './pool.ts';
import { predictState } from './state.ts';
import { filteredTogether } from './together.ts';

/** What the engine makes of a history, against the same worked out with a general matrix library (ml-matrix) or by hand. */

const K25 = 59.159;
const STEP = 0.5916;
const working = { model: modelOf(familyOf('ph')), value: 8.1, temperatureC: 25 };
const calm = { jumpsPerYear: 0 };
const prior = { ...withFigures(PH_PRIOR, calm, calm), paceSd: 0, steadyShare: 0 };
const ms = (day: number) => day * MS_PER_DAY;
const run = (day: number, zero: number, sensitivity = 0.97, more: Partial<Observation> = {}): Observation => ({
  atMs: ms(day),
  kind: 'calibration',
  found: { zero, sensitivity },
  covariance: [
    [0.2, -0.0004],
    [-0.0004, 9e-6],
  ],
  inForceAfter: { zero, sensitivity },
  cleaned: false,
  ...more,
});
const sensor = (history: readonly Observation[], services: readonly ServiceEvent[] = []) => ({ prior, working, step: STEP, history, services }); // prettier-ignore

describe('two sensors in one water: one joint update, by matrices', () => {
  const [one, two] = [sensor([run(0, -1), run(40, -4, 0.965)]), sensor([run(10, 3, 0.98)])];
  const day = 50;
  const given = [{ signal: -66, temperatureC: 25 }, { signal: -57, temperatureC: 25 }]; // prettier-ignore

  it('gives each what the general formula gives, covariances and all', () => {
    const known = filteredTogether([one, two], [{ atMs: ms(day), given }]);
    const alone = [one, two].map((h) => predictState(filtered(h.history, prior).at(-1)!.state, prior, ms(day)).belief);
    // Zero, rate, sensitivity, rate and place of each; and the water.
    const n = 11;
    const mean = [...alone[0]!.mean, 0, ...alone[1]!.mean, 0, 0];
    const p = Matrix.zeros(n, n);
    alone.forEach(({ covariance }, i) => {
      for (let r = 0; r < 4; r++) for (let c = 0; c < 4; c++) p.set(5 * i + r, 5 * i + c, covariance[4 * r + c]!);
    });
    // 6 steps at first, and 0.3 of one a √day since its own first run: day 0 and day 10.
    [day, day - 10].forEach((days, i) => p.set(5 * i + 4, 5 * i + 4, STEP ** 2 * (36 + 0.09 * days)));
    const shown = given.map(({ signal }, i) => 7 - (signal - mean[5 * i]!) / (mean[5 * i + 2]! * K25));
    const h = Matrix.zeros(2, n);
    shown.forEach((value, i) => {
      const slope = mean[5 * i + 2]!;
      // A zero that is higher shows less; a slope that is steeper shows what lies off 7 further off.
      h.set(i, 5 * i, -1 / (slope * K25));
      h.set(i, 5 * i + 4, -1 / (slope * K25));
      h.set(i, 5 * i + 2, (value - 7) / slope);
      h.set(i, 10, 1);
    });
    const valueSteps = [0, 1].map((i) => STEP / (mean[5 * i + 2]! * K25));
    p.set(10, 10, (1e4 * Math.max(...valueSteps)) ** 2);
    mean[10] = (shown[0]! + shown[1]!) / 2;
    const r = Matrix.diag(valueSteps.map((s) => s ** 2));
    const gain = p.mmul(h.transpose()).mmul(inverse(h.mmul(p).mmul(h.transpose()).add(r)));
    // What is seen is the water and what is off about what each is believed to be.
    const off = Matrix.columnVector(shown.map((value) => value - mean[10]!));
    const moved = gain.mmul(off);
    const after = Matrix.sub(p, gain.mmul(h).mmul(p));
    known.forEach((list, i) => {
      const { mean: m, covariance } = list.at(-1)!.state.belief;
      const close = (a: number, b: number, what: string) => expect(Math.abs(a - b), what).toBeLessThan(1e-6 * Math.max(1e-3, Math.abs(b))); // prettier-ignore
      for (let k = 0; k < 4; k++) close(m[k]!, mean[5 * i + k]! + moved.get(5 * i + k, 0), `mean ${i} ${k}`);
      for (let a = 0; a < 4; a++)
        for (let b = 0; b < 4; b++) close(covariance[4 * a + b]!, after.get(5 * i + a, 5 * i + b), `covariance ${i} ${a} ${b}`); // prettier-ignore
      expect(list.at(-1)).toMatchObject({ observation: null, jumped: 0 });
    });
  });

  it('comparisons before all have begun, and those in which one shows nothing, are left out', () => {
    const lengths = (atMs: number, of = given) => filteredTogether([one, two], [{ atMs, given: of }]).map((k) => k.length); // prettier-ignore
    expect(lengths(ms(9))).toEqual([2, 1]);
    expect(lengths(ms(10))).toEqual([2, 1]);
    expect(lengths(ms(11))).toEqual([3, 2]);
    expect(lengths(ms(11), [given[0]!, { signal: NaN, temperatureC: 25 }])).toEqual([2, 1]);
  });

  it('hands make its place anybody’s guess again, and no other’s; a note does not', () => {
    const spread = (services: readonly ServiceEvent[]) => {
      const known = filteredTogether([one, sensor(two.history, services)], [{ atMs: ms(45), given }, { atMs: ms(50), given }]); // prettier-ignore
      return known.map((k) => k.at(-1)!.state.belief.covariance[0]!);
    };
    const before = spread([]);
    const asBefore = (services: readonly ServiceEvent[]) => spread(services).forEach((v, k) => expect(v).toBeCloseTo(before[k]!, 9)); // prettier-ignore
    asBefore([{ atMs: ms(47), kind: 'other' }]);
    const cleaned = spread([{ atMs: ms(47), kind: 'cleaned' }]);
    expect(cleaned[1]!).toBeGreaterThan(before[1]!);
    const changed = spread([{ atMs: ms(47), kind: 'tip replaced' }]);
    expect(changed[1]!).toBeGreaterThan(cleaned[1]!);
    // Of a sensor that was not yet there nothing is undone.
    asBefore([{ atMs: ms(5), kind: 'tip replaced' }]);
  });
});

describe('the error that is shown, by hand', () => {
  it('its spread is that of zero and slope together, with their covariance', () => {
    const { errorAt, marks, segments } = cone([run(0, 2)], prior, { ...working, rest: () => 0.03 }, ms(40));
    const at = errorAt!(ms(30));
    const { mean, covariance: c } = predictState(filtered([run(0, 2)], prior)[0]!.state, prior, ms(30)).belief;
    // Found 2 mV and 0.97, and in force: e = −Δz/(s k) + Δs (v − 7)/s.
    const [perZero, perSlope] = [-1 / (0.97 * K25), (8.1 - 7) / 0.97];
    expect(at.mean).toBeCloseTo(perZero * (mean[0]! - 2) + perSlope * (mean[2]! - 0.97), 6);
    const variance = perZero ** 2 * c[0]! + 2 * perZero * perSlope * c[2]! + perSlope ** 2 * c[10]!;
    expect(at.sd).toBeCloseTo(Math.hypot(Math.sqrt(variance), 0.03), 6);
    expect(at.half95).toBeCloseTo(1.959964 * at.sd, 6);
    // The first run was found against what the channel believed before: the ideal.
    expect(marks[0]!.error).toBeCloseTo(-2 / K25 + ((0.97 - 1) * 1.1) / 1, 6);
    const found = Math.sqrt((1 / K25) ** 2 * 0.2 + 2 * (-1 / K25) * 1.1 * -0.0004 + 1.1 ** 2 * 9e-6);
    expect(marks[0]!.sd).toBeCloseTo(Math.hypot(found, 0.03), 6);
    expect(segments).toHaveLength(1);
    expect(segments[0]!.points.map((p) => p.atMs / MS_PER_DAY)).toEqual(Array.from({ length: 13 }, (_, k) => (k * 40) / 12)); // prettier-ignore
  });

  it('what a zero has at work beyond its runs is in it, either way', () => {
    const lines = filteredAtPaces([run(0, 2)], prior);
    const way = (mean: number) => ({ cause: 'x', chance: 1, lines, beyond: [{ chance: 1, mean, sd: 0.5 }] });
    const by = (mean: number) => coneAlong(lines, working, ms(1), undefined, [], 0, undefined, [way(mean)]).errorAt!(ms(1)); // prettier-ignore
    const plain = cone([run(0, 2)], prior, working, ms(1)).errorAt!(ms(1));
    expect(by(10).mean - plain.mean).toBeCloseTo(-10 / (0.97 * K25), 5);
    expect(by(-10).mean - plain.mean).toBeCloseTo(10 / (0.97 * K25), 5);
    expect(by(10).sd).toBeCloseTo(Math.hypot(plain.sd, 0.5 / (0.97 * K25)), 5);
  });

  it('since it came to another instrument; runs on the very day are of before', () => {
    const history = [run(0, 2), run(30, 3)];
    const lines = filteredAtPaces(history, prior);
    const of = (atMs: number, inForce: { zero: number; sensitivity: number } | null = { zero: 0, sensitivity: 1 }) =>
      coneAlong(lines, working, ms(60), undefined, [], undefined, { atMs, inForce });
    expect(of(ms(30)).marks).toHaveLength(0);
    expect(of(ms(30)).segments.map((s) => s.fromMs)).toEqual([ms(30)]);
    expect(of(ms(29)).marks.map((m) => m.atMs)).toEqual([ms(30)]);
    expect(of(ms(40)).errorAt!(ms(41)).mean).toBeCloseTo(-3 / K25 - 0.03 * 1.1, 2);
    expect(of(ms(40), null)).toMatchObject({ errorAt: null, segments: [], branches: [] });
  });

  it('a run that says nothing leaves everything as it was, but for what it set', () => {
    const jumped = [run(0, 2), run(30, 14)];
    const [silent] = filteredAtPaces(
      withoutEvidence(jumped, (_, i) => i === 1),
      prior,
    );
    const before = predictState(filtered([run(0, 2)], prior)[0]!.state, prior, ms(30)).belief;
    const { belief } = silent!.known.at(-1)!.state;
    belief.mean.forEach((m, k) => expect(m).toBeCloseTo(before.mean[k]!, 5));
    expect(silent!.known.at(-1)!.observation.inForceAfter.zero).toBe(14);
    expect(withoutEvidence(jumped, () => false)).toEqual(jumped);
  });
});

describe('what was, from both ends', () => {
  it('the smoothed past lies between the runs, closer known than by the first alone; cleaned in between it is looser', () => {
    const history = [run(0, 0), run(30, 6), run(60, 5)];
    const past = pastOf(filtered(history, prior), prior);
    const alone = filtered([run(0, 0)], prior)[0]!;
    expect(past.map((p) => p.found.zero)).toEqual([0, 6, 5]);
    expect(past[1]!.known.zero).toBeGreaterThan(0);
    expect(past[1]!.known.zero).toBeLessThan(6);
    expect(past[0]!.known.zeroSd).toBeLessThan(Math.sqrt(alone.state.belief.covariance[0]!));
    const cleaned = pastOf(filtered(history, prior), prior, [{ atMs: ms(45), kind: 'cleaned' }]);
    expect(cleaned[1]!.known.zeroSd).toBeGreaterThan(past[1]!.known.zeroSd);
    expect(pastOf(filtered(history, prior), prior, [{ atMs: ms(30), kind: 'cleaned' }])[2]!.known.zeroSd).toBeCloseTo(past[2]!.known.zeroSd, 9); // prettier-ignore
  });

  it('looks back over the time in which it was outside, and no further', () => {
    const left = { inForceAfter: { zero: 0, sensitivity: 0.97 } };
    const history = [run(0, 0), run(30, 0.2, 0.97, left), run(60, 20, 0.97, left)];
    // 20 mV are 0.35 pH.
    const [back, ...more] = lookBacks(history, prior, working, 0.1, ms(61));
    expect(more).toEqual([]);
    expect(back!.fromMs).toBeGreaterThan(ms(30));
    expect(back!.fromMs).toBeLessThan(ms(55));
    expect(back!.toMs).toBe(ms(61));
    expect(back!.error).toBeCloseTo(-20 / (0.97 * K25), 1);
    expect(back!.course.every((c) => c.chanceOutside > 0.5)).toBe(true);
    // Looked at the moment of the run itself there is nothing since; put right, it ends there.
    expect(lookBacks(history, prior, working, 0.1, ms(60))[0]!.toMs).toBe(ms(60));
    const right = [run(0, 0), run(30, 0.2, 0.97, left), run(60, 20)];
    expect(lookBacks(right, prior, working, 0.1, ms(61))).toMatchObject([{ toMs: ms(60), foundMs: ms(60) }]);
    expect(lookBacks(right, prior, working, 0.5, ms(61))).toEqual([]);
    // At the end of what was found: by hand, the run alone and what it was expected to be.
    const last = lookBacks(right, prior, working, 0.1, ms(61))[0]!.course.at(-1)!;
    const { covariance: c, mean } = filtered(right, prior).at(-1)!.state.belief;
    const [perZero, perSlope] = [-1 / (0.97 * K25), 1.1 / 0.97];
    expect(last.sd).toBeCloseTo(Math.sqrt(perZero ** 2 * c[0]! + 2 * perZero * perSlope * c[2]! + perSlope ** 2 * c[10]!), 5); // prettier-ignore
    expect(last.mean).toBeCloseTo(perZero * mean[0]! + perSlope * (mean[2]! - 0.97), 4);
  });

  it('an error upwards is one too, as likely as a normal one is; a look at the run itself adds no time', () => {
    const left = { inForceAfter: { zero: 0, sensitivity: 0.97 } };
    const at = (zero: number, nowMs: number, end: Partial<Observation> = {}) =>
      lookBacks([run(0, 0), run(30, 0, 0.97, left), run(60, zero, 0.97, end)], prior, working, 0.1, nowMs);
    for (const zero of [20, -20]) {
      const { course } = at(zero, ms(61))[0]!;
      course.forEach((c) => expect(c.chanceOutside).toBeCloseTo(normalCdf((Math.abs(c.mean) - 0.1) / c.sd), 3));
      expect(course[0]!.chanceOutside).toBeLessThan(0.99);
    }
    const { course } = at(20, ms(60), left)[0]!;
    expect(new Set(course.map((c) => c.atMs)).size).toBe(course.length);
  });

  it('what hands did counts in the time in which they did it', () => {
    const left = { inForceAfter: { zero: 0, sensitivity: 0.97 } };
    const history = [run(0, 0), run(30, 0.2, 0.97, left), run(60, 20)];
    const sds = (services: readonly ServiceEvent[]) =>
      lookBacks(history, prior, working, 0.1, ms(61), undefined, services)[0]!.course.map((c) => c.sd);
    const cleaned = (day: number): ServiceEvent[] => [{ atMs: ms(day), kind: 'cleaned' }];
    const plain = sds([]);
    sds(cleaned(60.5)).forEach((sd, k) => expect(sd).toBeCloseTo(plain[k]!, 9));
    sds(cleaned(10)).forEach((sd, k) => expect(sd / plain[k]!).toBeCloseTo(1, 1));

    const known = (given: readonly Observation[], services: readonly ServiceEvent[] = []) =>
      pastOf(filtered(given, prior, services), prior, services).map((p) => p.known.zeroSd);
    const runs = [run(0, 0), run(30, 6), run(60, 5)];
    const just = known(runs, cleaned(29.9999));
    known(runs, cleaned(30)).forEach((sd, k) => expect(sd).toBeCloseTo(just[k]!, 4));
    known([runs[0]!, run(30, 6, 0.97, { cleaned: true }), runs[2]!]).forEach((sd, k) => expect(sd).toBeCloseTo(just[k]!, 4)); // prettier-ignore
    expect(just[0]!).toBeGreaterThan(known(runs)[0]! + 1e-4);
  });
});

describe('what a prior becomes', () => {
  it('at a pace: rates and their spread as many times, memory so much shorter, a walk by the root', () => {
    const [slow, fast] = pacesOf({ ...PH_PRIOR, paceSd: 0.5, steadyShare: 0 });
    const by = Math.exp(0.5);
    for (const figure of ['zero', 'sensitivity'] as const) {
      const { walk, rate, rateSd, firstRate, firstRateSd, memoryDays, ...same } = PH_PRIOR[figure];
      const its = [walk * Math.sqrt(by), rate * by, rateSd * by, firstRate * by, firstRateSd * by, memoryDays / by];
      const f = fast!.prior[figure];
      [f.walk, f.rate, f.rateSd, f.firstRate, f.firstRateSd, f.memoryDays].forEach((v, k) => expect(v).toBeCloseTo(its[k]!, 9)); // prettier-ignore
      expect(f).toMatchObject(same);
      expect(slow!.prior[figure].memoryDays).toBeCloseTo(memoryDays * by, 9);
    }
    expect([slow!.chance, fast!.chance, fast!.prior.paceSd]).toEqual([0.5, 0.5, 0]);
    expect(pacesOf(prior)).toEqual([{ chance: 1, prior }]);
    expect(filteredAtPaces([], { ...PH_PRIOR, paceSd: 0.5, steadyShare: 0.2 }).map((p) => p.log)).toEqual(
      [0.4, 0.4, 0.2].map(Math.log),
    );
  });

  it('in a house, and of a model in it: one after the other is both at once', () => {
    const figure = (k: number) => ({ walk: 1 + k, rateSd: 2 - k, memory: 0.5 + k, jumps: 3 * k, jumpSize: 1.5 - k, firstSpread: 0.7 + k, rate: k, first: -2 * k, cleaned: k, cleanedSpread: 2 + k }); // prettier-ignore
    const fleet = (k: number) => ({ zero: figure(k), sensitivity: figure(k + 0.1), pace: 1 + k, sensors: 7, runs: 40 });
    const [house, model] = [fleet(0.2), fleet(0.35)];
    const [stepwise, atOnce] = [ofFleet(ofFleet(PH_PRIOR, house), model), ofFleet(PH_PRIOR, within(house, model))];
    for (const name of ['zero', 'sensitivity'] as const)
      for (const [key, value] of Object.entries(stepwise[name])) expect(atOnce[name]).toHaveProperty(key, expect.closeTo(value as number, 9)); // prettier-ignore
    expect(atOnce.paceSd).toBeCloseTo(PH_PRIOR.paceSd * 1.2 * 1.35, 12);
    const { zero } = ofFleet(PH_PRIOR, house);
    expect(zero.jumpsPerYear).toBeCloseTo(PH_PRIOR.zero.jumpsPerYear * 0.6, 12);
    expect(zero.jumpSd).toBeCloseTo(PH_PRIOR.zero.jumpSd * 1.3, 12);
    expect(zero.rate).toBeCloseTo(PH_PRIOR.zero.rate + 0.2 * PH_PRIOR.zero.rateSd, 12);
    expect(zero.firstRate).toBeCloseTo(PH_PRIOR.zero.firstRate - 0.4 * PH_PRIOR.zero.rateSd, 12);
  });

  it('several beliefs become one with their mean and covariance', () => {
    const of = (chance: number, mean: number[], covariance: number[]) => ({ chance, belief: { mean, covariance } });
    const one = merged([of(0.25, [0, 4], [1, 0.2, 0.2, 2]), of(0.75, [8, 0], [3, -0.4, -0.4, 1])]);
    // By hand: the mean of the covariances, and the covariance of the means.
    expect(one.mean).toEqual([6, 1]);
    const around = 0.25 * 0.75;
    [2.5 + around * 64, -0.25 - around * 32, -0.25 - around * 32, 1.25 + around * 16].forEach((c, k) =>
      expect(one.covariance[k]!).toBeCloseTo(c, 12),
    );
  });
});
