import { Refusal, type LoopId } from '@frustum/core';
import type { DosesView, NewDoses, TakeBackDoses } from '@frustum/contract';
import { encodeDoses } from '@frustum/formats';
import type { Context } from '../../context.ts';

/** What was written down may be taken back for so long; later it stands, like all records. */
const TAKE_BACK_MS = 24 * 3_600_000;
/** A browser's clock may be this far ahead of ours. */
const AHEAD_MS = 60_000;
const SHOWN = 8;

/** The last doses into a loop's water. @throws Refusal `loop-unknown` */
export async function readDoses(context: Context, loopId: LoopId): Promise<DosesView> {
  const { store, now } = context;
  await mustKnow(context, loopId);
  const { all, last } = await store.readLastDoses(loopId, SHOWN);
  return {
    all,
    last: last.map(({ at, what, amount, unit, notedAt }) => ({
      at,
      what,
      amount,
      unit,
      noted: notedAt !== null && now() - Date.parse(notedAt) < TAKE_BACK_MS ? notedAt : null,
    })),
  };
}

/** All doses into a loop's water as CSV, oldest first. @throws Refusal `loop-unknown` */
export async function dosesTable(context: Context, loopId: LoopId): Promise<string> {
  await mustKnow(context, loopId);
  return encodeDoses(
    await context.store.readDoses(loopId, new Date(0).toISOString(), new Date(context.now()).toISOString()),
  );
}

/**
 * Writes down what was dosed, just now or earlier. The same substance at the same moment counts once.
 *
 * @returns how many of them were new
 * @throws Refusal `loop-unknown`; `not-yet` for a moment to come
 */
export async function noteDoses(context: Context, loopId: LoopId, { doses }: NewDoses): Promise<{ kept: number }> {
  const { store, now, newId } = context;
  await mustKnow(context, loopId);
  const nowMs = now();
  const notedAt = new Date(momentOfItsOwn(context, nowMs)).toISOString();
  const ahead = doses.find((d) => d.at && Date.parse(d.at) > nowMs + AHEAD_MS);
  if (ahead)
    throw new Refusal('not-yet', `${ahead.at!} is still to come. Check the day, or the clock that wrote it.`, {
      at: ahead.at!,
    });
  const kept = await store.keepDoses(
    doses.map(({ at, what, amount, unit }) => ({
      id: newId(),
      loopId,
      at: new Date(at ?? nowMs).toISOString(),
      what,
      amount,
      unit,
      notedAt,
    })),
  );
  context.changed();
  return { kept };
}

const lastNoted = new WeakMap<Context, number>();

/** What is noted at one moment is taken back together: two orders within one millisecond must not share it. */
function momentOfItsOwn(context: Context, nowMs: number): number {
  const moment = Math.max(nowMs, (lastNoted.get(context) ?? -Infinity) + 1);
  lastNoted.set(context, moment);
  return moment;
}

/**
 * Takes back all that was written down at one moment: a dose, or a file of them.
 *
 * @throws Refusal `loop-unknown`; `stands` when that was more than a day ago, or there is no such dose
 */
export async function takeBackDoses(context: Context, loopId: LoopId, { noted }: TakeBackDoses): Promise<void> {
  const { store, now } = context;
  await mustKnow(context, loopId);
  if (!(await store.dropDoses(loopId, noted, new Date(now() - TAKE_BACK_MS).toISOString())))
    throw new Refusal('stands', 'Only doses that were written down within the last day can be taken back.', { noted });
  context.changed();
}

async function mustKnow({ store }: Context, loopId: LoopId): Promise<void> {
  if (!(await store.readFittedLoops()).some((f) => f.loop.id === loopId))
    throw new Refusal('loop-unknown', 'There is no such loop. Go back to Margins and pick one.', { loopId });
}
