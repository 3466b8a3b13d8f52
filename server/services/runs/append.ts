import { apply, Refusal, replay, type RunEvent, type RunId } from '@frustum/core';
import { staleSecondsOf, type OutgoingEvent, type RunView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { noteDoubt } from './clock-doubt.ts';
import { inTurn } from './in-turn.ts';
import {
  atOf,
  cameLate,
  derivedOf,
  freshOf,
  hasMoved,
  refuseIfMoved,
  refuseIfOld,
  refuseIfUnfit,
} from './run-events.ts';
import { fittedOf, readRun } from './runs.ts';

const MAX_TRIES = 5;

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
