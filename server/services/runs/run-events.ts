import { isDeepStrictEqual } from 'node:util';
import {
  adjustTrouble,
  DECISIONS,
  oddRecord,
  outcomeOf,
  Refusal,
  tooOld,
  type RunEvent,
  type RunState,
} from '@frustum/core';
import type { OutgoingEvent } from '@frustum/contract';
import type { RunRecord } from '../../store/commands/runs.ts';

/** The server itself, as the sender of an event. */
export const SERVER_DEVICE = 'server';

/** A decision that was made on an older picture of the run. */
export const hasMoved = (state: RunState, { body, onSeq }: OutgoingEvent): boolean =>
  DECISIONS.includes(body.type) && onSeq !== null && onSeq !== state.seq;

/** What was decided since a screen was painted, when, and on which device; '' for nothing. */
function decidedSince(known: readonly RunEvent[], onSeq: number | null): string {
  const last = known.findLast((e) => e.seq > (onSeq ?? 0) && DECISIONS.includes(e.body.type));
  if (!last) return '';
  const { body, at, device } = last;
  const what = body.type === 'decided' ? `decided “${body.action}”` : DONE_WORDS[body.type];
  return ` Device ${device.slice(-4)} ${what ?? 'changed it'} at ${at.slice(11, 16)} UTC.`;
}
const DONE_WORDS: Partial<Record<RunEvent['body']['type'], string>> = {
  adjusted: 'adjusted the channel',
  'adjustment-refused': 'noted that the instrument refused it',
  closed: 'closed it',
  abandoned: 'abandoned it',
  'step-reopened': 'went back to a step',
};

/** @throws Refusal `run-moved`, with what was decided meanwhile, when, and on which device */
export function refuseIfMoved(state: RunState, event: OutgoingEvent, known: readonly RunEvent[]): void {
  if (!hasMoved(state, event)) return;
  throw new Refusal(
    'run-moved',
    `This run has moved on since (step ${event.onSeq} on screen, ${state.seq} now: “${state.current?.title ?? 'ended'}”).${decidedSince(known, event.onSeq)} Look at it again, then decide.`,
    { onSeq: event.onSeq, seq: state.seq },
  );
}

/**
 * A reading that was no live one any more when it was captured says nothing about the cup. When the capture arrives here does
 * not matter.
 *
 * @param limit a reading older than this is no live one, s; null where nothing is live
 * @throws Refusal `reading-too-old`
 */
export function refuseIfOld(events: readonly OutgoingEvent[], limit: number | null): void {
  if (!limit) return;
  for (const { body, at } of events) {
    const age = body.type === 'captured' ? tooOld(body.capture, at, limit) : null;
    if (age === null) continue;
    const words = `This capture is not kept: ${ageWords(age, limit)}. Settle again, then capture.`;
    throw new Refusal('reading-too-old', words, { limit });
  }
}

function ageWords(age: number, limit: number): string {
  if (age < 0) return `it is dated ${Math.round(-age)} s before its newest reading, by a clock that has jumped`;
  if (!Number.isFinite(age)) return 'it does not say when its newest reading came';
  return `its newest reading was ${Math.round(age)} s old; a live one is ${limit} s at most`;
}

/** When it happened: not before the run began, not in the future, and no capture before its newest sample. */
export function atOf({ at, body }: OutgoingEvent, startedAt: string, nowMs: number): string {
  const sampledAt = body.type === 'captured' ? body.capture.sampledAt : null;
  const least = Math.max(Date.parse(startedAt), Date.parse(sampledAt ?? startedAt));
  return new Date(Math.min(nowMs, Math.max(least, Date.parse(at)))).toISOString();
}

/**
 * An adjustment by cups that read alike would leave a channel that shows nothing.
 *
 * @throws Refusal `nothing-to-adjust-by`
 */
export function refuseIfUnfit(state: RunState, { body }: OutgoingEvent): void {
  const adjusts = body.type === 'adjusted' || (body.type === 'decided' && body.action === 'adjust');
  const trouble = adjusts ? adjustTrouble(state) : null;
  if (trouble) throw new Refusal('nothing-to-adjust-by', trouble);
}

/** As it is after it was stored: without what JSON leaves out. */
const asKept = (body: RunEvent['body']): unknown => JSON.parse(JSON.stringify(body));

/** What the server itself made of an event: figures that were read back, a note of what came too late. */
const wasChangedHere = (kept: RunEvent['body'], sent: RunEvent['body']): boolean =>
  kept.type === 'adjusted' || (kept.type === 'noted' && sent.type !== 'noted');

/**
 * Those of a batch that are not known yet, each once.
 *
 * @throws Refusal `counter-taken` when a device gives two different events one number
 */
export function freshOf(incoming: readonly OutgoingEvent[], known: readonly RunEvent[]): readonly OutgoingEvent[] {
  const fresh: OutgoingEvent[] = [];
  for (const event of incoming) {
    const same = ({ device, counter }: Pick<RunEvent, 'device' | 'counter'>) =>
      device === event.device && counter === event.counter;
    const before = known.find(same) ?? fresh.find(same);
    if (!before) fresh.push(event);
    else if (!wasChangedHere(before.body, event.body) && !isDeepStrictEqual(asKept(before.body), asKept(event.body)))
      throw new Refusal(
        'counter-taken',
        `Event ${event.counter} of device ${event.device.slice(-4)} is known already, as something else. Load the page again, then repeat what is missing.`,
        { counter: event.counter },
      );
  }
  return fresh;
}

/** Facts that come after a run has ended are kept as notes: they happened, and change nothing any more. */
export function cameLate(state: RunState, event: OutgoingEvent): OutgoingEvent {
  const { body } = event;
  if (state.status === 'open' || DECISIONS.includes(body.type) || STILL_TAKEN.includes(body.type)) return event;
  return { ...event, body: { type: 'noted', text: `Came after the run had ended: ${factWords(body)}.` } };
}
const STILL_TAKEN: readonly RunEvent['body']['type'][] = ['noted', 'hold-released'];

function factWords(body: OutgoingEvent['body']): string {
  if (body.type === 'captured') {
    const { signal, temperatureC, method } = body.capture;
    return `a capture (${method}) of ${Number(signal.toPrecision(6))} at ${temperatureC} °C in step ${body.stepId}`;
  }
  if (body.type === 'skipped') return `step ${body.stepId} was passed over, because ${body.because}`;
  if (body.type === 'warned') return `a warning in step ${body.stepId}: ${oddRecord(body.odd, body.kept)}`;
  return `${body.type}${'stepId' in body ? ` of step ${body.stepId}` : ''}`;
}

/** Columns of the run that follow from its state. */
export function derivedOf(state: RunState): Pick<RunRecord, 'status' | 'holding' | 'endedAt' | 'outcome'> {
  return {
    status: state.status,
    holding: state.hold !== null && !state.hold.releasedAt,
    endedAt: state.endedAt,
    outcome: state.status === 'closed' ? outcomeOf(state) : null,
  };
}
