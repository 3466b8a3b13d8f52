import { adjustTrouble, DECISIONS, Refusal, tooOld, type RunEvent, type RunState } from '@frustum/core';
import type { OutgoingEvent } from '@frustum/contract';

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
