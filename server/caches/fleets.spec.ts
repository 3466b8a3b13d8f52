import { describe, expect, it } from 'vitest';
import { DRIFT_VERSION, NO_FLEET, type RunOutcome } from '@frustum/core';
import type { FleetRecord } from '../store/commands/fleets.ts';
import type { Store } from '../store/commands/index.ts';
import { Fleets } from './fleets.ts';

const DAY_MS = 86_400_000;

/** Two probes whose zeros fall by 3 mV a month, by a store that only tells. */
function storeOf(runs: number, kept: FleetRecord[] = [], sensors = ['a', 'b'], calm: readonly string[] = []): Store {
  const outcomeAt = (i: number, id: string) =>
    ({
      kind: 'calibration',
      coefficients: { zero: (calm.includes(id) ? 0 : -3 * i) + (i % 2) * 0.4, sensitivity: 0.97 },
      covariance: [
        [0.2, 0],
        [0, 1e-5],
      ],
      inForceAfter: { zero: -3 * i, sensitivity: 0.97 },
      cleaned: false,
    }) as unknown as RunOutcome;
  const told = {
    readSetUp: () =>
      Promise.resolve({
        loops: sensors.map((id) => ({ loop: { id, family: 'ph', settings: {}, workingValue: 6, workingC: 22 }, sensor: { id, model: calm.includes(id) ? 'calm' : '' } })), // prettier-ignore
        shelved: [],
      }),
    readOutcomes: () =>
      Promise.resolve(
        sensors.flatMap((sensorId) =>
          Array.from({ length: runs }, (_, i) => ({
            sensorId,
            loopId: sensorId,
            endedAt: new Date(i * 30 * DAY_MS).toISOString(),
            outcome: outcomeAt(i, sensorId),
          })),
        ),
      ),
    readAllServices: () => Promise.resolve([]),
    readFleets: () => Promise.resolve(kept),
    keepFleets: (list: readonly FleetRecord[]) => Promise.resolve(void kept.splice(0, kept.length, ...list)),
  };
  return told as unknown as Store;
}

describe('what a house teaches', () => {
  it('is learned once there are runs, while others have the thread, and not anew for nothing', async () => {
    const fleets = new Fleets();
    expect(fleets.of('ph')).toEqual(NO_FLEET);
    let turns = 0;
    const others = setInterval(() => turns++, 1);
    expect(await fleets.learn(storeOf(12))).toBe(true);
    clearInterval(others);
    expect(turns).toBeGreaterThan(1);
    expect(fleets.of('ph')).toMatchObject({ sensors: 2, runs: 24 });
    // They both fall: that may be usual here, and two teach a little. Families without a sensor stay as they are known.
    expect(fleets.of('ph').zero.rate).toBeLessThan(-0.1);
    expect(fleets.of('orp')).toEqual(NO_FLEET);
    expect(await fleets.learn(storeOf(12))).toBe(false);
    expect(await fleets.learn(storeOf(13))).toBe(false);
    expect(await fleets.learn(storeOf(14))).toBe(true);
    expect(fleets.of('ph').runs).toBe(28);
  });

  it('is kept: the next start knows it at once and learns nothing anew; what another engine has learned is left alone', async () => {
    const kept: FleetRecord[] = [];
    const now = Date.parse('2026-11-23T09:00:00Z');
    const before = new Fleets(() => now);
    await before.learn(storeOf(12, kept));
    expect(kept).toMatchObject([{ family: 'ph', model: '', houseRuns: 24, learnedAt: '2026-11-23T09:00:00.000Z' }]);
    const after = new Fleets();
    await after.recall(storeOf(12, kept));
    expect(after.of('ph')).toEqual(before.of('ph'));
    expect(await after.learn(storeOf(12, kept))).toBe(false);
    const other = new Fleets();
    await other.recall(
      storeOf(
        12,
        kept.map((k) => ({ ...k, version: DRIFT_VERSION - 1 })),
      ),
    );
    expect(other.of('ph')).toEqual(NO_FLEET);
    expect(await other.learn(storeOf(12, kept))).toBe(true);
  });

  it('a model that lives otherwise has a fleet of its own, also after a stop; others have their family’s', async () => {
    const calm = ['c1', 'c2', 'c3', 'c4', 'c5', 'c6'];
    const kept: FleetRecord[] = [];
    const store = storeOf(10, kept, ['a', 'b', 'd', 'e', 'f', 'g', ...calm], calm);
    const fleets = new Fleets();
    await fleets.learn(store);
    expect(fleets.of('ph', 'calm').ofModel).toEqual({ sensors: 6, runs: 60 });
    expect(fleets.of('ph', 'calm').zero).not.toEqual(fleets.of('ph').zero);
    expect(fleets.of('ph', 'never seen')).toEqual(fleets.of('ph', ''));
    const after = new Fleets();
    await after.recall(store);
    expect(after.of('ph', 'calm')).toEqual(fleets.of('ph', 'calm'));
  });

  it('asked twice at once it learns once', async () => {
    const fleets = new Fleets();
    const [one, two] = [fleets.learn(storeOf(6)), fleets.learn(storeOf(6))];
    expect(one).toBe(two);
    await one;
  });
});
