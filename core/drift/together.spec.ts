import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { seededChance } from '../statistics/chance.ts';
import { median } from '../statistics/robust.ts';
import { cone, coneAlong } from './cone.ts';
import { filtered } from './course.ts';
import { type Observation } from './history.ts';
import { atLikeliestPace } from './pace.ts';
import { filteredTogether, weekly, type Comparison, type CoLocatedSensor } from './together.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';

const working = { model: modelOf(familyOf('ph')), value: 8.1, temperatureC: 25 };
const STEP_MV = 0.5916;
/** mV a pH at 25 °C, as handbooks print it: nothing of the core's own formula. */
const K25 = 59.16;

const run = (day: number, zero: number, sensitivity = 0.97, adjusted = true): Observation => ({
  atMs: day * MS_PER_DAY,
  kind: adjusted ? 'calibration' : 'verification',
  found: { zero, sensitivity },
  covariance: [
    [0.2, 0],
    [0, 9e-6],
  ],
  inForceAfter: adjusted ? { zero, sensitivity } : { zero: 0, sensitivity: 0.97 },
  cleaned: false,
});

const sensor = (history: readonly Observation[], services: CoLocatedSensor['services'] = []): CoLocatedSensor => ({
  prior: PH_PRIOR,
  working,
  step: STEP_MV,
  history,
  services,
});

/** What glass of this zero gives in water of this pH. */
const gives = (zero: number, pH: number, sensitivity = 0.97) => ({
  signal: zero - sensitivity * K25 * (pH - 7),
  temperatureC: 25,
});

const errorAfter = (known: ReturnType<typeof filteredTogether>[number], h: CoLocatedSensor, day: number) =>
  coneAlong(
    [{ prior: h.prior, known, chances: known.map(() => 1) }],
    h.working,
    day * MS_PER_DAY,
    undefined,
    h.services,
  ).errorAt!(day * MS_PER_DAY);

