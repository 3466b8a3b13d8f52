import {
  cleaningTaught,
  electrolyteLeft,
  limitsAhead,
  Refusal,
  type SensorId,
  serviceSaid,
  untested,
  coneOf,
  limitsOf,
  requireService,
  pastRunsOf,
  leansOn,
  lookBacksOf,
  leanedOn,
  standingOf,
} from '@frustum/core';
import type { NewService, SensorView, ServiceRow, TakeBack } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { fittedOf } from '../runs/runs.ts';
import { rowOf } from '../margins/margins.ts';
import { hearReadings } from '../house/heard.ts';
import { readPictures } from '../house/pictures.ts';
import { conditionsNow } from '../loops/surrounded.ts';
import { serviceRowOf, TAKE_BACK_MS } from './service-rows.ts';

/** What one sensor has been through. @throws Refusal `sensor-unknown` */
export async function readSensor(context: Context, sensorId: SensorId): Promise<SensorView> {
  const { store, now } = context;
  const { house, of } = await readPictures(context);
  const fitted = house.all.find((f) => f.sensor.id === sensorId);
  if (!fitted)
    throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
  if (await hearReadings(context, fitted, house)) context.heard();
  const picture = of(fitted);
  const { past, health } = picture;
  const nowMs = now();
  const backs = lookBacksOf(fitted, past, nowMs);
  // All at once: each question by itself may wait behind others.
  const [runs, services, alarms, conditions, doses] = await Promise.all([
    store.readRunsOf(sensorId),
    store.readServices(sensorId),
    store.readAlarmsOf(sensorId),
    conditionsNow(context, fitted, house),
    Promise.all(backs.map(({ fromMs, toMs }) => store.readDoses(fitted.loop.id, iso(fromMs), iso(toMs)))),
  ]);
  const moved = health?.evidence.find((e) => e.piece === 'zeroMoved')?.figure;
  return {
    nowMs,
    row: rowOf(fitted, picture, runs.find((r) => r.status === 'open')?.id ?? null, nowMs),
    runs: runs.map((r) => ({
      runId: r.id,
      startedAt: r.startedAt,
      endedAt: r.endedAt,
      status: r.status,
      outcome: r.outcome,
    })),
    services: services.map((row) => serviceRowOf(row, nowMs)),
    past: pastRunsOf(fitted, past),
    health,
    serviceSaid: serviceSaid(fitted, house),
    untested: untested(fitted, house),
    cleaning: cleaningTaught(fitted, past),
    limitsAhead: past.finished.length
      ? limitsAhead(coneOf(fitted, past, nowMs).expectedAt, limitsOf(fitted.loop), nowMs)
      : [],
    electrolyteLeft: health?.causes[0]?.cause.id === 'electrolyte-diluted' && moved ? electrolyteLeft(moved) : null,
    lookBacks: backs
      .map((back, i) => ({ ...back, leaned: leanedOn(back, fitted, house, alarms, doses[i]!) }))
      .reverse(),
    leansOn: leansOn(fitted, house.all, (f) => standingOf(f, of(f).past, nowMs)),
    conditions,
  };
}

const iso = (ms: number) => new Date(ms).toISOString();

/** A browser's clock may be this far ahead of ours. */
const AHEAD_MS = 60_000;

/**
 * Writes into the service log what was done to a sensor, just now or earlier.
 *
 * @throws Refusal `sensor-unknown`; `no-such-part`; `not-yet` for a moment to come; `before-fitted`
 */
export async function noteService(
  context: Context,
  sensorId: SensorId,
  { kind, note, at }: NewService,
  by: string,
): Promise<ServiceRow> {
  const { store, now, newId } = context;
  const { sensor, loop } = await fittedOf(context, sensorId);
  requireService(loop.family, kind);
  const atMs = at ? Date.parse(at) : now();
  if (atMs > now() + AHEAD_MS)
    throw new Refusal('not-yet', 'That is still to come. Note it when it is done.', { at: at ?? '' });
  if (atMs < Date.parse(sensor.fittedOn))
    throw new Refusal('before-fitted', `This sensor was fitted on ${sensor.fittedOn}. Give a later day.`, {
      fittedOn: sensor.fittedOn,
    });
  const row = { at: new Date(atMs).toISOString(), kind, note, by };
  await store.keepServices([{ id: newId(), sensorId, ...row, notedAt: new Date(now()).toISOString() }]);
  context.changed();
  return { ...row, fresh: true };
}

/**
 * Takes an entry of the service log back.
 *
 * @throws Refusal `sensor-unknown`; `stands` when it was written down more than a day ago, or is not there
 */
export async function takeBackService(context: Context, sensorId: SensorId, entry: TakeBack): Promise<void> {
  const { store, now } = context;
  await fittedOf(context, sensorId);
  if (!(await store.dropService(sensorId, entry, new Date(now() - TAKE_BACK_MS).toISOString())))
    throw new Refusal(
      'stands',
      'Only what was written down within the last day can be taken back. Note beside it what was not so.',
      { at: entry.at },
    );
  context.changed();
}
