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
  apply,
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
import { staleSecondsOf, type OpenRunRow, type OutgoingEvent, type RunView, type StartRun } from '@frustum/contract';
import type { Context } from '../../context.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { RunRecord } from '../../store/commands/runs.ts';
import { inTurn } from './in-turn.ts';
import { noteDoubt } from './clock-doubt.ts';
import {
  atOf,
  cameLate,
  derivedOf,
  freshOf,
  hasMoved,
  refuseIfMoved,
  refuseIfOld,
  refuseIfUnfit,
  SERVER_DEVICE,
} from './run-events.ts';
import { conditionsNow } from '../loops/surrounded.ts';
import { readHouse } from '../house/read-house.ts';

const MAX_TRIES = 5;

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
  const [lots, standards, house] = await Promise.all([
    context.store.readLots(),
    context.store.readStandards(),
    readHouse(context),
  ]);
  const nowMs = context.now();
  const procedures = order.procedureId ? await context.store.readProcedures() : [];
  const procedure = procedureOf(order, procedures);
  if (!proceduresFor(fitted.loop.family).some((p) => p.kind === procedure.kind))
    throw new Refusal(
      'procedure-unknown',
      `“${procedure.name}” cannot be done with ${familyOf(fitted.loop.family).name}. Pick another.`,
    );
  const points = pointsFor(fitted, order, lots, standards);
  const past = house.pastOf(fitted);
  const leaning = leaningWith(
    order.conditions,
    leansOn(fitted, house.all, (f) => standingOf(f, house.pastOf(f), nowMs)),
  );
  const pours = poursStandards(order.procedure);
  if (pours)
    requirePoints(
      fitted.loop,
      order.procedure,
      points.map((p) => p.standard),
    );
  const gates = passedGates(fitted.loop, pours, points, lots, leaning, nowMs, order.overrides);
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

/** @throws Refusal `run-unknown` */
export async function readRun(context: Context, runId: RunId): Promise<RunView> {
  const run = await context.store.readRun(runId);
  if (!run) throw new Refusal('run-unknown', 'There is no such run. Go back to Margins.', { runId });
  const fitted = await fittedOf(context, run.sensorId);
  const events = await context.store.readEvents([runId]);
  return {
    runId,
    sensorId: run.sensorId,
    loopId: run.loopId,
    channelId: fitted.channel.id,
    events: events.map(({ seq, device, counter, at, by, body }) => ({ seq, device, counter, at, by, body })),
    hands: context.config.handsUrl !== null && fitted.channel.config.kind !== 'hand',
    staleSeconds: staleSecondsOf(fitted.channel.config),
  };
}

/**
 * Takes in events of a device. What is known already counts once; what cannot be is refused as a whole.
 *
 * One after the other for each run, so that a device that was away for long is not refused because others were faster.
 *
 * @throws Refusal `run-moved` when a decision was made on an older state; `counter-taken`; `run-unknown`; what `apply` refuses
 */
export const appendToRun = (
  context: Context,
  runId: RunId,
  incoming: readonly OutgoingEvent[],
  by: string,
): Promise<RunView> =>
  inTurn(runId, async () => {
    await noteDoubt(context, runId, by);
    return append(context, runId, incoming, by);
  });

async function append(
  context: Context,
  runId: RunId,
  incoming: readonly OutgoingEvent[],
  by: string,
): Promise<RunView> {
  for (let tries = 0; tries < MAX_TRIES; tries++) {
    const known = await context.store.readEvents([runId]);
    if (!known.length) throw new Refusal('run-unknown', 'There is no such run. Go back to Margins.', { runId });
    const afterSeq = known.at(-1)!.seq;
    const fresh = freshOf(incoming, known);
    if (!fresh.length) return readRun(context, runId);
    let state = replay(known);
    if (fresh.some((e) => e.body.type === 'captured')) refuseIfOld(fresh, await staleSecondsIn(context, runId));
    const events: RunEvent[] = [];
    for (const came of fresh) {
      const e = cameLate(state, came);
      // Facts that wait on a slow line come together with the decision that was made on them: each is judged in its turn.
      if (hasMoved(state, e)) await keepLate(context, runId, known, e, e.by || by);
      refuseIfMoved(state, e, [...known, ...events]);
      refuseIfUnfit(state, e);
      const event: RunEvent = {
        seq: state.seq + 1,
        device: e.device,
        counter: e.counter,
        at: atOf(e, state.startedAt, context.now()),
        // Who did it, not who sends it: a device may have waited for the network.
        by: e.by || by,
        body: e.body,
      };
      state = apply(state, event);
      events.push(event);
    }
    if (await context.store.appendEvents({ runId, afterSeq, events, derived: derivedOf(state) })) {
      context.changed();
      return readRun(context, runId);
    }
  }
  throw new Refusal('run-moved', 'This run is being changed from several places at once. Look at it and try again.', {
    runId,
  });
}

/** A reading of this run's channel that is older is no live one, s; null where nothing is live. */
async function staleSecondsIn(context: Context, runId: RunId): Promise<number | null> {
  const run = await context.store.readRun(runId);
  return run && staleSecondsOf((await fittedOf(context, run.sensorId)).channel.config);
}

/** A decision that came second is not carried out, and not lost either: it stays in the run as a note. */
async function keepLate(
  { store, changed, now }: Context,
  runId: RunId,
  known: readonly RunEvent[],
  { device, counter, body }: OutgoingEvent,
  by: string,
): Promise<void> {
  const mine = `${device}, late`;
  if (body.type !== 'decided' || known.some((k) => k.device === mine && k.counter === counter)) return;
  const afterSeq = known.at(-1)!.seq;
  const why = body.because ? `, because ${body.because}` : '';
  const note: RunEvent = {
    seq: afterSeq + 1,
    device: mine,
    counter,
    at: new Date(now()).toISOString(),
    by,
    body: { type: 'noted', text: `Decided elsewhere at the same time, and not carried out: ${body.action}${why}.` },
  };
  const derived = derivedOf(apply(replay(known), note));
  await store.appendEvents({ runId, afterSeq, events: [note], derived });
  changed();
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

/**
 * Writes the figures of a verdict into the device, reads them back, and keeps that as the adjustment.
 *
 * @throws Refusal `device-unreachable`; the run stays at its step
 */
export async function writeAdjustment(
  context: Context,
  runId: RunId,
  event: OutgoingEvent,
  by: string,
): Promise<RunView> {
  if (event.body.type !== 'adjusted')
    throw new Refusal('decision-out-of-place', 'Only an adjustment can be written to a device.');
  const view = await readRun(context, runId);
  const state = replay(view.events);
  if (state.current?.kind === 'adjust') {
    refuseIfMoved(state, event, view.events);
    const kept = await context.poller.writeCoefficients(view.channelId, event.body.coefficients);
    const body = { ...event.body, coefficients: kept, how: 'written' as const };
    return appendToRun(context, runId, [{ ...event, body }], by);
  }
  return appendToRun(context, runId, [event], by);
}
