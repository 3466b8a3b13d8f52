import { Refusal } from '../quantities/refusal.ts';
import { AIR } from '../solutions/without-liquid.ts';
import type { OddId } from './odd.ts';
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

/** How sentences of version 2 began, and what they were about. */
const BEGINNINGS: readonly (readonly [string, OddId])[] = [
  ['It was restless and shifted', 'bubble'],
  ['It read in', 'cap-on'],
  ['It lay toward', 'carry-over'],
  ['The cup of', 'cup-cold'],
  ['It was restless and hardly', 'dry-tip'],
  ['It swung at a steady beat', 'hum'],
  ['Adjusted inside its own noise', 'inside-noise'],
  ['It looked turned over', 'polarity'],
  ['Read back it was', 'read-back'],
  ['Another scale was doubted', 'typed-scale'],
  ['Another scale', 'scale'],
  ['The time was up', 'still-moving'],
  ['The thermometer did not move', 'thermometer-elsewhere'],
  ['A power of ten', 'tenfold'],
  ['Exchanged digits', 'digits'],
  ['Another unit was doubted', 'other-unit'],
  ['Another bottle was doubted', 'other-bottle'],
  ['A figure far from', 'far-figure'],
  ['°F was doubted', 'fahrenheit'],
  ['A temperature far from', 'far-temperature'],
  ['It was far from its history', 'unlike-itself'],
  ['The cell conducted in air', 'wet-cell'],
  ['Another temperature coefficient', 'wrong-coefficient'],
  ['It looked like', 'wrong-cup'],
  ['It stopped at the end of a range', 'wrong-range'],
  ['It shows', 'still-in-cup'],
];
const MENDED = '; mended.';

/** 2 to 3: what was warned of is a code with its facts; before, it was a sentence, which stays as it was said. */
function oddHasACode(body: RunEventBody): RunEventBody {
  if (body.type !== 'warned' || !('warning' in body) || typeof body.warning !== 'string') return body;
  const { warning, ...rest } = body as typeof body & { warning: string };
  const was = BEGINNINGS.find(([words]) => warning.startsWith(words))?.[1] ?? '';
  const text = warning.endsWith(MENDED) ? warning.slice(0, -MENDED.length) : warning;
  return { ...rest, odd: { id: 'as-said', facts: { text, was } } };
}

/**
 * What has changed in the words of events, one entry for each version after the first. A kept event is never written anew:
 * it is lifted whenever it is read, here and nowhere else.
 */
const LIFTS: readonly Lift[] = [airSaysSo, oddHasACode];

/**
 * What a browser of before has kept or sends, in today’s words: there a version is not said, and old words tell themselves.
 *
 * @example inTodaysWords({ type: 'closed' }).type // 'closed'
 */
export const inTodaysWords = <B extends RunEventBody>(body: B): B => oddHasACode(body) as B;

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
