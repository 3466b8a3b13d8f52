import { describe, expect, it } from 'vitest';
import type { LoopRow } from '@frustum/contract';
import { conePoints } from './charts/cone-data.ts';
import { pointsOf } from './charts/readings-chart.tsx';
import { inMillivolts } from './features/bench/use-live-trace.ts';
import { shownOf } from './format/shown.ts';
import { headline, needsHands } from './features/margins/headline.ts';
import { dueWords } from './format/dates.ts';
import { about, clock, fixed, signed } from './format/numbers.ts';

const NOW = Date.UTC(2026, 10, 23, 12);
const DAY = 86_400_000;
const row = (
  loopName: string,
  dueDays: number | null,
  state: LoopRow['margin']['state'] = 'inside',
  openRunId: string | null = null,
) =>
  ({ loopName, openRunId, margin: { state }, due: { atMs: dueDays === null ? null : NOW + dueDays * DAY } }) as LoopRow;

describe('figures as they are shown', () => {
  it('with a real minus sign, never a negative nothing, and a dash for what is not there', () => {
    expect(fixed(-8.44, 1)).toBe('−8.4');
    expect(fixed(-0.001, 2)).toBe('0.00');
    expect(signed(0.09, 2)).toBe('+0.09');
    expect(signed(0.001, 2)).toBe('0.00');
    expect([fixed(null, 2), fixed(NaN, 2), signed(undefined, 1)]).toEqual(['–', '–', '–']);
  });

  it('time left, without more digits than it deserves', () => {
    expect([clock(38), clock(761), clock(68_760)]).toEqual(['0:38', '12:41', '19 h 06']);
    expect([about(33), about(2), about(240)]).toEqual(['about 35 s', 'about 5 s', 'about 4 min']);
  });

  it('dates as people say them', () => {
    expect(dueWords(NOW + 9 * DAY, NOW)).toEqual({ main: 'in 9 days', day: 'Wed 2 Dec' });
    expect(dueWords(NOW, NOW).main).toBe('Today');
    expect(dueWords(NOW - DAY, NOW).main).toBe('overdue 1 day');
    expect(dueWords(null, NOW).main).toBe('First run');
  });
});

describe('what matters today, in a sentence', () => {
  it.each([
    [[row('A', 5), row('B', 9)], 'No sensor needs hands today.'],
    [[row('A', -3), row('B', 9)], 'A needs hands today.'],
    [[row('A', -3), row('B', null)], 'Two sensors need hands today. B was never calibrated.'],
    [[row('A', -3), row('B', 9, 'near the edge')], 'A needs hands today. B is near the edge.'],
    [[row('A', -3, 'inside', 'run'), row('B', 9)], 'A needs hands today. A is on the bench.'],
  ])('%#', (rows, sentence) => expect(headline(rows, NOW)).toBe(sentence));

  it('outside needs hands, whatever the calendar says', () =>
    expect(needsHands(row('A', 20, 'outside'), NOW)).toBe(true));
});

describe('the cone as it is drawn', () => {
  const cone = {
    marks: [],
    segments: [
      {
        fromMs: 0,
        toMs: 10,
        points: [
          [0, 0, 0.01],
          [10, 0.02, 0.03],
        ] as const,
      },
      {
        fromMs: 10,
        toMs: 20,
        points: [
          [10, 0, 0.01],
          [20, 0.01, 0.02],
        ] as const,
      },
    ],
  };

  it('has bands of 50 and 95 %, and a gap where a run narrowed it', () => {
    const points = conePoints(cone, 0, 20);
    expect(points).toHaveLength(6);
    expect(points[1]!.wide![1] - points[1]!.wide![0]).toBeCloseTo(2 * 1.959964 * 0.03, 9);
    expect(points[1]!.half![1] - points[1]!.half![0]).toBeCloseTo(2 * 0.67449 * 0.03, 9);
    expect(points[2]).toMatchObject({ t: 10, wide: null });
  });

  it('leaves out what is not in the window', () => expect(conePoints(cone, 12, 20)).toHaveLength(3));
});

describe('a channel that shows pH', () => {
  const sample = (unit: 'mV' | 'pH', signal: number) =>
    ({ channelId: 'a', t: 1, signal, unit, temperatureC: 25 }) as const;
  const inForce = { zero: -8, sensitivity: 0.95 };

  it('is turned back into mV by what it believes, and shown as it is', () => {
    const [turned] = inMillivolts([sample('pH', 4.01)], inForce);
    // −8 − 0.95 · 59.159 · (4.01 − 7)
    expect(turned!.signal).toBeCloseTo(160.04, 1);
    expect(shownOf(sample('pH', 4.01), { inForce })).toBe(4.01);
    expect(shownOf(sample('mV', turned!.signal), { inForce })).toBeCloseTo(4.01, 9);
  });

  it('mV stay as they came, the same list', () => {
    const list = [sample('mV', 5)];
    expect(inMillivolts(list, inForce)).toBe(list);
  });
});

describe('readings over time', () => {
  const bucket = (atMs: number, onBench = false) => ({ atMs, mean: 6, low: 5.9, high: 6.1, temperatureC: 21, onBench });
  const view = (minutes: number[], bench: number[] = []) => ({
    unit: 'pH' as const,
    widthMs: 60_000,
    fromMs: 0,
    toMs: 1e7,
    buckets: minutes.map((m) => bucket(60_000 * m, bench.includes(m))),
  });

  it('no line is drawn across a silence, and one bucket that is missing is none', () => {
    const points = pointsOf(view([1, 2, 3, 5, 40, 41]));
    expect(points.map((p) => [p.t / 60_000, p.mean])).toEqual([
      [1, 6],
      [2, 6],
      [3, 6],
      [5, 6],
      [6, null],
      [40, 6],
      [41, 6],
    ]);
  });

  it('what lies ten minutes apart throughout is one line; the bench is a line of its own', () => {
    const points = pointsOf(view([0, 10, 20, 30], [20]));
    expect(points.map((p) => [p.mean, p.bench])).toEqual([
      [6, null],
      [6, null],
      [null, 6],
      [6, null],
    ]);
  });
});
