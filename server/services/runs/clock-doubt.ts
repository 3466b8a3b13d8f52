import { apply, replay, type RunEvent, type RunId } from '@frustum/core';
import type { ClockDoubt } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { derivedOf, SERVER_DEVICE } from './run-events.ts';

/** While the computer's time is not believed, a run says so, once. */
export async function noteDoubt({ clock, store, now }: Context, runId: RunId, by: string): Promise<void> {
  if (!clock.doubt) return;
  const known = await store.readEvents([runId]);
  const text = doubtWords(clock.doubt);
  if (!known.length || known.some(({ body }) => body.type === 'noted' && body.text === text)) return;
  const afterSeq = known.at(-1)!.seq;
  const event: RunEvent = {
    seq: afterSeq + 1,
    device: `${SERVER_DEVICE}, time`,
    counter: afterSeq + 1,
    at: new Date(now()).toISOString(),
    by,
    body: { type: 'noted', text },
  };
  const derived = derivedOf(apply(replay(known), event));
  await store.appendEvents({ runId, afterSeq, events: [event], derived });
}

const minuteOf = (ms: number) => `${new Date(ms).toISOString().slice(0, 16).replace('T', ' ')} UTC`;

function doubtWords({ because, saidMs, reckonedMs }: ClockDoubt): string {
  const what =
    because === 'jumped'
      ? `jumped from ${minuteOf(reckonedMs)} to ${minuteOf(saidMs)}`
      : `said ${minuteOf(saidMs)}, before the newest record of ${minuteOf(reckonedMs)}`;
  return `Time unsure: the clock of the server’s computer ${what}. Times in this run go on from ${minuteOf(reckonedMs)}.`;
}
