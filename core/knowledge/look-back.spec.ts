import { describe, expect, it } from 'vitest';
import type { RunOutcome } from '../calibration/outcome.ts';
import { NO_FLEET } from '../drift/pool.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import type { Fitted } from './fitted.ts';
import { HouseKnowledge } from './house.ts';
import { leanedOn, lookBacksOf } from './look-back.ts';

describe('a look-back', () => {
  it('counts the doses of the time in which the reading behind them was probably wrong, by substance', () => {
    const loop = { id: 'l', name: 'Line', family: 'ph', settings: {}, workingValue: 6, workingC: 25, tolerance: 0.1, controls: 'acid dosing', siteId: 'x', referenceGroup: '' }; // prettier-ignore
    const fitted = {
      loop,
      sensor: { id: 's', fittedMs: null },
      channel: { id: 'c', reads: {} },
      siteName: '',
    } as unknown as Fitted;
    // 12 mV are 0.2 pH: found outside on day 60, somewhere before it became so.
    const outcomes = [0, 0, 12].map((zero, i) => ({
      sensorId: 's',
      loopId: 'l',
      endedAt: new Date(30 * i * MS_PER_DAY).toISOString(),
      outcome: { kind: 'calibration', coefficients: { zero, sensitivity: 0.97 }, covariance: [[0.2, 0], [0, 1e-5]], inForceAfter: { zero, sensitivity: 0.97 }, cleaned: false } as unknown as RunOutcome, // prettier-ignore
    }));
    const given = (day: number, what: string, amount: number) => ({
      at: new Date(day * MS_PER_DAY).toISOString(),
      what,
      amount,
      unit: 'mL',
    });
    const doses = [given(50, 'acid', 10.25), given(52, 'base', 3), given(55, 'acid', 30)];
    const house = new HouseKnowledge([fitted], outcomes, [], { of: () => NO_FLEET });
    const [period] = lookBacksOf(fitted, house.pastOf(fitted), 61 * MS_PER_DAY);
    expect(period!.fromMs).toBeGreaterThan(30 * MS_PER_DAY);
    expect(leanedOn(period!, fitted, house, [], doses).filter((l) => l.kind === 'dose')).toEqual([
      { kind: 'dose', atMs: 50 * MS_PER_DAY, untilMs: 55 * MS_PER_DAY, what: '2 doses of acid, 40.25 mL in all', sensorId: 's' }, // prettier-ignore
      { kind: 'dose', atMs: 52 * MS_PER_DAY, what: 'one dose of base, 3 mL', sensorId: 's' },
    ]);
  });
});
