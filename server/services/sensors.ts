import { Refusal } from '@frustum/core';
import type { NewService, SensorView, ServiceRow } from '@frustum/contract';
import type { Context } from '../context.ts';
import { fittedOf, LOCAL_OPERATOR } from './runs.ts';
import { healthOf } from './health.ts';
import { bySensor, eventsOf, pastRunsOf } from './history.ts';
import { rowOf } from './margins.ts';
import { leansOn } from './gates.ts';

/** What one sensor has been through. @throws Refusal `sensor-unknown` */
export async function readSensor({ store, now, fleets }: Context, sensorId: string): Promise<SensorView> {
  const all = await store.readFittedLoops();
  const fitted = all.find((f) => f.sensor.id === sensorId);
  if (!fitted)
    throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
  const [runs, services, outcomes] = await Promise.all([
    store.readRunsOf(sensorId),
    store.readServices(sensorId),
    store.readOutcomes(),
  ]);
  const finished = runs
    .flatMap((r) =>
      r.status === 'closed' && r.endedAt && r.outcome ? [{ endedAt: r.endedAt, outcome: r.outcome }] : [],
    )
    .sort((a, b) => a.endedAt.localeCompare(b.endedAt));
  const past = { finished, services: eventsOf(services), fleet: fleets.of(fitted.loop.family) };
  const runsOfIt = pastRunsOf(fitted, past);
  const runsOf = bySensor(outcomes);
  const allServices = bySensor(await store.readAllServices());
  const others = all
    .filter((f) => f.loop.referenceGroup !== '' && f.loop.referenceGroup === fitted.loop.referenceGroup)
    .map((f) => ({
      fitted: f,
      past: pastRunsOf(f, {
        finished: runsOf.get(f.sensor.id) ?? [],
        services: allServices.get(f.sensor.id) ?? [],
        fleet: fleets.of(f.loop.family),
      }),
    }));
  const nowMs = now();
  return {
    nowMs,
    row: rowOf(fitted, past, runs.find((r) => r.status === 'open')?.id ?? null, nowMs),
    runs: runs.map((r) => ({
      runId: r.id,
      startedAt: r.startedAt,
      endedAt: r.endedAt,
      status: r.status,
      outcome: r.outcome,
    })),
    services: services.map(({ at, kind, note, by }) => ({ at, kind, note, by })),
    past: runsOfIt,
    health: healthOf({ fitted, past: runsOfIt }, past, others),
    leansOn: leansOn(fitted, all, outcomes),
  };
}

/** Writes into the service log what was done to a sensor just now. @throws Refusal `sensor-unknown` */
export async function noteService(context: Context, sensorId: string, { kind, note }: NewService): Promise<ServiceRow> {
  const { store, now, newId } = context;
  await fittedOf(context, sensorId);
  const row = { at: new Date(now()).toISOString(), kind, note, by: LOCAL_OPERATOR };
  await store.keepServices([{ id: newId(), sensorId, ...row }]);
  context.changed();
  return row;
}
