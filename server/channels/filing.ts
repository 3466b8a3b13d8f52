import type { ChannelConfig } from '@frustum/contract';

/** A clock may differ by this much from ours and still say when a reading was taken, ms. */
const NEAR_MS = 300_000;
/** Readings of tomorrow are set aside, ms. */
const AHEAD_MS = 86_400_000;
/** A device's clock that shows less counts from its own beginning; more is a time since 1970 (RFC 8428, section 4.5.3), s. */
const ABSOLUTE_FROM_S = 2 ** 28;

/** Under which moment a reading is kept, and whether it says what there is now. */
type Filing =
  | { readonly as: 'live'; readonly atMs: number }
  | { readonly as: 'past'; readonly atMs: number }
  | { readonly as: 'aside'; readonly atMs: number; readonly because: string };

/** Whether a channel sends later what it measured while it was away. */
export const isBuffered = (config: ChannelConfig): boolean => 'buffered' in config && config.buffered;

/**
 * One rule for the time of a reading: that of its receipt, unless the channel is declared buffered, or its own time lies near.
 *
 * @param own the device's clock, s; null where it has none
 * @param receivedMs when it came, epoch ms
 * @param staleMs a reading older than this is no live one
 * @param fittedMs when the sensor was fitted, epoch ms: it can have given nothing before
 * @example filingOf(null, 1e12, { buffered: true, staleMs: 15_000, fittedMs: 0 }) // { as: 'live', atMs: 1000000000000 }
 */
export function filingOf(
  own: number | null,
  receivedMs: number,
  { buffered, staleMs, fittedMs }: { readonly buffered: boolean; readonly staleMs: number; readonly fittedMs: number },
): Filing {
  if (own === null || own < ABSOLUTE_FROM_S) return { as: 'live', atMs: receivedMs };
  const ownMs = 1000 * own;
  const ahead = ownMs - receivedMs;
  if (!buffered) return { as: 'live', atMs: Math.abs(ahead) <= NEAR_MS ? ownMs : receivedMs };
  if (ahead > AHEAD_MS) return { as: 'aside', atMs: ownMs, because: 'more than a day ahead' };
  if (ownMs < fittedMs) return { as: 'aside', atMs: ownMs, because: 'before its sensor was fitted' };
  return { as: Math.abs(ahead) <= Math.max(staleMs, 0) ? 'live' : 'past', atMs: ownMs };
}
