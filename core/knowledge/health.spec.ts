import { describe, expect, it } from 'vitest';
import type { RunOutcome } from '../calibration/outcome.ts';
import type { ServiceEvent } from '../drift/history.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { dueOfLoop } from './due.ts';
import type { Fitted } from './fitted.ts';
import { healthOf, serviceSaid, untested } from './health.ts';
import { HouseKnowledge } from './house.ts';

const WORKING: Readonly<Record<string, [value: number, settings: object]>> = {
  ph: [6, {}],
  conductivity: [1850, { cellConstant: 1, alpha: 2 }],
};

/** A house of one sensor with runs every 30 days, and what was done to it on a day. */
function houseOf(
  family: 'ph' | 'conductivity',
  found: readonly (readonly [zero: number, sensitivity: number])[],
  services: readonly ServiceEvent[] = [],
  cleaned: readonly number[] = [],
) {
  const [workingValue, settings] = WORKING[family]!;
  const loop = { id: 'l', family, settings, workingValue, workingC: 25, tolerance: 0.1, intervalDays: 30, dueBy: 'calendar', referenceGroup: '', limits: {} }; // prettier-ignore
  const fitted = { loop, sensor: { id: 's', fittedMs: null }, channel: { id: 'c' }, siteName: '' } as unknown as Fitted;
  const outcomes = found.map(([zero, sensitivity], i) => ({
    sensorId: 's',
    loopId: 'l',
    endedAt: new Date(30 * i * MS_PER_DAY).toISOString(),
    outcome: {
      kind: 'calibration',
      coefficients: { zero, sensitivity },
      covariance: [
        [0.2, 0],
        [0, 1e-5],
      ],
      inForceAfter: { zero, sensitivity },
      inForceBefore: { zero: 0, sensitivity: 1 },
      cleaned: cleaned.includes(i),
      t90: null,
    } as unknown as RunOutcome,
  }));
  const done = services.map((s) => ({ ...s, sensorId: 's' }));
  return { fitted, house: new HouseKnowledge([fitted], outcomes, done, { of: () => NO_FLEET }) };
}
const falling = [[0, 0.97], [-5, 0.97], [-11, 0.968], [-17, 0.968]] as const; // prettier-ignore
const on = (day: number, kind: ServiceEvent['kind']): ServiceEvent => ({ atMs: day * MS_PER_DAY, kind });

describe('which half, in a house', () => {
  it('a refill begins the story anew, and tells what the one before it was', () => {
    const { fitted, house } = houseOf('ph', [...falling, [-1, 0.968]], [on(100, 'refilled')]);
    expect(healthOf(fitted, house)!.thin).toEqual({ code: 'few-runs', runs: 1, of: 3 });
    const told = serviceSaid(fitted, house)!;
    expect(told).toMatchObject({ kinds: ['refilled'], atMs: 100 * MS_PER_DAY, foundMs: 120 * MS_PER_DAY });
    expect(told.health.named?.id).toBe('electrolyte-diluted');
    expect(told.health.evidence.find((e) => e.piece === 'zeroAfter')!.figure.value).toBeGreaterThan(13);
    const stayed = houseOf('ph', [...falling, [-17, 0.968]], [on(100, 'refilled')]);
    expect(serviceSaid(stayed.fitted, stayed.house)!.health.named?.id).toBe('reference-contaminated');
  });

  it('what was done between the same two runs is one test', () => {
    const { fitted, house } = houseOf('ph', [...falling, [-1, 0.968]], [on(100, 'refilled')], [4]);
    const told = serviceSaid(fitted, house)!;
    expect(told.kinds).toEqual(['refilled', 'cleaned']);
    expect(told.health.named?.id).toBe('electrolyte-diluted');
  });

  it('until the next run it waits to be tested', () => {
    const done = [on(40, 'cleaned'), on(100, 'refilled'), on(101, 'cleaned'), on(102, 'other')];
    const { fitted, house } = houseOf('ph', falling, done);
    expect(healthOf(fitted, house)).toBeNull();
    expect(untested(fitted, house)).toEqual({ kinds: ['refilled', 'cleaned'], atMs: 100 * MS_PER_DAY });
    const tested = houseOf('ph', [...falling, [0, 0.97]], done);
    expect(untested(tested.fitted, tested.house)).toBeNull();
  });

  it('it tells nothing before the next run, of a sound sensor, or when it is old', () => {
    const calm = [[0, 0.97], [0.3, 0.97], [-0.2, 0.97], [0, 0.97]] as const; // prettier-ignore
    for (const { fitted, house } of [
      houseOf('ph', falling, [on(100, 'refilled')]),
      houseOf('ph', [...calm, [0, 0.97]], [on(100, 'refilled')]),
      houseOf('ph', [...falling, [-1, 0.968], [-1, 0.968], [-1, 0.968], [-1, 0.968]], [on(100, 'refilled')]),
      houseOf('ph', [...falling, [-1, 0.968]], [on(100, 'other')]),
    ])
      expect(serviceSaid(fitted, house)).toBeNull();
  });

  it('a cell that was cleaned in a run was scaled, if that run found its share again', () => {
    const runs = [[0, 1], [0, 0.97], [0, 0.945], [0, 0.92], [0, 0.998]] as const; // prettier-ignore
    const { fitted, house } = houseOf('conductivity', runs, [], [4]);
    const told = serviceSaid(fitted, house)!;
    expect(told.kinds).toEqual(['cleaned']);
    expect(told.health.named?.id).toBe('cell-scaled');
    expect(told.health.causes[0]!.chance).toBeGreaterThan(0.9);
    const before = houseOf('conductivity', runs.slice(0, 4));
    expect(healthOf(before.fitted, before.house)!.named?.id).toBe('cell-scaled');
  });

  it('what was done to it makes it due at once', () => {
    const { fitted, house } = houseOf('ph', falling, [on(95, 'refilled')]);
    expect(dueOfLoop(fitted, house.pastOf(fitted))).toEqual({
      atMs: 95 * MS_PER_DAY,
      reason: 'refilled, and not tested since',
    });
  });
});
