import { describe, expect, it } from 'vitest';
import type { LiveTraceSample } from '@frustum/core';
import type { LiveSample, LoopRow } from '@frustum/contract';
import { conePoints } from './charts/cone-data.ts';
import { pointsOf } from './charts/readings-chart.tsx';
import { asSignals } from './features/bench/use-live-trace.ts';
import { valueScale } from './charts/trace-chart.tsx';
import { roundTicks, timeAxis } from './charts/tick.ts';
import { shrunk } from './features/bench/shrink-photo.ts';
import { inFamily, upper } from './format/in-family.ts';
import { headline, needsHands } from './features/margins/headline.ts';
import { dueWords } from './format/dates.ts';
import { about, clock, fixed, signed, between } from './format/numbers.ts';

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
    expect(dueWords(NOW + 9 * DAY, NOW)).toEqual({ main: 'in 9 days', day: 'Wed 2 Dec', overdue: false });
    expect(dueWords(NOW + 419 * DAY, NOW)).toEqual({ main: 'in 419 days', day: 'Sun 16 Jan 2028', overdue: false });
    expect(dueWords(NOW, NOW).main).toBe('Today');
    expect(dueWords(NOW + DAY, NOW).main).toBe('Tomorrow');
    expect(dueWords(NOW + 2 * DAY, NOW).main).toBe('in 2 days');
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
          [0, 0, 0.007, 0.02],
          [10, 0.02, 0.02, 0.06],
        ] as const,
      },
      {
        fromMs: 10,
        toMs: 20,
        points: [
          [10, 0, 0.007, 0.02],
          [20, 0.01, 0.014, 0.04],
        ] as const,
      },
    ],
  };

  it('has bands of 50 and 95 %, and a gap where a run narrowed it', () => {
    const points = conePoints(cone, 0, 20);
    expect(points).toHaveLength(6);
    expect(points[1]!.wide![1] - points[1]!.wide![0]).toBeCloseTo(2 * 0.06, 9);
    expect(points[1]!.half![1] - points[1]!.half![0]).toBeCloseTo(2 * 0.02, 9);
    expect(points[2]).toMatchObject({ t: 10, wide: null });
  });

  it('leaves out what is not in the window', () => expect(conePoints(cone, 12, 20)).toHaveLength(3));
});

describe('a range of time in words', () => {
  it.each([
    [0, 8, 'up to 10 s'],
    [12, 34, '10 to 40 s'],
    [41, 95, '40 s to 2 min'],
    [135, 400, '2 to 7 min'],
    [100, 118, '1.5 to 2 min'],
    [60, 60, 'about 1 min'],
    [61, 400, '1 to 7 min'],
    [600, 890, '10 to 15 min'],
  ])('%s to %s s: %s', (low, high, words) => expect(between(low, high)).toBe(words));
});

describe('a channel that shows pH', () => {
  const sample = (unit: 'mV' | 'pH', signal: number) =>
    ({ channelId: 'a', t: 1, epoch: 'e', atMs: 1, signal, unit, temperatureC: 25 }) as const;
  const inForce = { zero: -8, sensitivity: 0.95 };
  const ph = inFamily({ family: 'ph', workingValue: 7, workingC: 25, tolerance: 0.1 });

  it('is turned back into mV by what it believes, and shown as it is', () => {
    const [turned] = asSignals([sample('pH', 4.01)], ph, inForce);
    // −8 − 0.95 · 59.159 · (4.01 − 7)
    expect(turned!.signal).toBeCloseTo(160.04, 1);
    expect(ph.valueOf(4.01, 'pH', 25, inForce)).toBe(4.01);
    expect(ph.valueOf(turned!.signal, 'mV', 25, inForce)).toBeCloseTo(4.01, 9);
  });

  it('is turned back once: a trace that is painted again and again asks only for what is new', () => {
    const known = new WeakMap<LiveSample, LiveTraceSample | null>();
    const first = sample('pH', 4.01);
    const [before] = asSignals([first], ph, inForce, known);
    const [again, next] = asSignals([first, { ...sample('pH', 5), t: first.t + 1 }], ph, inForce, known);
    expect(again).toBe(before);
    expect(next!.signal).toBeLessThan(before!.signal);
  });

  it('mV stay as they came, the same list', () => {
    const list = [sample('mV', 5)];
    expect(asSignals(list, ph, inForce)).toBe(list);
  });
});

