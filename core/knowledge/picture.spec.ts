import { describe, expect, it } from 'vitest';
import { NO_FLEET } from '../drift/pool.ts';
import { marginOf } from '../drift/margin.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { chanceBeyond } from '../statistics/mixture.ts';
import { endedOn, fittedOf } from '../testing/a-house.ts';
import { dueOfLoop } from './due.ts';
import type { Finished } from './fitted.ts';
import { coneOf } from './history.ts';
import { HouseKnowledge } from './house.ts';
import { pictureOf, standApart } from './picture.ts';
import type { ConeBranch } from '../drift/cone.ts';

/** mV a pH at 25 °C, ICTNS: 2.302585 · 8.314463 · 298.15 / 96485.33. */
const K = 59.159;
const SLOPE = 0.97;
const fitted = fittedOf('a', { loop: { workingValue: 8, tolerance: 0.2, intervalDays: 400, dueBy: 'forecast' } });
const ms = (day: number) => day * MS_PER_DAY;
const at = (zero: number): Coefficients => ({ zero, sensitivity: SLOPE });

/** Calibrations on days, each put in force. */
const calibrated = (...runs: readonly (readonly [day: number, zero: number])[]) => runs.map(([day, zero]) => endedOn(fitted, day, at(zero))); // prettier-ignore
/** A grab sample that finds this zero, and changes nothing. */
const sampled = (day: number, zero: number, believed: number, more = {}) =>
  endedOn(fitted, day, at(zero), { kind: 'grab-sample', covariance: [[1, 0], [0, 1e-5]], inForceAfter: at(believed), ...more } as never); // prettier-ignore
const pictured = (outcomes: readonly Finished[], day: number, said = {}) => {
  const sorted = [...outcomes].sort((a, b) => Date.parse(a.endedAt) - Date.parse(b.endedAt));
  const house = new HouseKnowledge([fitted], sorted, [], { of: () => NO_FLEET });
  const { past, health } = pictureOf(fitted, house, said);
  const cone = coneOf(fitted, past, ms(day + 30));
  const plain = coneOf(fitted, house.pastOf(fitted), ms(day + 30));
  return { past, health, cone, now: cone.errorAt!(ms(day)), plain: plain.errorAt!(ms(day)) };
};
/** What is shown wrong in pH, by a zero that is so much higher than what is believed. */
const shownOff = (mV: number) => -mV / (SLOPE * K);

