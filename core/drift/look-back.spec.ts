import { describe, expect, it } from 'vitest';
import { significantStep } from '../calibration/plan.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { type Observation } from './history.ts';
import { lookBacks } from './look-back.ts';

const family = familyOf('ph');
const model = modelOf(family, {});
const working = { model, value: 7, temperatureC: 25 };
const prior = family.prior(significantStep(family, model, working));
const TOLERANCE = 0.1;

/** A calibration that finds this zero, mV; 59.16 mV are a pH, so 5.9 mV of zero are 0.1 pH. */
const run = (day: number, zero: number, adjusts = true, before = zero): Observation => ({
  atMs: day * MS_PER_DAY,
  kind: 'calibration',
  found: { zero, sensitivity: 0.98 },
  covariance: [
    [0.16, 0],
    [0, 4e-6],
  ],
  inForceAfter: { zero: adjusts ? zero : before, sensitivity: 0.98 },
  cleaned: false,
});
const days = (ms: number) => ms / MS_PER_DAY;

describe('look-back', () => {
  it('shades the time before a run that found it outside, from about where it crossed the rail', () => {
    // 12 mV in 40 days are 0.207 pH; the rail of 0.1 pH is crossed about half way.
    const [one, ...more] = lookBacks([run(0, 0), run(40, 12)], prior, working, TOLERANCE, 41 * MS_PER_DAY);
    expect(more).toEqual([]);
    expect(one!.foundMs).toBe(40 * MS_PER_DAY);
    expect(days(one!.fromMs)).toBeGreaterThan(14);
    expect(days(one!.fromMs)).toBeLessThan(26);
    expect(days(one!.toMs)).toBe(40);
    // What the run found, drawn a little toward what was expected of it.
    expect(Math.abs(one!.error)).toBeGreaterThan(0.19);
    expect(Math.abs(one!.error)).toBeLessThan(0.212);
    // In the middle of the time it is less well known than at the run.
    expect(one!.course[0]!.sd).toBeGreaterThan(one!.course.at(-1)!.sd);
    expect(one!.course.every((c) => c.chanceOutside > 0.5)).toBe(true);
  });

  it('says nothing of runs that found it inside, and nothing of the time before the first run', () => {
    expect(lookBacks([run(0, 25), run(30, 26), run(60, 24)], prior, working, TOLERANCE, 70 * MS_PER_DAY)).toEqual([]);
    expect(lookBacks([], prior, working, TOLERANCE, 0)).toEqual([]);
  });

  it('is open while nobody has put it right, and shut once somebody has', () => {
    const left = [run(0, 0), run(30, 10, false, 0)];
    // Found outside twice and left both times: one stretch without a break.
    const [open, ...more] = lookBacks(left, prior, working, TOLERANCE, 35 * MS_PER_DAY);
    expect(more).toEqual([]);
    expect(open!.foundMs).toBeNull();
    expect(days(open!.fromMs)).toBeLessThan(25);
    expect(days(open!.toMs)).toBe(35);
    const times = open!.course.map((c) => c.atMs);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    const [shut] = lookBacks([...left, run(36, 10.5)], prior, working, TOLERANCE, 40 * MS_PER_DAY);
    expect(shut!.foundMs).toBe(36 * MS_PER_DAY);
    expect(shut!.fromMs).toBe(open!.fromMs);
  });

  it('a jump may have been at any moment: its time begins about half way, and is less sure there', () => {
    const calm = [0, 30, 60, 90].map((d) => run(d, 0.2));
    const [one] = lookBacks([...calm, run(120, 20)], prior, working, TOLERANCE, 121 * MS_PER_DAY);
    expect(days(one!.fromMs)).toBeGreaterThan(90);
    expect(days(one!.fromMs)).toBeLessThan(110);
    expect(one!.course[0]!.sd).toBeGreaterThan(4 * one!.course.at(-1)!.sd);
  });
});
