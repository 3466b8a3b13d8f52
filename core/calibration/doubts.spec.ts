import { describe, expect, it } from 'vitest';
import { PH_LIMITS } from '../families/ph/limits.ts';
import { STATISTICAL } from '../settling/settle.ts';
import { buffer } from '../solutions/buffers.ts';
import { CATALOGUE } from '../families/catalogue.ts';
import { pairDoubts, sensorDoubts, signed } from './doubts.ts';
import type { RunPlan } from './events.ts';
import { calibrationOf, type Calibration } from './fit.ts';
import type { MeasuredPoint } from './measured.ts';

const plan: RunPlan = {
  family: 'ph',
  loopName: 'Line 9 pH',
  sensorName: 'Line 9 probe',
  points: ['technical-7.00', 'technical-4.01', 'technical-10.01'].map((id) => ({
    standard: buffer(id),
    lot: { id, label: id },
  })),
  school: STATISTICAL,
  controls: '',
  workingValue: 6,
  workingC: 25,
  tolerance: 0.15,
  limits: PH_LIMITS,
  inForce: { zero: 0, sensitivity: 1 },
  inForceKnown: true,
  expected: { zero: 0, zeroSd: 5, sensitivity: 0.98, sensitivitySd: 0.02 },
  channelKind: 'hand',
  resolution: 0.1,
};
/** 59.159 mV a pH at 25 °C, ICTNS: 2.302585 · 8.314463 · 298.15 / 96485.33. */
const K = 59.159;

/** Captured signals of an electrode in the first standards, with what each is off by. */
function points(
  zero: number,
  slope: number,
  off: readonly number[],
  more: Partial<Pick<MeasuredPoint, 't90' | 'disagreement'>> = {},
): MeasuredPoint[] {
  return off.map((by, pointIndex) => {
    const { standard } = plan.points[pointIndex]!;
    return {
      standard,
      lotId: standard.id,
      pointIndex,
      temperatureC: 25,
      signal: zero - slope * K * (standard.nominal - 7) + by,
      signalUncertainty: 0.1,
      disagreement: null,
      firstOff: null,
      t90: 20,
      ...more,
    };
  });
}
const codes = (
  zero: number,
  slope: number,
  off: readonly number[],
  more: Partial<Pick<MeasuredPoint, 't90' | 'disagreement'>> = {},
) => {
  const measured = points(zero, slope, off, more);
  return sensorDoubts(plan, calibrationOf(plan, measured) as Calibration, measured).map((d) => d.code);
};

describe('what speaks against a sensor', () => {
  it('nothing does while it is within its limits', () => {
    expect(codes(-5, 0.97, [0, 0])).toEqual([]);
  });

  it('each limit is one of its own, and says figure and limit', () => {
    const { sensitivityDead, sensitivityLow, sensitivityHigh, zero } = PH_LIMITS;
    expect(codes(0, sensitivityDead - 0.02, [0, 0])).toEqual(['slope-dead']);
    expect(codes(0, (sensitivityDead + sensitivityLow) / 2, [0, 0])).toEqual(['slope-low']);
    expect(codes(0, sensitivityHigh + 0.02, [0, 0])).toEqual(['slope-high']);
    expect(codes(zero + 5, 0.97, [0, 0])).toEqual(['zero-large']);
    expect(codes(-zero - 5, 0.97, [0, 0])).toEqual(['zero-large']);
    const measured = points(zero + 5, 0.97, [0, 0]);
    const [doubt] = sensorDoubts(plan, calibrationOf(plan, measured) as Calibration, measured);
    expect(doubt!.value).toBeCloseTo(zero + 5, 0);
    expect(doubt!.limit).toBe(zero);
    expect(doubt!.text).toMatch(/^Zero.* \+3\d\.\d mV is beyond ±30 mV: /);
  });

  it('what one standard does not determine is no doubt of today', () => {
    const check = { ...plan, points: plan.points.slice(0, 1), inForce: { zero: 0, sensitivity: 0.5 } };
    const measured = points(4, 0.5, [0]);
    const fit = calibrationOf(check, measured) as Calibration;
    expect(fit.coefficients.sensitivity).toBe(0.5);
    expect(fit.coefficients.zero).toBeCloseTo(4, 0);
    expect(sensorDoubts(check, fit, measured)).toEqual([]);
  });

  it('a slow cup, and two settlings that do not agree', () => {
    expect(codes(0, 0.97, [0, 0], { t90: PH_LIMITS.t90Seconds + 1 })).toEqual(['slow', 'slow']);
    expect(codes(0, 0.97, [0, 0], { t90: null })).toEqual([]);
    // Five hundredths of a pH are 3 mV.
    expect(codes(0, 0.97, [0, 0], { disagreement: 3 })).toEqual(['settlings-disagree', 'settlings-disagree']);
    expect(codes(0, 0.97, [0, 0], { disagreement: 0.3 })).toEqual([]);
  });

  it('three standards that do not lie on one line: a bottle', () => {
    expect(codes(0, 0.97, [0, 0, 0])).toEqual([]);
    expect(codes(0, 0.97, [0, 0, 12])).toContain('points-inconsistent');
  });

  it('a pair of ion standards is one only at one temperature', () => {
    const pair = CATALOGUE.filter((s) => s.family === 'ion').slice(0, 2);
    const at = (a: number, b: number) =>
      pairDoubts(
        { ...plan, family: 'ion' },
        pair.map((standard, i) => ({ ...points(0, 1, [0, 0])[i]!, standard, temperatureC: i ? b : a })),
      );
    expect(at(22, 22.5)).toEqual([]);
    const [doubt] = at(22, 22.8);
    expect(doubt).toMatchObject({ code: 'pair-apart', limit: 0.5 });
    expect(doubt!.value).toBeCloseTo(0.8, 9);
    expect(doubt!.text).toContain('0.8 °C apart; the limit is 0.5');
    expect(pairDoubts(plan, points(0, 1, [0, 0]))).toEqual([]);
  });

  it('a sign is written as one, and nothing has none', () => {
    expect([signed(-1.26, 1), signed(2, 0), signed(-0.04, 1)]).toEqual(['−1.3', '+2', '0.0']);
  });
});
