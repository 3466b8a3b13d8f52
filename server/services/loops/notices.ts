import { MS_PER_DAY, Refusal, type LoopId } from '@frustum/core';
import type { NewNotice, NoticeRow, TakeBackNotice } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { TAKE_BACK_MS } from '../sensors/service-rows.ts';

/** A browser's clock may be this far ahead of ours. */
const AHEAD_MS = 60_000;
const MAX_DAYS = 400;

async function loopIn({ store }: Context, loopId: LoopId) {
  const found = (await store.readFittedLoops()).find((f) => f.loop.id === loopId);
  if (found) return found;
  throw new Refusal('loop-unknown', 'There is no such loop in use. Go back to Margins and pick one.', { loopId });
}

/** What was noticed at a loop over the last days, newest first. @throws Refusal `loop-unknown`, `out-of-range` */
export async function readNotices(context: Context, loopId: LoopId, days: number): Promise<NoticeRow[]> {
  if (!(days >= 1 && days <= MAX_DAYS))
    throw new Refusal('out-of-range', `Ask for 1 to ${MAX_DAYS} days.`, { value: days, low: 1, high: MAX_DAYS });
  await loopIn(context, loopId);
  const nowMs = context.now();
  const iso = (ms: number) => new Date(ms).toISOString();
  const rows = await context.store.readNotices(loopId, iso(nowMs - days * MS_PER_DAY), iso(nowMs + AHEAD_MS));
  return rows.map(({ at, kind, note, by, notedAt }) => ({
    at,
    kind,
    note,
    by,
    fresh: nowMs - Date.parse(notedAt) < TAKE_BACK_MS,
  }));
}

/**
 * Notes what somebody noticed at a loop, just now or earlier. A reason to look makes its sensor due.
 *
 * @throws Refusal `loop-unknown`; `not-yet` for a moment to come
 */
export async function noteNotice(
  context: Context,
  loopId: LoopId,
  { kind, note, at }: NewNotice,
  by: string,
): Promise<NoticeRow> {
  const { store, now, newId } = context;
  const { sensor } = await loopIn(context, loopId);
  const atMs = at ? Date.parse(at) : now();
  if (atMs > now() + AHEAD_MS)
    throw new Refusal('not-yet', 'That is still to come. Note it when it has happened.', { at: at ?? '' });
  const row = { at: new Date(atMs).toISOString(), kind, note, by };
  // What was noticed before this sensor came says nothing of it.
  const own = atMs >= (sensor.fittedMs ?? -Infinity) ? sensor.id : null;
  await store.keepNotices([{ id: newId(), loopId, sensorId: own, ...row, notedAt: new Date(now()).toISOString() }]);
  context.changed();
  return { ...row, fresh: true };
}

/** Takes one back. @throws Refusal `stands` when it was written down more than a day ago, or is not there */
export async function takeBackNotice(context: Context, loopId: LoopId, entry: TakeBackNotice): Promise<void> {
  const { store, now } = context;
  if (!(await store.dropNotice(loopId, entry, new Date(now() - TAKE_BACK_MS).toISOString())))
    throw new Refusal(
      'stands',
      'Only what was written down within the last day can be taken back. Note beside it what was not so.',
      { at: entry.at },
    );
  context.changed();
}
