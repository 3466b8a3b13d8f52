import { median } from '../statistics/robust.ts';
import { expectedAt, fitApproach } from './approach.ts';
import type { Sample } from './trace.ts';
import { COARSE } from './ways.ts';

/** Samples that must agree before a jump counts: one bubble passing is not a disturbance. */
const AGREEING = 3;
/** How far beyond what the approach foresees, in standard deviations and in mV. */
const MIN_Z = 8;
const MIN_MV = 1.5;
/** Samples that the forecast needs behind it. */
const MIN_BEHIND = 10;
/** and no more than these: the next few samples follow from the last ones, however long a trace is. */
const MAX_BEHIND = 160;
/** How far a trace has been looked through: hand it back with the longer trace and only the new samples cost anything. */
export interface Checked {
  readonly from: number;
  /** samples before this index need no second look */
  readonly end: number;
  /** first sample after the last disturbance found */
  readonly found: number | null;
}

/**
 * Finds the last place where the signal left what its approach foresaw: a wiggle, a bubble burst, another cup.
 *
 * @param from first sample that counts
 * @param before what the last call returned for the same, then shorter, trace
 */
export function disturbanceIn(samples: readonly Sample[], from: number, resolution: number, before?: Checked): Checked {
  const known = before && before.from === from && before.end <= samples.length ? before : null;
  let found = known?.found ?? null;
  let start = found ?? from;
  let end = Math.max(known?.end ?? 0, start + MIN_BEHIND);
  // Three samples are judged together; the next look begins at the first odd one among them, so that none is split.
  for (; end + AGREEING <= samples.length; end += AGREEING) {
    if (goesOn(samples, end)) continue;
    const approach = fitApproach(samples.slice(Math.max(start, end - MAX_BEHIND), end), resolution, { grid: COARSE });
    if (!approach) continue;
    const gaps = samples.slice(end, end + AGREEING).map((s) => {
      const { mean, sd } = expectedAt(approach, s.t - approach.now);
      return { gap: s.signal - mean, z: (s.signal - mean) / Math.hypot(sd, approach.noise) };
    });
    const odd = ({ gap, z }: { gap: number; z: number }) => Math.abs(z) > MIN_Z && Math.abs(gap) > MIN_MV;
    const first = gaps.findIndex(odd);
    if (odd({ z: median(gaps.map((g) => g.z)), gap: median(gaps.map((g) => g.gap)) })) {
      start = end + Math.max(0, first);
      found = start;
      end = start + MIN_BEHIND - AGREEING;
      continue;
    }
    if (first >= 0) end += Math.max(1, first) - AGREEING;
  }
  return { from, end, found };
}

/** A trace that hardly moves from three samples to the next three has not left anything: that needs no forecast. */
const CALM_MV = MIN_MV / 3;
function goesOn(samples: readonly Sample[], end: number): boolean {
  const before = samples.slice(end - AGREEING, end);
  const [a, b, c] = before.map((s) => s.signal);
  const middle = median([a!, b!, c!]);
  const near = (s: Sample) => Math.abs(s.signal - middle) < CALM_MV;
  return before.every(near) && samples.slice(end, end + AGREEING).every(near);
}
