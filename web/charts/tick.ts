import { ticks } from 'd3-array';
import { timeTicks } from 'd3-time';
import { format, startOfDay, startOfMonth } from 'date-fns';

/** How every chart writes along its axes. */
export const TICK = { fill: 'var(--color-secondary)', fontSize: 13, fontFamily: 'var(--font-mono)' };

/** Round values along an axis, about five of them. @example roundTicks(7.88, 8.23) // [7.9, 8, 8.1, 8.2] */
export const roundTicks = (low: number, high: number): number[] => ticks(low, high, 4);

/** An axis of time: midnights, firsts of months or full hours of the viewer's zone, about six of them, and their words. */
export function timeAxis(fromMs: number, toMs: number) {
  const round = timeTicks(new Date(fromMs), new Date(toMs), 6);
  const moments = round.length > 0 ? round : [new Date(fromMs)];
  const words = moments.every((m) => +m === +startOfMonth(m))
    ? 'MMM yy'
    : moments.every((m) => +m === +startOfDay(m)) || toMs === fromMs
      ? 'd MMM'
      : 'HH:mm';
  return {
    type: 'number',
    ticks: moments.map(Number),
    tickFormatter: (t: number) => format(t, words),
    tick: TICK,
    stroke: 'var(--color-base-300)',
    minTickGap: 20,
  } as const;
}
