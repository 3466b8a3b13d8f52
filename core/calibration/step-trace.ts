import type { Sample } from '../settling/trace.ts';
import type { RunState } from './state.ts';

/** A sample as it came in. */
export interface LiveTraceSample extends Sample {
  /** by the server's clock, epoch ms */
  readonly atMs: number;
}

/**
 * Samples that belong to the current step. In the epoch in which it began they are told by the channel's own time, to
 * the sample; in a later one, whose clock began anew, by when they came.
 *
 * @param samples of one epoch, oldest first
 * @param lookBack seconds before the step's beginning that belong to it too: a wiggle shows against what came before it
 * @example ofThisStep({ traceFrom: 5, traceEpoch: 'a', traceSince: '' }, [{ t: 6, signal: 0, temperatureC: 25, atMs: 0 }], 'a', 0).length // 1
 */
export function ofThisStep<S extends LiveTraceSample>(
  { traceFrom, traceEpoch, traceSince }: Pick<RunState, 'traceFrom' | 'traceEpoch' | 'traceSince'>,
  samples: readonly S[],
  epoch: string,
  lookBack: number,
): readonly S[] {
  if (traceFrom !== null && traceEpoch === epoch) return samples.filter((s) => s.t >= traceFrom - lookBack);
  const sinceMs = Date.parse(traceSince);
  return samples.filter((s) => s.atMs >= sinceMs);
}

/** A trace that begins no later than this after the run shows the whole way from the water, ms. */
const FROM_THE_START_MS = 5000;

/**
 * How far a thermometer has moved since a run began: the probe was taken out, rinsed and carried, °C.
 *
 * @param samples of one epoch, oldest first
 * @returns undefined where the trace does not go back so far
 */
export function movedSince(startedAt: string, samples: readonly LiveTraceSample[]): number | undefined {
  const fromMs = Date.parse(startedAt);
  if (!samples.length || samples[0]!.atMs > fromMs + FROM_THE_START_MS) return undefined;
  let [low, high] = [Infinity, -Infinity];
  for (const { atMs, temperatureC } of samples)
    if (atMs >= fromMs) [low, high] = [Math.min(low, temperatureC), Math.max(high, temperatureC)];
  return high >= low ? high - low : undefined;
}

/**
 * Whether a trace has begun anew since the current step began: what was seen before is no part of it any more.
 *
 * @param epoch of the trace as it is now
 * @param begunMs when that epoch began, by the server's clock, epoch ms; it tells of a step that began while nothing was live
 * @example hasBegunAnew({ traceEpoch: 'a', traceSince: '2026-11-23T09:00:00Z' }, 'b', null) // true
 */
export function hasBegunAnew(
  { traceEpoch, traceSince }: Pick<RunState, 'traceEpoch' | 'traceSince'>,
  epoch: string,
  begunMs: number | null,
): boolean {
  if (traceEpoch !== null) return epoch !== '' && traceEpoch !== epoch;
  return begunMs !== null && begunMs > Date.parse(traceSince);
}

/** Transport, and a clock that was asked over a network, s. */
const SLACK_S = 2;

/**
 * The age of a capture's newest sample, if it was too old when somebody captured it.
 *
 * @param at when it was captured, ISO 8601 UTC
 * @param staleSeconds a reading older than this is no live one
 * @returns s; below 0 for a capture that is dated before its own sample, by a clock that has jumped; null when it was fresh,
 *   and for a capture that is not live
 * @example tooOld({ method: 'live', sampledAt: '2026-11-23T09:00:00Z' }, '2026-11-23T09:01:00Z', 15) // 60
 */
export function tooOld(
  { method, sampledAt }: { readonly method: string; readonly sampledAt?: string | null },
  at: string,
  staleSeconds: number,
): number | null {
  if (method !== 'live') return null;
  const age = sampledAt ? (Date.parse(at) - Date.parse(sampledAt)) / 1000 : Infinity;
  return age >= -SLACK_S && age <= staleSeconds + SLACK_S ? null : age;
}
