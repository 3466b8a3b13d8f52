import { describe, expect, it } from 'vitest';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { usualPrior } from '../sensor/prior.ts';
import { seededChance } from '../statistics/chance.ts';
import { PH_PRIOR } from '../families/ph/prior.ts';
import { carried, filtered } from './course.ts';
import { parametersIn } from './error-from.ts';
import type { Observation, ServiceEvent } from './history.ts';
import { NO_FLEET, ofFleet, withCleanings } from './pool.ts';
import { nextTime } from './taught.ts';

const SEED = 20_261_205;
/** A cell of 53 mS/cm that loses 97 µS between two cleanings: parts of its gain. */
const LOST = 97 / 53_000;
const CELL = usualPrior(30);
const SD = 0.0004;

const found = (day: number, zero: number, sensitivity: number, cleaned = false): Observation => ({
  atMs: day * MS_PER_DAY,
  kind: 'calibration',
  found: { zero, sensitivity },
  covariance: [
    [0.25, 0],
    [0, SD ** 2],
  ],
  inForceAfter: { zero, sensitivity },
  cleaned,
});
const wiped = (day: number): ServiceEvent => ({ atMs: day * MS_PER_DAY, kind: 'cleaned' });
const expectedOn = (day: number, history: readonly Observation[], services: readonly ServiceEvent[], prior = CELL) =>
  parametersIn(carried(filtered(history, prior, services).at(-1)!.state, prior, services, day * MS_PER_DAY));

describe(`what cleanings and new tips have taught (seed ${SEED})`, () => {
  it('a figure that nothing is known of is as it was said beforehand; one that came twice leans on it; by hand', () => {
    const prior = { value: 1, sd: 4 };
    expect(nextTime({ times: 0, mean: 0, squares: 0 }, prior)).toBe(prior);
    // Twice, 9 and 11: mean 10, squares 2. A fifth is left of what was believed; spread (2·16 + 2)/3, and a fifth of 9.
    const twice = nextTime({ times: 2, mean: 10, squares: 2 }, prior);
    expect(twice.value).toBeCloseTo(10 - 9 / 5, 12);
    expect(twice.sd).toBeCloseTo(Math.sqrt(34 / 3 + 1.8 ** 2), 12);
  });

  it('a cell that came back twice when it was cleaned is expected to come back, and one that was never cleaned is not', () => {
    // It is read before and after each cleaning.
    const history = [
      found(0, 0, 1),
      found(100, 0, 1 - LOST),
      found(101, 0, 1),
      found(200, 0, 1 - LOST),
      found(201, 0, 1),
      found(300, 0, 1 - LOST),
    ];
    const services = [wiped(100.5), wiped(200.5)];
    const before = expectedOn(300.4, history, services);
    const after = expectedOn(301, history, [...services, wiped(300.5)]);
    expect((after.sensitivity - before.sensitivity) / LOST).toBeGreaterThan(0.7);
    expect((after.sensitivity - before.sensitivity) / LOST).toBeLessThan(1);
    const first = expectedOn(300.6, [found(0, 0, 1), found(300, 0, 1 - LOST)], [wiped(300.5)]);
    expect(Math.abs(first.sensitivity - (1 - LOST)) / LOST).toBeLessThan(0.2);
  });

  it('cells that foul and are cleaned: what is expected after a cleaning holds what comes as often as it says, and is nearer', () => {
    const dice = seededChance(SEED);
    let [held, near, nearWithout] = [0, 0, 0];
    const n = 400;
    for (let i = 0; i < n; i++) {
      // Not the engine's: dirt grows with a power of time, and a wipe takes a share of it that differs from one to the next.
      const [size, power] = [0.004 + 0.004 * dice.uniform(), 0.6 + 0.8 * dice.uniform()];
      const history: Observation[] = [];
      const services: ServiceEvent[] = [];
      let [dirt, day] = [0, 0];
      const read = () => history.push(found(day, 0.3 * dice.normal(), 1 - dirt + SD * dice.normal()));
      for (let k = 0; k < 4; k++) {
        read();
        const days = 60 + 60 * dice.uniform();
        dirt += size * (days / 90) ** power;
        day += days;
        read();
        dirt *= 0.3 * dice.uniform();
        services.push(wiped(day + 0.5));
        day += 1;
      }
      const said = expectedOn(day, history, services);
      const without = expectedOn(day, history, services.slice(0, -1));
      held += Number(Math.abs(said.sensitivity - (1 - dirt)) < 1.96 * said.sensitivitySd);
      near += (said.sensitivity - (1 - dirt)) ** 2;
      nearWithout += (without.sensitivity - (1 - dirt)) ** 2;
    }
    expect(held / n).toBeGreaterThan(0.95);
    expect(Math.sqrt(near / nearWithout)).toBeLessThan(0.5);
  });

  it('one that nothing stuck to is as well known after a wipe as before, when that was seen three times', () => {
    const days = [0, 30, 60, 90, 120];
    const history = days.map((d) => found(d, 0, 1));
    const sdAfter = (wipes: readonly number[]) => expectedOn(121, history, wipes.map(wiped)).zeroSd;
    const [never, first, fourth] = [sdAfter([]), sdAfter([120.5]), sdAfter([20, 50, 80, 120.5])];
    expect((fourth - never) / (first - never)).toBeLessThan(0.75);
  });

  it('new tips of a kind that begins elsewhere are expected there; a cleaning beside one teaches nothing of cleanings', () => {
    const tips = [30, 60, 90].map((d): ServiceEvent => ({ atMs: (d - 1) * MS_PER_DAY, kind: 'tip replaced' }));
    const history = [found(0, 9, 0.97), found(30, 10, 0.97), found(60, 11, 0.97), found(90, 10, 0.97)];
    const next: ServiceEvent = { atMs: 100 * MS_PER_DAY, kind: 'tip replaced' };
    const then = expectedOn(101, history, [...tips, next], PH_PRIOR);
    expect(then.zero).toBeGreaterThan(8);
    expect(then.zeroSd).toBeLessThan(0.8 * PH_PRIOR.zero.sd);
    const both = history.slice(1).flatMap((o): ServiceEvent[] => [
      { atMs: o.atMs - MS_PER_DAY, kind: 'tip replaced' },
      { atMs: o.atMs - MS_PER_DAY / 2, kind: 'cleaned' },
    ]);
    const { lessons } = filtered(history, PH_PRIOR, both).at(-1)!.state;
    expect([lessons!.cleaned[0].times, lessons!.renewed[0].times]).toEqual([0, 3]);
  });

  it('what cleanings did to the siblings is expected of one that was never cleaned, as far as they agree', () => {
    const member = (back: number) => ({
      prior: CELL,
      history: [found(0, 0, 1), found(100, 0, 1 - back), found(101, 0, 1)],
      services: [wiped(100.5)],
    });
    const fleet = withCleanings({ ...NO_FLEET, sensors: 6, runs: 18 }, [0.03, 0.034, 0.028, 0.031, 0.03, 0.033].map(member)); // prettier-ignore
    const prior = ofFleet(CELL, fleet);
    // Six of eight, the other two being what is known beforehand.
    expect(prior.sensitivity.cleanedBy / 0.031).toBeCloseTo(6 / 8, 1);
    expect(prior.zero.cleanedBy).toBeCloseTo(0, 1);
    const differing = withCleanings({ ...NO_FLEET, sensors: 4, runs: 12 }, [0.06, -0.06, 0.07, -0.05].map(member));
    expect(ofFleet(CELL, differing).sensitivity.cleanedSd).toBeGreaterThan(1.5 * CELL.sensitivity.cleanedSd);
  });
});
