import { Refusal } from '@frustum/core';
import type { SensorView } from '@frustum/contract';
import type { Context } from '../context.ts';
import { rowOf } from './margins.ts';

/** What one sensor has been through. @throws Refusal `sensor-unknown` */
export async function readSensor({ store, now }: Context, sensorId: string): Promise<SensorView> {
  const fitted = (await store.readFittedLoops()).find((f) => f.sensor.id === sensorId);
  if (!fitted)
    throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
  const [runs, services] = await Promise.all([store.readRunsOf(sensorId), store.readServices(sensorId)]);
  const finished = runs
    .flatMap((r) =>
      r.status === 'closed' && r.endedAt && r.outcome ? [{ endedAt: r.endedAt, outcome: r.outcome }] : [],
    )
    .sort((a, b) => a.endedAt.localeCompare(b.endedAt));
  const nowMs = now();
  return {
    nowMs,
    row: rowOf(fitted, finished, runs.find((r) => r.status === 'open')?.id ?? null, nowMs),
    runs: runs.map((r) => ({
      runId: r.id,
      startedAt: r.startedAt,
      endedAt: r.endedAt,
      status: r.status,
      outcome: r.outcome,
    })),
    services: services.map(({ at, kind, note, by }) => ({ at, kind, note, by })),
  };
}