describe('sensors in the same water', () => {
  const main = sensor(
    [run(0, -1), run(40, -4, 0.968), run(75, 9, 0.965)],
    [{ atMs: 50 * MS_PER_DAY, kind: 'refilled' }],
  );
  const backup = sensor([run(10, 3), run(60, 4.5, 0.972, false)], [{ atMs: 70 * MS_PER_DAY, kind: 'cleaned' }]);

  it('without a comparison each is known as if it were alone', () => {
    const together = filteredTogether([main, backup], []);
    [main, backup].forEach((h, i) => {
      const alone = filtered(h.history, h.prior, h.services);
      expect(together[i]!.length).toBe(alone.length);
      alone.forEach(({ state, jumped }, k) => {
        const known = together[i]![k]!;
        expect(known.state.atMs).toBe(state.atMs);
        expect(known.jumped).toBeCloseTo(jumped, 9);
        known.state.belief.mean.forEach((m, j) => expect(m).toBeCloseTo(state.belief.mean[j]!, 9));
        known.state.belief.covariance.forEach((c, j) => expect(c).toBeCloseTo(state.belief.covariance[j]!, 9));
      });
    });
  });

  it('a week is the mean of its days, and ends at a run', () => {
    const on = (day: number, signal: number): Comparison => ({
      atMs: day * MS_PER_DAY,
      given: [{ signal, temperatureC: 20 + day }],
    });
    const days = [on(0.5, 1), on(1.5, 3), on(3.5, 11), on(7.5, 20)];
    const signals = (breaks: readonly number[]) => weekly(days, breaks).map((c) => c.given[0]!.signal);
    expect(signals([])).toEqual([5, 20]);
    expect(signals([2.2 * MS_PER_DAY])).toEqual([2, 11, 20]);
    expect(weekly(days, [2.2 * MS_PER_DAY])[0]).toMatchObject({ atMs: MS_PER_DAY, given: [{ temperatureC: 21 }] });
  });

  it('one that has jumped since its last run is found out by the other, which has just been calibrated', () => {
    const [old, fresh] = [sensor([run(0, 2), run(5, 2)]), sensor([run(0, -3), run(5, -3), run(60, -3)])];
    const weeks = Array.from({ length: 12 }, (_, w) => 7 * (w + 1));
    // By 12 mV, which is 0.2 pH, on day 62.
    const compared = weeks.map((day): Comparison => {
      const pH = 8.1 + 0.08 * Math.sin(day);
      return { atMs: day * MS_PER_DAY, given: [gives(day > 62 ? 14 : 2, pH), gives(-3, pH)] };
    });
    const [known, other] = filteredTogether([old, fresh], compared);
    const alone = cone(old.history, PH_PRIOR, working, 84 * MS_PER_DAY).errorAt!(84 * MS_PER_DAY);
    const now = errorAfter(known!, old, 84);
    // 12 mV more is 0.21 pH less.
    expect(Math.abs(alone.mean)).toBeLessThan(0.01);
    expect(now.mean).toBeLessThan(-0.12);
    expect(now.mean - now.half95).toBeLessThan(-0.209);
    expect(Math.abs(errorAfter(other!, fresh, 84).mean)).toBeLessThan(0.07);
    expect(Math.max(...known!.map((k) => k.jumped))).toBeGreaterThan(0.5);
  });

  it('a junction that clogs in one alone is taken for what only shows in the water, not for an error of its sound fellow', () => {
    const runs = (zero: number) => [0, 40, 80, 120].map((day) => run(day, zero));
    const [sound, clogging] = [sensor(runs(-2)), sensor(runs(3))];
    const compared = Array.from({ length: 17 }, (_, w): Comparison => {
      const day = 7 * (w + 1);
      return { atMs: day * MS_PER_DAY, given: [gives(-2, 8.1), gives(3 + 0.09 * day, 8.1)] };
    });
    const known = filteredTogether([sound, clogging], compared);
    // 11 mV by then, 0.18 pH.
    const now = errorAfter(known[0]!, sound, 121);
    expect(Math.abs(now.mean)).toBeLessThan(0.02);
    const before = errorAfter(
      known[0]!.filter((k) => k.state.atMs < 120 * MS_PER_DAY),
      sound,
      119,
    );
    expect(Math.abs(before.mean)).toBeLessThan(before.half95);
    expect(Math.abs(before.mean)).toBeLessThan(0.06);
  });

  it('pairs that drift and jump by themselves: the bands hold what they say and are narrower than alone', () => {
    const seed = 20261126;
    const dice = seededChance(seed);
    const widths: number[] = [];
    let held = 0;
    const squares = { together: 0, alone: 0 };
    const pairs = 250;
    for (let p = 0; p < pairs; p++) {
      const courses = [0, 1].map(() => {
        const start = 5 * dice.normal();
        const [far, tau] = [5 * dice.normal(), 100 * Math.exp(0.4 * dice.normal())];
        const [jumpDay, jump] = [400 * dice.uniform(), 6 * dice.normal()];
        const place = 1.5 * dice.normal();
        const zero = (day: number) => start + far * (1 - Math.exp(-day / tau)) + (day > jumpDay ? jump : 0);
        const runs = [0, 45, 90, 135]
          .map((day) => day + 30 * dice.uniform())
          .map((day) => run(day, zero(day) + 0.45 * dice.normal(), 0.97 + 0.003 * dice.normal()));
        const own = sensor(runs);
        return { zero, place, sensor: { ...own, prior: atLikeliestPace(PH_PRIOR, runs) } };
      });
      const nowDay = 190;
      const compared: Comparison[] = [];
      for (let day = 3; day < nowDay; day += 7) {
        const pH = 8.1 + 0.1 * dice.normal();
        compared.push({
          atMs: day * MS_PER_DAY,
          given: courses.map((c) => gives(c.zero(day) + c.place + 0.3 * dice.normal(), pH)),
        });
      }
      const [one] = courses;
      const known = filteredTogether(
        courses.map((c) => c.sensor),
        compared,
      )[0]!;
      const now = errorAfter(known, one!.sensor, nowDay);
      const alone = cone(one!.sensor.history, PH_PRIOR, working, 0).errorAt!(nowDay * MS_PER_DAY);
      const { zero: believed, sensitivity } = one!.sensor.history.at(-1)!.inForceAfter;
      const truth = (believed - one!.zero(nowDay) + (0.97 - sensitivity) * K25 * 1.1) / (sensitivity * K25);
      if (Math.abs(truth - now.mean) <= now.half95) held++;
      widths.push(now.half95 / alone.half95);
      squares.together += (truth - now.mean) ** 2;
      squares.alone += (truth - alone.mean) ** 2;
    }
    expect(squares.together / squares.alone, `seed ${seed}`).toBeLessThan(0.75);
    expect(held / pairs, `seed ${seed}`).toBeGreaterThan(0.92);
    expect(median(widths), `seed ${seed}`).toBeLessThan(0.96);
  });
});
