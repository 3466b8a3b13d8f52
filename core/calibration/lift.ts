import { Refusal } from '../quantities/refusal.ts';
import { AIR } from '../solutions/without-liquid.ts';
import type { RunEvent, RunEventBody } from './events.ts';

/** Brings a body of one version to the next one. */
export type Lift = (body: RunEventBody) => RunEventBody;

/** 1 to 2: a standard says itself that the sensor hangs in air for it; before, the one of that id did. */
function airSaysSo(body: RunEventBody): RunEventBody {
  if (body.type !== 'started') return body;
  const points = body.plan.points.map((p) =>
    p.standard.id === AIR.id ? { ...p, standard: { ...p.standard, inAir: true } } : p,
  );
  return { ...body, plan: { ...body.plan, points } };
}

/**
 * What has changed in the words of events, one entry for each version after the first. A kept event is never written anew:
 * it is lifted whenever it is read, here and nowhere else.
 */
const LIFTS: readonly Lift[] = [airSaysSo];

/** The version that events are written in today. */
export const EVENT_VERSION = LIFTS.length + 1;

/**
 * An event in today’s words.
 *
 * @param event with the version that its body is written in; without one it is of today
 * @param lifts for tests: from version 1 on
 * @throws Refusal `newer-event` for one that a newer Frustum has written
 * @example lifted({ seq: 9, device: 'phone', counter: 1, at: '', by: '', body: { type: 'closed' }, version: 1 }).body.type // 'closed'
 */
export function lifted(event: RunEvent, lifts: readonly Lift[] = LIFTS): RunEvent {
  const today = lifts.length + 1;
  const { version = today, ...rest } = event;
  if (version > today)
    throw new Refusal(
      'newer-event',
      `This run was written by a newer Frustum (version ${version} of its events; this one reads up to ${today}). Open it there.`,
      { version, today },
    );
  return { ...rest, body: lifts.slice(version - 1).reduce((body, lift) => lift(body), rest.body) };
}
