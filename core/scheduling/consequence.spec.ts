import { describe, expect, it } from 'vitest';
import { byConsequence, dueWhenOutside, type Standing } from './consequence.ts';

const NOW = 1000;
const loop = (loopName: string, state: Standing['margin']['state'], dueMs: number | null, controls = ''): Standing => ({
  loopName,
  margin: { state },
  due: { atMs: dueMs, reason: 'every 30 days' },
  controls,
});

describe('the order of consequence', () => {
  it('outside, then near the edge, overdue or never calibrated, then by date; what controls something first', () => {
    const rows = [
      loop('in a week, doses', 'inside', NOW + 7, 'pump'),
      loop('in a day', 'inside', NOW + 1),
      loop('never', 'not known', null),
      loop('overdue', 'inside', NOW - 5),
      loop('overdue, doses', 'inside', NOW - 1, 'pump'),
      loop('near the edge', 'near the edge', NOW + 9),
      loop('outside', 'outside', NOW + 20),
      loop('outside, doses', 'outside', NOW + 30, 'pump'),
    ];
    expect(rows.sort(byConsequence(NOW)).map((r) => r.loopName)).toEqual([
      'outside, doses',
      'outside',
      'overdue, doses',
      'overdue',
      'never',
      'near the edge',
      'in a day',
      'in a week, doses',
    ]);
  });

  it('outside is due now, with its reason; what is overdue keeps its own', () => {
    const due = { atMs: NOW + 7, reason: 'every 30 days' };
    expect(dueWhenOutside(due, 'outside', NOW)).toEqual({ atMs: NOW, reason: 'outside its tolerance' });
    expect(dueWhenOutside(due, 'near the edge', NOW)).toBe(due);
    const overdue = { atMs: NOW - 7, reason: 'every 30 days' };
    expect(dueWhenOutside(overdue, 'outside', NOW)).toBe(overdue);
  });
});
