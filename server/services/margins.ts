import { DRIFT_VERSION, fixedInterval, forecastDue, IDEAL, marginOf, MS_PER_DAY, type Cone } from '@frustum/core';
import type { ConeView, LoopRow } from '@frustum/contract';
import type { Context } from '../context.ts';
import type { FittedLoop } from '../store/commands/places.ts';
import { bySensor, coneOf, limitsOf, observationsOf, ofSensor, type Past } from './history.ts';

/** How far beyond its due date, and beyond now, a cone is drawn, days. */
const BEYOND_DUE_DAYS = 10;
const BEYOND_NOW_DAYS = 55;

/** All rows of Margins. Sorted by due date; a first run that is still to come stands where it cannot be overlooked. */
export async function marginRows(context: Context): Promise<LoopRow[]> {
  const { store, now, fleets } = context;
  const [fitted, outcomes, services, open] = await Promise.all([
    store.readFittedLoops(),
    store.readOutcomes(),
    store.readAllServices(),
    store.readOpenRuns(),
  ]);
  const nowMs = now();
  const runsOf = bySensor(outcomes);
  const servicesOf = bySensor(services);
  const rows = fitted.map((f) =>
    rowOf(
      f,
      {
        finished: runsOf.get(f.sensor.id) ?? [],
        services: servicesOf.get(f.sensor.id) ?? [],
        fleet: fleets.of(f.loop.family),
      },
      open.find((r) => r.sensorId === f.sensor.id && r.status === 'open')?.id ?? null,
      nowMs,
    ),
  );
  return rows.sort((a, b) => (a.due.atMs ?? nowMs) - (b.due.atMs ?? nowMs) || a.loopName.localeCompare(b.loopName));
}

/** One row: margin now, cone, due date. */
export function rowOf(fitted: FittedLoop, past: Past, openRunId: string | null, nowMs: number): LoopRow {
  const { loop, sensor, channel } = fitted;
  const history = observationsOf(ofSensor(past.finished));
  const lastRunMs = history.at(-1)?.atMs ?? null;
  const due = fixedInterval(lastRunMs, loop.intervalDays);
  const untilMs = Math.max(due.atMs ?? 0, nowMs + BEYOND_NOW_DAYS * MS_PER_DAY) + BEYOND_DUE_DAYS * MS_PER_DAY;
  const made = coneOf(fitted, past, untilMs);
  return {
    loopId: loop.id,
    sensorId: sensor.id,
    loopName: loop.name,
    place: loop.place,
    siteName: fitted.siteName,
    family: loop.family,
    settings: loop.settings,
    sensorName: sensor.name,
    serial: sensor.serial,
    fittedOn: sensor.fittedOn,
    workingValue: loop.workingValue,
    workingC: loop.workingC,
    tolerance: loop.tolerance,
    controls: loop.controls,
    controlAction: loop.controlAction,
    referenceGroup: loop.referenceGroup,
    surroundings: loop.surroundings,
    limits: limitsOf(loop),
    pointSet: loop.pointSet,
    channelId: channel.id,
    channel: channel.config,
    channelVersion: channel.version,
    inForce: history.at(-1)?.inForceAfter ?? IDEAL,
    inForceKnown: history.length > 0,
    margin: marginOf(made.errorAt?.(nowMs) ?? null, loop.tolerance),
    cone: viewOf(made),
    due,
    forecast: forecastDue(made.errorAt, lastRunMs, loop.tolerance),
    learnedFrom: { version: DRIFT_VERSION, sensors: past.fleet.sensors, runs: past.fleet.runs },
    lastRunMs,
    openRunId,
  };
}

function viewOf(made: Cone): ConeView {
  return {
    segments: made.segments.map((s) => ({
      fromMs: s.fromMs,
      toMs: s.toMs,
      points: s.points.map((p): [number, number, number, number] => [
        Math.round(p.atMs),
        round(p.mean),
        round(p.half50),
        round(p.half95),
      ]),
    })),
    marks: made.marks,
  };
}

const round = (value: number) => Math.round(value * 1e5) / 1e5;
