import { electrolyteLeft, limitsAhead, Refusal } from '@frustum/core';
import type { NewService, SensorView, ServiceRow } from '@frustum/contract';
import type { Context } from '../context.ts';
import { fittedOf, LOCAL_OPERATOR } from './runs.ts';
import { readingsSay } from './checks.ts';
import { healthOf } from './health.ts';
import { coneOf, limitsOf, pastRunsOf } from './history.ts';
import { House } from './house.ts';
import { dueOfLoop, rowOf } from './margins.ts';
import { leansOn } from './gates.ts';
import { lookBackOf } from './look-back.ts';

/** What one sensor has been through. @throws Refusal `sensor-unknown` */
export async function readSensor(context: Context, sensorId: string): Promise<SensorView> {
  const { store, now } = context;
  const house = await House.read(context);
  const fitted = house.all.find((f) => f.sensor.id === sensorId);
  if (!fitted)
    throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
  const [runs, services, alarms] = await Promise.all([
    store.readRunsOf(sensorId),
    store.readServices(sensorId),
    store.readAlarmsOf(sensorId),
  ]);
  const past = house.pastOf(fitted);
  const nowMs = now();
  const health = healthOf(fitted, house, await readingsSay(context, fitted, house));
  const moved = health?.evidence.find((e) => e.piece === 'zeroMoved')?.figure;
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
    past: pastRunsOf(fitted, past),
    health,
    limitsAhead: past.finished.length
      ? limitsAhead(coneOf(fitted, past, nowMs).expectedAt, limitsOf(fitted.loop), nowMs)
      : [],
    electrolyteLeft: health?.causes[0]?.cause.id === 'electrolyte-diluted' && moved ? electrolyteLeft(moved) : null,
    lookBacks: lookBackOf(fitted, house, alarms, nowMs),
    leansOn: leansOn(fitted, house.all, (f) => dueOfLoop(f, house.pastOf(f))),
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
