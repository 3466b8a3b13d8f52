import { ticks } from 'd3-array';
import { timeTicks } from 'd3-time';

/** How every chart writes along its axes. */
export const TICK = { fill: 'var(--color-secondary)', fontSize: 13, fontFamily: 'var(--font-mono)' };

/** Round values along an axis, about five of them. @example roundTicks(7.88, 8.23) // [7.9, 8, 8.1, 8.2] */
export const roundTicks = (low: number, high: number): number[] => ticks(low, high, 4);

/** Round moments along an axis, midnights or full hours of the viewer's zone, about six of them: epoch milliseconds. */
export const roundMoments = (fromMs: number, toMs: number): number[] =>
  timeTicks(new Date(fromMs), new Date(toMs), 6).map(Number);
