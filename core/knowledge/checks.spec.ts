import { describe, expect, it } from 'vitest';
import type { RunOutcome } from '../calibration/outcome.ts';
import type { PastRun } from '../drift/past.ts';
import { fellowsOf, movedNow, sampleOffOf } from './checks.ts';
import type { Fitted } from './fitted.ts';

const STEP = 0.59;
const DAY_MS = 86_400_000;
const NOW = Date.parse('2026-11-25T12:00:00Z');

const ended = (day: number, outcome: Partial<RunOutcome>) => ({
  endedAt: new Date(NOW - day * DAY_MS).toISOString(),
  outcome: {
    kind: 'calibration',
    covariance: [
      [0.25, 0],
      [0, 1e-6],
    ],
    ...outcome,
  } as RunOutcome,
});
const bottle = (lotId: string, signal: number, standard = '10.01') => ({
  lotId,
  label: lotId,
  standard,
  signal,
  sd: 0.4,
});
const known = { zero: -2, zeroSd: 0.3, sensitivity: 0.97, sensitivitySd: 0.004 };
const past: PastRun[] = [{ atMs: NOW - 20 * DAY_MS, found: known, known, standardised: [0, 0], jumped: 0 }];

const fitted = {
  siteName: 'Tidewater House',
  sensor: { id: 'a', fittedMs: null },
  loop: {
    family: 'ph',
    settings: {},
    workingValue: 7.2,
    workingC: 21,
    tolerance: 0.15,
    place: 'Plant room',
  },
  channel: { reads: { unit: 'mV' } },
} as unknown as Fitted;

/** A week of readings every ten minutes, oldest first. `of` gives each by its moment and by how many came after it. */
const week = (of: (ms: number, i: number) => number) =>
  Array.from({ length: 7 * 144 }, (_, i) => {
    const ms = NOW - (i + 1) * 600_000;
    const mean = of(ms, i);
    const minute = new Date(ms).toISOString();
    return { channelId: '', minute, count: 60, mean, low: mean, high: mean, temperatureC: 21, onBench: false };
  }).reverse();

describe('what is known beside a sensor’s own runs', () => {
  it('a sample that reads 8 mV beside the standards is 8 / 0.59 steps off; without standards before it, it says nothing', () => {
    const sample = ended(3, { kind: 'grab-sample', coefficients: { zero: 6, sensitivity: 0.97 } });
    const off = sampleOffOf([ended(20, {}), sample], past, STEP)!;
    expect(off.value).toBeCloseTo(8 / 0.59, 6);
    // √(0.25 + 0.09) mV
    expect(off.sd).toBeCloseTo(0.5831 / 0.59, 3);
    expect(sampleOffOf([sample], [], STEP)).toBeNull();
    // Cleaned since: what the sample saw is gone.
    expect(sampleOffOf([ended(20, {}), sample, ended(1, { cleaned: true })], past, STEP)).toBeNull();
    expect(sampleOffOf([ended(20, {})], past, STEP)).toBeNull();
  });

  it('compares what others gave in the bottle that came new; a bottle of before says nothing', () => {
    const mine = [ended(40, { bottles: [bottle('old', -170)] }), ended(5, { bottles: [bottle('new', -152)] })];
    const other = (lot: string, signal: number) => ({
      step: STEP,
      finished: [ended(44, { bottles: [bottle('old', -166)] }), ended(6, { bottles: [bottle(lot, signal)] })],
    });
    const made = fellowsOf(mine, [other('new', -149), other('third', -150), other('old', -150)], STEP)!;
    expect(made.mine.value).toBeCloseTo(18 / 0.59, 6);
    expect(made.others.map((f) => f.value)).toEqual([expect.closeTo(17 / 0.59, 6)]);
    expect(fellowsOf([mine[0]!, mine[0]!], [other('new', -149)], STEP)).toBeUndefined();
  });

  it('holds what it reads now against the same hours of the days before', () => {
    const minutes = week((ms, i) => {
      // A day's swing of 12 mV, and today 10 mV more.
      const swing = 12 * Math.sin((2 * Math.PI * (ms % DAY_MS)) / DAY_MS);
      return -10 + swing + (i < 12 ? 10 : 0);
    });
    const inForce = () => ({ zero: 0, sensitivity: 1 });
    const live = Array.from({ length: 20 }, () => ({ signal: 0, temperatureC: 21 }));
    // Within three hours of noon the swing goes from 8.5 to −8.5 mV about its middle: its median is 0.
    expect(Math.abs(movedNow(fitted, minutes, live, NOW - DAY_MS, inForce, NOW)!.value - 10 / 0.59)).toBeLessThan(1.5);
    expect(movedNow(fitted, minutes, [], -Infinity, inForce, NOW - 3 * DAY_MS)!.value).toBeCloseTo(0, -1);
    // It came back to its water this minute: what the cups gave is no reading of the water.
    expect(movedNow(fitted, minutes, [], NOW, inForce, NOW)).toBeNull();
    expect(movedNow(fitted, minutes.slice(-4), live, NOW - DAY_MS, inForce, NOW)).toBeNull();
  });

  it('a channel that shows pH and was adjusted meanwhile has not moved', () => {
    const showsPh = { ...fitted, channel: { reads: { unit: 'pH' } } } as unknown as Fitted;
    // It shows 7.20 by −2 mV and 97 %, and the same potential as 7.10 since it reckons with −2 + 0.1 · 0.97 · 58.4 mV less.
    const then = { zero: -2, sensitivity: 0.97 };
    const now = { zero: -2 - 0.1 * 0.97 * 58.37, sensitivity: 0.97 };
    const adjustedMs = NOW - DAY_MS / 4;
    const minutes = week((ms) => (ms < adjustedMs ? 7.2 : 7.1));
    const live = Array.from({ length: 20 }, () => ({ signal: 7.1, temperatureC: 21 }));
    const inForceAt = (ms: number) => (ms < adjustedMs ? then : now);
    expect(Math.abs(movedNow(showsPh, minutes, live, -Infinity, inForceAt, NOW)!.value)).toBeLessThan(0.2);
    expect(Math.abs(movedNow(showsPh, minutes, live, -Infinity, () => now, NOW)!.value)).toBeGreaterThan(8);
  });
});