describe('the error is over all explanations', () => {
  const sound = calibrated([0, 0], [30, 0.3], [60, -0.2], [90, 0.1]);

  it('of a sound sensor hardly moves', () => {
    const { now, plain, health, cone } = pictured(sound, 100);
    expect(health!.sound).toBeGreaterThan(0.9);
    expect(now.mean).toBeCloseTo(plain.mean, 2);
    // A junction that nobody has looked at is blocked in one of fifty.
    expect(chanceBeyond(now, 0.2) - chanceBeyond(plain, 0.2)).toBeLessThan(0.025);
    expect(cone.branches[0]!.cause).toBeNull();
    expect(cone.branches.reduce((sum, b) => sum + b.chance, 0)).toBeCloseTo(1, 9);
  });

  it('a junction that samples see and buffers do not: the buffers agree, and the error at work is the sample’s', () => {
    const seen = [sampled(50, -12, 0.3), sampled(80, -12, -0.2)];
    const { now, plain, health, cone } = pictured([...sound, ...seen], 100);
    expect(health!.named!.id).toBe('junction-blocked');
    expect(Math.abs(plain.mean)).toBeLessThan(0.03);
    expect(now.mean).toBeCloseTo(shownOff(-12), 1);
    expect(cone.branches[0]).toMatchObject({ cause: 'junction-blocked' });
    const branch = cone.branches[0]!.errorAt(ms(100));
    // Prior 25 ± 14 steps of 0.59 mV, a sample of 1 mV and a scatter of 3 steps: by hand, 11.2 mV of the 12.
    expect(branch.mean).toBeCloseTo(shownOff(-12.1 + 0.05), 1);
    expect(chanceBeyond(now, 0.15)).toBeGreaterThan(0.8);
    // Whether the sample or the buffers came last.
    const after = pictured([...sound, sampled(95, -12, 0.1)], 100);
    expect(after.cone.branches[0]!.cause).toBe('junction-blocked');
    expect(after.now.mean).toBeCloseTo(branch.mean, 1);
    // Believed by the channel: set to the sample, the water is shown right.
    const set = pictured([...sound, sampled(95, -12, -12)], 100);
    expect(Math.abs(set.now.mean)).toBeLessThan(0.05);
  });

  it('a wrong bottle gives back what it took, and the adjustment that was made in it', () => {
    const jumped = calibrated([0, 0], [30, 0.3], [60, -0.2], [90, 0.1], [120, 12]);
    const { now, plain, health, cone } = pictured(jumped, 121);
    expect(health!.named!.id).toBe('standard-wrong');
    expect(Math.abs(plain.mean)).toBeLessThan(0.03);
    const bottle = cone.branches.find((b) => b.cause === 'standard-wrong')!;
    // The sensor stands at 0.1 mV as before, and the channel takes off 12.
    expect(bottle.errorAt(ms(121)).mean).toBeCloseTo(shownOff(0.1 - 12), 1);
    expect(Math.abs(now.mean)).toBeGreaterThan(0.5 * Math.abs(shownOff(12)));
    expect(marginOf(now, 0.1).state).toBe('outside');
    // A second bottle that undid it: the last run is believed again.
    const undone = pictured([...jumped, ...calibrated([122, 0.2])], 123);
    expect(Math.abs(undone.now.mean)).toBeLessThan(0.05);
    expect(undone.cone.branches.every((b) => b.cause !== 'standard-wrong' || b.chance < 0.5)).toBe(true);
  });

  it('is due by all of them', () => {
    const due = (outcomes: readonly Finished[]) => dueOfLoop(fitted, pictured(outcomes, 100).past).atMs!;
    const alone = due(sound);
    expect(alone).toBeGreaterThan(ms(120));
    expect(due([...sound, sampled(80, -14, -0.2)])).toBe(ms(90));
  });

  it('causes that runs see, and the water that has moved, leave the error as the runs say', () => {
    const falling = calibrated([0, 0], [30, -6], [60, -12], [90, -18]);
    const { now, plain, health } = pictured(falling, 100);
    expect(health!.named!.id).toBe('electrolyte-diluted');
    expect(now.mean).toBeCloseTo(plain.mean, 2);
    const moved = pictured(sound, 100, { readingMoved: { value: 30, sd: 1 }, twins: [{ value: 29, sd: 1 }] });
    expect(moved.health!.causes[0]!.cause.id).toBe('process-moved');
    expect(moved.now.mean).toBeCloseTo(moved.plain.mean, 1);
  });

  it('where nothing is written of a family, or no run was made, nothing is explained', () => {
    const none = new HouseKnowledge([fitted], [], [], { of: () => NO_FLEET });
    expect(pictureOf(fitted, none)).toMatchObject({ health: null });
    expect(pictureOf(fitted, none).past).not.toHaveProperty('explained');
    expect(coneOf(fitted, none.pastOf(fitted), 0).branches).toEqual([]);
  });
});

describe('ways that stand apart', () => {
  const way = (cause: string | null, chance: number, mean: number, sd: number) =>
    ({ cause, chance, sinceMs: null, errorAt: () => ({ mean, sd }) }) as unknown as ConeBranch;
  const ids = (...ways: ConeBranch[]) => standApart(ways, 0).map((b) => b.cause);

  it('are drawn each where they are likely and lie further apart than they are wide, and as one otherwise', () => {
    const junction = way('junction-blocked', 0.55, -0.2, 0.05);
    expect(ids(junction, way(null, 0.44, 0, 0.02))).toEqual(['junction-blocked', null]);
    // 0.2 apart, and 0.05 + 0.05 + 0.1 wide.
    expect(ids(junction, way(null, 0.44, 0, 0.1))).toEqual([]);
    expect(ids(junction, way(null, 0.05, 0, 0.02))).toEqual([]);
    expect(ids(junction)).toEqual([]);
  });
});
