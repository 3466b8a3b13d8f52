import { judge, limitsOf, Refusal, replay, type LoopId, type RunEvent } from '@frustum/core';
import { alikeIn, type WouldBe, type WouldBeView } from '@frustum/contract';
import type { Context } from '../../context.ts';
import { Slices } from '../../slices.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import { rowOf } from '../margins/margins.ts';
import { readPictures } from './pictures.ts';
import { requireFit, toOf } from './set-up.ts';

/** So many verdicts are looked at again. */
const MAX_VERDICTS = 40;

/**
 * What other figures would make of a loop: its margin now, its due date, and how its last verdicts would have come out. Nothing is
 * kept.
 *
 * @throws Refusal `loop-unknown`, `out-of-range`
 */
export async function wouldBe(
  context: Context,
  loopId: LoopId,
  { to, also }: WouldBe,
  gone: () => boolean,
): Promise<WouldBeView> {
  const { house, of } = await readPictures(context);
  const fitted = house.all.find((f) => f.loop.id === loopId);
  if (!fitted) throw new Refusal('loop-unknown', 'There is no such loop in use. Look at Set-up again.', { loopId });
  const other: FittedLoop = { ...fitted, loop: { ...fitted.loop, ...toOf(to) } };
  requireFit(await context.store.readStandards(), other.loop);
  const nowMs = context.now();
  const picture = of(fitted);
  const [now, then] = [fitted, other].map((f) => {
    const { margin, due } = rowOf(f, picture, null, nowMs);
    return { state: margin.state, chanceOutside: margin.chanceOutside, dueMs: due.atMs };
  });
  // The others have the figures of their own, but for what goes for all.
  const others = house.all
    .filter((f) => also.includes(f.loop.id) && f.loop.id !== loopId)
    .map((f): FittedLoop => ({ ...f, loop: { ...f.loop, ...toOf(alikeIn(to)) } }));
  const states = others.map((f) => {
    const kept = house.all.find((k) => k.loop.id === f.loop.id)!;
    return [kept, f].map((k) => rowOf(k, of(kept), null, nowMs).margin.state);
  });
  const outside = (at: 0 | 1) => [[now!.state, then!.state], ...states].filter((s) => s[at] === 'outside').length;
  const { verdicts, otherwise } = await verdictsUnder(context, [other, ...others], gone);
  const all = { loops: 1 + others.length, outside: { now: outside(0), then: outside(1) } };
  return { ...all, now: now!, then: then!, verdicts, otherwise };
}

/** How the last verdicts of loops would have come out under other figures: those that would have been another action, by it. */
async function verdictsUnder({ store }: Context, others: readonly FittedLoop[], gone: () => boolean) {
  const runs = await Promise.all(
    others.map(async ({ sensor, loop }) => (await store.readRunsOf(sensor.id)).map((run) => ({ run, loop }))),
  );
  const closed = runs
    .flat()
    .filter(({ run }) => run.status === 'closed')
    .sort((a, b) => (b.run.endedAt ?? '').localeCompare(a.run.endedAt ?? ''))
    .slice(0, MAX_VERDICTS);
  const otherwise: Record<string, number> = {};
  let verdicts = 0;
  const slices = new Slices();
  for (const { run, loop } of closed) {
    const { tolerance, workingValue, workingC } = loop;
    const limits = limitsOf(loop);
    if (slices.isOver) {
      await slices.next();
      if (gone()) break;
    }
    const events = await store.readEvents([run.id]);
    const was = judge(replay(events))?.action;
    const would = judge(replay(events.map((e) => under(e, { tolerance, workingValue, workingC, limits }))))?.action;
    if (was === undefined || would === undefined) continue;
    verdicts++;
    if (would !== was) otherwise[would] = (otherwise[would] ?? 0) + 1;
  }
  return { verdicts, otherwise };
}

/** A run's beginning with other figures in its plan. */
const under = (event: RunEvent, figures: object): RunEvent =>
  event.body.type === 'started'
    ? { ...event, body: { ...event.body, plan: { ...event.body.plan, ...figures } } }
    : event;
