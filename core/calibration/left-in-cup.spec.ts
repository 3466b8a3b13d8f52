import { describe, expect, it } from 'vitest';
import { CATALOGUE } from '../families/catalogue.ts';
import { planOnPaper } from './bench-plan.ts';
import type { RunEventBody, RunPlan } from './events.ts';
import { cupByTheSheet, stillInCup } from './left-in-cup.ts';
import { replay } from './replay.ts';

const AT = '2026-11-23T09:00:00.000Z';

/** A cell on a hall's nutrient: 1834 µS/cm in the water, 1413 in the cup, in µS of a cell of 1/cm. */
const plan = (more: Partial<RunPlan> = {}): RunPlan => ({
  ...planOnPaper(
    {
      family: 'conductivity',
      settings: { cellConstant: 1, alpha: 0 },
      loopName: 'Hall EC',
      controls: 'nutrient dosing',
      workingValue: 1800,
      workingC: 25,
      tolerance: 60,
    },
    ['air', 'kcl-0.01'].map((id) => CATALOGUE.find((s) => s.id === id)!),
  ),
  resolution: 1,
  waterBefore: { signal: 1834, temperatureC: 25 },
  ...more,
});

/** A run that has come so far: a step's id is done, and a figure is what was captured there. */
function run(of: RunPlan, done: readonly (string | readonly [string, number])[]) {
  const bodies: RunEventBody[] = done.map((d) =>
    typeof d === 'string'
      ? { type: 'step-done', stepId: d, traceSeconds: null }
      : {
          type: 'captured',
          stepId: d[0],
          traceSeconds: null,
          capture: {
            pointIndex: Number(d[0].split('.').at(-1)),
            purpose: 'as-found',
            method: 'typed',
            signal: d[1],
            signalUncertainty: 0.5,
            temperatureC: 25,
            settledSeconds: null,
            t90: null,
            trace: [],
          },
        },
  );
  return replay(
    [{ type: 'started' as const, plan: of }, ...bodies].map((body, i) => ({
      seq: i + 1,
      device: 'paper-device',
      counter: i + 1,
      at: AT,
      by: '',
      body,
    })),
  );
}
const IN_CUP = ['hold', 'take-out', 'p1.place.0', ['p1.settle.0', 0.2], 'p1.place.1', ['p1.settle.1', 1421]] as const;
const shows = (signal: number) => ({ signal, temperatureC: 25 });

describe('a probe that should be back in its water', () => {
  it.each([
    ['the cup, to the figure', 1421, true],
    ['the cup, a little warmer', 1440, true],
    ['nearer to the cup than to the water', 1600, true],
    ['nearer to the water', 1700, false],
    ['its water', 1834, false],
    ['its water, which has moved on', 2100, false],
    ['air', 0, true],
  ])('shows %s: %s µS', (_, signal, still) => {
    expect(stillInCup(run(plan(), IN_CUP), shows(signal)) !== null).toBe(still);
  });

  it('says which cup, and what the water gave', () => {
    expect(stillInCup(run(plan(), IN_CUP), shows(1421))).toMatchObject({
      cup: { signal: 1421 },
      waterBefore: { signal: 1834 },
    });
    expect(stillInCup(run(plan({ waterBefore: undefined }), IN_CUP), shows(1421))).toMatchObject({ waterBefore: null });
  });

  it('says nothing where cup and water read alike, where nothing was captured, and where no probe was moved', () => {
    expect(stillInCup(run(plan({ waterBefore: { signal: 1425, temperatureC: 25 } }), IN_CUP), shows(1421))).toBeNull();
    expect(stillInCup(run(plan(), IN_CUP.slice(0, 3)), shows(1421))).toBeNull();
    const sample = plan({ procedure: { kind: 'sample', id: 'sample', version: 1, name: 'Grab sample' } });
    expect(
      stillInCup(run({ ...sample, points: sample.points.slice(1) }, [['p1.settle.0', 1421]]), shows(1421)),
    ).toBeNull();
  });
});

describe('the cup that a probe stands in by the sheet', () => {
  it('is known from one cup to the next, and not in water, in air, or after the end', () => {
    const cups = [2, 3, 4, 5, 6].map((n) => cupByTheSheet(run(plan(), IN_CUP.slice(0, n))));
    expect(cups).toEqual([null, null, null, '1413 µS/cm', '1413 µS/cm']);
    const state = run(plan(), IN_CUP);
    expect(cupByTheSheet({ ...state, status: 'abandoned' })).toBeNull();
    expect(cupByTheSheet({ ...state, done: [...state.done, 'return'] })).toBeNull();
  });
});
