import { describe, expect, it } from 'vitest';
import { AIR } from '../solutions/without-liquid.ts';
import { CONDUCTIVITY_STANDARDS } from '../solutions/conductivity-standards.ts';
import { REDOX_STANDARDS } from '../solutions/redox-standards.ts';
import type { Standard } from '../solutions/standard.ts';
import { calibrationOf } from './fit.ts';
import { digitsFor } from '../sensor/written.ts';

const KCL = CONDUCTIVITY_STANDARDS[0]!;
const planOf = (family: string, standards: readonly Standard[], sensitivitySd = 0.03) => ({
  family,
  settings: {},
  workingC: 25,
  inForce: { zero: 2, sensitivity: 1 },
  expected: { zero: 2, zeroSd: 5, sensitivity: 1, sensitivitySd },
  points: standards.map((standard) => ({ standard, lot: { id: standard.id, label: '' } })),
});
const at = (standard: Standard, signal: number) => ({
  standard,
  lotId: standard.id,
  temperatureC: 25,
  signal,
  signalUncertainty: 0.1,
});

describe('what the standards of a run do not determine', () => {
  it('one wet standard gives a gain; the zero stays what was in force, as uncertain as its history', () => {
    const fit = calibrationOf(planOf('conductivity', [KCL]), [at(KCL, 2 + 0.97 * 1413)]);
    if (!fit.ok) throw new Error(fit.message);
    expect(fit.coefficients.zero).toBe(2);
    expect(fit.coefficients.sensitivity).toBeCloseTo(0.97, 9);
    expect(Math.sqrt(fit.covariance[0][0])).toBeCloseTo(5, 6);
    // A zero that is 5 µS too high makes the gain 5/1413 too low: the two go together.
    expect(fit.covariance[0][1] / fit.covariance[0][0]).toBeCloseTo(-1 / 1413, 8);
  });

  it('air alone gives a zero, and the gain keeps its own spread', () => {
    const fit = calibrationOf(planOf('conductivity', [AIR]), [at(AIR, 3.5)]);
    if (!fit.ok) throw new Error(fit.message);
    expect(fit.coefficients.zero).toBeCloseTo(3.5, 12);
    expect(fit.coefficients.sensitivity).toBe(1);
    expect(Math.sqrt(fit.covariance[1][1])).toBeCloseTo(0.03, 9);
  });

  it('the first of two planned standards alone is no calibration yet', () => {
    const plan = planOf('conductivity', [AIR, KCL]);
    expect(calibrationOf(plan, [at(AIR, 3.5)])).toMatchObject({ ok: false, reason: 'too-few-standards' });
    const both = calibrationOf(plan, [at(AIR, 3.5), at(KCL, 3.5 + 0.97 * 1413)]);
    expect(both.ok && both.coefficients.sensitivity).toBeCloseTo(0.97, 9);
  });

  it('ORP has one offset and a gain of exactly one', () => {
    const standard = REDOX_STANDARDS[0]!;
    const fit = calibrationOf(planOf('orp', [standard], 0), [at(standard, 245)]);
    if (!fit.ok) throw new Error(fit.message);
    // 430.28 mV against hydrogen is 231.4 mV against saturated silver chloride (198.9 mV, Sawyer et al.).
    expect(fit.coefficients.zero).toBeCloseTo(245 - (430.28 - 198.9), 6);
    expect(fit.coefficients.sensitivity).toBe(1);
    expect(fit.covariance[1][1]).toBe(0);
  });
});

it('an error is printed with two figures of its tolerance', () => {
  expect([0.15, 0.1, 0.02, 5, 60, 1500].map(digitsFor)).toEqual([2, 2, 3, 1, 0, 0]);
});
