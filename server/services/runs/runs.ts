import {
  cupByTheSheet,
  type HandsOn,
  familyOf,
  median,
  modelOf,
  poursStandards,
  proceduresFor,
  requirePoints,
  signalOfReading,
  unlessRefused,
  type RunPlan,
  Refusal,
  replay,
  type RunEvent,
  type RunState,
  type RunId,
  type SensorId,
  leaningWith,
  leansOn,
  passedGates,
  planOf,
  pointsFor,
  procedureOf,
  standingOf,
} from '@frustum/core';
import { staleSecondsOf, type OpenRunRow, type RunView, type StartRun } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { inTurn } from './in-turn.ts';
import { noteDoubt } from './clock-doubt.ts';
import { SERVER_DEVICE } from './run-events.ts';
import { conditionsNow } from '../loops/surrounded.ts';
import { readPictures } from '../house/pictures.ts';

/** @throws Refusal `sensor-unknown` */
export async function fittedOf(context: Context, sensorId: SensorId): Promise<FittedLoop> {
  const fitted = (await context.store.readFittedLoops()).find((f) => f.sensor.id === sensorId);
  if (fitted) return fitted;
  throw new Refusal('sensor-unknown', 'There is no such sensor. Go back to Margins and pick one.', { sensorId });
}

/**
 * Begins a run: freezes in its first event everything that it will rest on.
 *
 * @throws Refusal `sensor-unknown`, `unknown-standard`, `procedure-unknown`, `standards-no-use`, `gate-open`, `no-standards`,
 * `run-open`
 */
export async function startRun(context: Context, order: StartRun, by: string): Promise<RunView> {
  const fitted = await fittedOf(context, order.sensorId);
  const [lots, standards, { house, of }] = await Promise.all([
    context.store.readLots(),
    context.store.readStandards(),
    readPictures(context),
  ]);
  const nowMs = context.now();
  const procedures = order.procedureId ? await context.store.readProcedures() : [];
  const procedure = procedureOf(order, procedures);
  if (!proceduresFor(fitted.loop.family).some((p) => p.kind === procedure.kind))
    throw new Refusal(
      'procedure-unknown',
      `“${procedure.name}” cannot be done with ${familyOf(fitted.loop.family).name}. Pick another.`,
    );
  const points = pointsFor(fitted, order, lots, standards, nowMs);
  const past = house.pastOf(fitted);
  const leaning = leaningWith(
    order.conditions,
    leansOn(fitted, house.all, (f) => standingOf(f, of(f).past, nowMs)),
  );
  const pours = poursStandards(order.procedure);
  if (pours)
    requirePoints(
      fitted.loop,
      order.procedure,
      points.map((p) => p.standard),
    );
  const gates = passedGates(fitted, pours, points, lots, leaning, nowMs, order.overrides);
  const { sensorState, limitPercent } = order;
  const conditions = await conditionsNow(context, fitted, house, order.conditions);
  const choice = { ...order, procedure, gates, sensorState, limitPercent, conditions };
  const before = planOf(fitted, points, past, nowMs, choice);
  const water = order.procedure === 'electrical' ? {} : waterNow(context, fitted, before.inForce);
  const plan = { ...before, ...water };
  const run = { id: context.newId(), sensorId: fitted.sensor.id, loopId: fitted.loop.id };
  const first: RunEvent = {
    seq: 1,
    device: SERVER_DEVICE,
    counter: 1,
    at: new Date(nowMs).toISOString(),
    by,
    body: { type: 'started', plan },
  };
  await context.store.openRun(run, first);
  await inTurn(run.id, () => noteDoubt(context, run.id, by));
  context.changed();
  return readRun(context, run.id);
}

/** So many readings say what the water gives just now. */
const WATER_SAMPLES = 9;