describe('figures of a family', () => {
  it('a resistivity far below the water’s keeps three figures: 84 µS/cm is 0.0119 MΩ·cm', () => {
    const of = inFamily({
      family: 'resistivity',
      settings: { cellConstant: 0.01, alpha: 2 },
      workingValue: 1.1,
      workingC: 18,
      tolerance: 0.15,
    });
    expect(of.value(0.0119048)).toBe('0.0119');
    expect(of.value(1.0834)).toBe('1.08');
    expect(of.off(0.0119)).toBe('+0.01');
  });

  it('a name begins a line with a capital, but for pH', () => {
    expect([upper('air zero'), upper('pH')]).toEqual(['Air zero', 'pH']);
  });
});

describe('a photo of a display', () => {
  it('of 80 MB is refused before it is read, with what is allowed', async () => {
    const made = await shrunk({ size: 80e6 } as Blob);
    expect(made).toEqual({
      ok: false,
      message:
        'This file has 80.0 MB; a picture has 30 at most. Take it again in a smaller size. Nothing else of the run is lost.',
    });
  });
});

describe('what a figure looks like in each family', () => {
  it('unit and digits follow family and tolerance', () => {
    const at = (family: string, workingValue: number, tolerance: number, settings = {}) =>
      inFamily({ family, settings, workingValue, workingC: 25, tolerance });
    expect(at('ph', 5.8, 0.15).value(5.8)).toBe('5.80');
    expect(at('conductivity', 1850, 80).value(1849.6)).toBe('1850');
    expect(at('conductivity', 1850, 80).coefficients({ zero: 0.1, sensitivity: 1.004 })).toBe('0 µS, 100.4 %');
    expect(at('chlorine', 0.5, 0.1).off(0.06)).toBe('+0.06');
    expect(at('orp', 220, 20).signal(-9.164)).toBe('−9.2');
  });

  it('what a family cannot show is nothing, never NaN: a salinity in air', () => {
    const salinity = inFamily({ family: 'salinity', workingValue: 35, workingC: 25, tolerance: 1 });
    expect(salinity.shown(0, 25, { zero: 0, sensitivity: 1 })).toBeNull();
    expect(salinity.value(salinity.shown(0, 25, { zero: 0, sensitivity: 1 }))).toBe('–');
  });

  it('a trace’s axis has round steps for any unit, four to seven of them', () => {
    for (const [from, to, least] of [
      [6.98, 7.02, 0.01],
      [0, 1413, 1],
      [0.4, 0.55, 0.01],
      [52_000, 53_065, 1],
    ] as const) {
      const { ticks, low, high } = valueScale(from, to, least);
      expect(low).toBeLessThanOrEqual(from);
      expect(high).toBeGreaterThanOrEqual(to);
      expect(ticks.length).toBeGreaterThan(2);
      expect(ticks.length).toBeLessThan(9);
    }
  });
});

describe('the axes of readings', () => {
  it('have round figures, and midnights of the viewer', () => {
    expect(roundTicks(7.88, 8.23)).toEqual([7.9, 8, 8.1, 8.2]);
    expect(roundTicks(20, 30)).toEqual([20, 22, 24, 26, 28, 30]);
    const week = timeAxis(Date.UTC(2026, 10, 19, 9, 30), Date.UTC(2026, 10, 26, 9, 30));
    expect(week.ticks.map(week.tickFormatter)).toEqual(
      ['20', '21', '22', '23', '24', '25', '26'].map((day) => `${day} Nov`),
    );
    const year = timeAxis(Date.UTC(2025, 10, 19), Date.UTC(2026, 10, 26));
    expect(year.ticks.map(year.tickFormatter)).toEqual(['Jan 26', 'Apr 26', 'Jul 26', 'Oct 26']);
    const morning = timeAxis(+new Date(2026, 10, 26, 6), +new Date(2026, 10, 26, 12));
    expect(morning.ticks.map(morning.tickFormatter)).toContain('09:00');
    // A sensor with one run has one day.
    const once = timeAxis(Date.UTC(2026, 10, 19, 9, 30), Date.UTC(2026, 10, 19, 9, 30));
    expect(once.ticks.map(once.tickFormatter)).toEqual(['19 Nov']);
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
