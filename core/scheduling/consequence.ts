import type { Margin } from '../drift/margin.ts';
import type { Due } from './fixed-interval.ts';

/** What the order of Margins goes by. */
export interface Standing {
  readonly loopName: string;
  readonly margin: Pick<Margin, 'state'>;
  readonly due: Due;
  /** what acts on the loop's value; '' = nothing */
  readonly controls: string;
}

/**
 * A sensor that is outside its tolerance is due now, whatever its date says.
 *
 * @param due date by calendar, forecast and services
 * @returns the earliest of all reasons, with that reason
 * @example dueWhenOutside({ atMs: 9, reason: 'every 30 days' }, 'outside', 5).reason // 'outside its tolerance'
 */
export function dueWhenOutside(due: Due, state: Margin['state'], nowMs: number): Due {
  if (state !== 'outside' || due.atMs === null || due.atMs <= nowMs) return due;
  return { atMs: nowMs, reason: 'outside its tolerance' };
}

/**
 * Which of two loops comes first: outside, then near the edge, overdue or never calibrated, then the others; among equals
 * what controls something, then what is due first.
 *
 * @returns below 0 when `a` comes first, as for `Array.sort`
 */
export function byConsequence(nowMs: number): (a: Standing, b: Standing) => number {
  const urgent = ({ margin, due }: Standing) =>
    margin.state === 'near the edge' || due.atMs === null || due.atMs <= nowMs;
  const rank = (s: Standing) => (s.margin.state === 'outside' ? 0 : urgent(s) ? 1 : 2);
  // Beyond what is urgent only the date counts: a loop that controls something does not jump a queue of weeks.
  const idle = (s: Standing) => Number(rank(s) < 2 && s.controls === '');
  const dueMs = (s: Standing) => s.due.atMs ?? nowMs;
  return (a, b) =>
    rank(a) - rank(b) || idle(a) - idle(b) || dueMs(a) - dueMs(b) || a.loopName.localeCompare(b.loopName);
}