/** What a live channel shows in its water just now; nothing where it is silent, or shows what no such sensor gives. */
function waterNow(
  { hub, now }: Context,
  { loop, channel }: FittedLoop,
  inForce: RunPlan['inForce'],
): Pick<RunPlan, 'waterBefore'> {
  const limit = staleSecondsOf(channel.config);
  const live = limit === null ? [] : hub.lately(channel.id, WATER_SAMPLES, now() - 1000 * limit);
  const model = modelOf(familyOf(loop.family), loop.settings);
  const signals = live.flatMap(({ signal, unit, temperatureC }) => {
    const own = unlessRefused(() => signalOfReading(model, signal, unit, { temperatureC }, inForce));
    return own === null ? [] : [own];
  });
  if (!signals.length) return {};
  return { waterBefore: { signal: median(signals), temperatureC: median(live.map((s) => s.temperatureC)) } };
}

/** Where a run was made, also where its loop is archived or its sensor is elsewhere since. @throws Refusal `loop-unknown` */
export async function placeOf({ store }: Context, { loopId }: Pick<RunRecord, 'loopId'>) {
  const inUse = (await store.readFittedLoops()).find((f) => f.loop.id === loopId);
  if (inUse) return inUse;
  const { sites, loops } = await store.readSetUp();
  const kept = loops.find((l) => l.loop.id === loopId);
  const site = sites.find((s) => s.id === kept?.loop.siteId);
  if (kept && site) return { siteName: site.name, timeZone: site.timeZone, loop: kept.loop, channel: kept.channel };
  throw new Refusal('loop-unknown', 'There is no such loop. Look at Set-up again.', { loopId });
}

/** @throws Refusal `run-unknown` */
export async function readRun(context: Context, runId: RunId): Promise<RunView> {
  const run = await context.store.readRun(runId);
  if (!run) throw new Refusal('run-unknown', 'There is no such run. Go back to Margins.', { runId });
  const [{ channel }, events] = await Promise.all([placeOf(context, run), context.store.readEvents([runId])]);
  return {
    runId,
    sensorId: run.sensorId,
    loopId: run.loopId,
    channelId: channel.id,
    events: events.map(({ seq, device, counter, at, by, body }) => ({ seq, device, counter, at, by, body })),
    hands: context.config.handsUrl !== null && channel.config.kind !== 'hand',
    staleSeconds: staleSecondsOf(channel.config),
  };
}

/** A run that wants hands: open, or ended with a hold that nobody has released. */
interface UnderWay {
  readonly run: RunRecord;
  readonly state: RunState;
  /** when something was last done in it, ISO 8601 */
  readonly lastAt: string;
}

export async function runsUnderWay({ store }: Context): Promise<UnderWay[]> {
  const list = await store.readOpenRuns();
  const events = await store.readEvents(list.map((r) => r.id));
  return list.map((run) => {
    const mine = events.filter((e) => e.runId === run.id);
    return { run, state: replay(mine), lastAt: mine.at(-1)!.at };
  });
}

/**
 * What somebody should know of the run that a sensor is in.
 *
 * @param holdMinutes how long what its loop controls may be on hold
 */
export function handsOn({ state, lastAt }: UnderWay, holdMinutes: number, nowMs: number): HandsOn {
  const held = state.hold !== null && state.hold.releasedAt === null;
  const cup = state.current?.kind === 'wait' ? null : cupByTheSheet(state);
  return {
    controls: state.plan.controls,
    holdMinutes,
    heldSeconds: held ? (nowMs - Date.parse(state.hold.since)) / 1000 : 0,
    cup: cup ?? '',
    idleSeconds: cup ? (nowMs - Date.parse(lastAt)) / 1000 : 0,
  };
}

/** Runs for the tray. */
export async function openRuns(context: Context): Promise<OpenRunRow[]> {
  return (await runsUnderWay(context)).map(({ run, state }) => {
    return {
      runId: run.id,
      sensorId: run.sensorId,
      loopName: state.plan.loopName,
      stepTitle: state.current?.title ?? '',
      stepKind: state.current?.kind ?? '',
      status: run.status === 'open' ? 'open' : 'abandoned',
      holdSince: state.hold && !state.hold.releasedAt ? state.hold.since : null,
      controls: state.plan.controls,
      since: state.startedAt,
      stepSince: state.since,
    };
  });
}
