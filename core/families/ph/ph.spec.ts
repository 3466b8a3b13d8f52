import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buffer } from '../../solutions/buffers.ts';
import { calibrationOf } from '../../calibration/fit.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import { asFound, modelOf } from '../../sensor/sensor.ts';
import { shownErrorOf } from '../../sensor/shown-error.ts';
import { errorGradientOf, workingErrorOf } from '../../sensor/working-error.ts';
import { errorGradient, millivolts, shownError, shownPh } from './electrode.ts';
import { PH } from './family.ts';
import { IDEAL_SENSOR, type Coefficients } from '../../sensor/coefficients.ts';
import type { StandardPoint } from '../../sensor/standard-point.ts';

const MODEL = modelOf(PH);
const expected = { zero: 0, zeroSd: 5, sensitivity: 1, sensitivitySd: 0.03 };
/** As a run of these standards would find it. */
const fitCalibration = (points: readonly StandardPoint[]) =>
  calibrationOf(
    {
      family: 'ph',
      workingC: 25,
      inForce: IDEAL_SENSOR,
      expected,
      // A slope is what is asked for here, also of one standard or two that are alike.
      points: [buffer('technical-4.01'), buffer('technical-7.00')].map((standard) => ({
        standard,
        lot: { id: '', label: '' },
      })),
    },
    points,
  );
const foundAt = (at: Pick<StandardPoint, 'standard' | 'temperatureC' | 'signal'>, inForce: Coefficients) =>
  asFound(MODEL, { lotId: '', signalUncertainty: 0, ...at }, inForce);

const point = (id: string, signal: number, temperatureC = 25, lotId = id): StandardPoint => ({
  standard: buffer(id),
  lotId,
  temperatureC,
  signal,
  signalUncertainty: 0.2,
});

describe('Nernst slope: CODATA 2018 constants, recomputed from the published formula', () => {
  it.each([
    [0, 54.199],
    [25, 59.159],
    [37, 61.54],
    [50, 64.12],
  ])('at %s °C is %s mV/pH', (t, k) => expect(nernstSlope(t)).toBeCloseTo(k, 2));

  it('is within the rounding of practice: 59 at 25 °C, 64 and 128 for one and two units at 50 °C (common practice, no source)', () => {
    expect(Math.round(nernstSlope(25))).toBe(59);
    expect(Math.round(nernstSlope(50))).toBe(64);
    expect(Math.round(2 * nernstSlope(50))).toBe(128);
  });

  it('refuses below absolute zero and for no number', () => {
    expect(() => nernstSlope(-300)).toThrow(/-300 °C is outside/);
    expect(() => nernstSlope(NaN)).toThrow(/not a number/);
  });
});

describe('two-point fit', () => {
  it('gives 94.68 % for −8.4 and −176.9 mV at 24.6 °C with the buffers’ tables, recomputed by hand', () => {
    const fit = fitCalibration([point('technical-7.00', -8.4, 24.6), point('technical-10.01', -176.9, 24.6)]);
    if (!fit.ok) throw new Error(fit.message);
    expect(100 * fit.coefficients.sensitivity).toBeCloseTo(94.68, 1);
    expect(fit.residuals.every((r) => Math.abs(r) < 1e-9)).toBe(true);
  });

  it('would give 94.75 % with the printed 7.00 and 10.01: the slip that the tables prevent', () => {
    expect((176.9 - 8.4) / 3.01 / nernstSlope(24.6)).toBeCloseTo(0.9475, 3);
  });

  it('reproduces any electrode exactly (seed 20260)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -40, max: 40, noNaN: true }),
        fc.double({ min: 0.7, max: 1.05, noNaN: true }),
        fc.double({ min: 5, max: 50, noNaN: true }),
        (zero, slope, t) => {
          const at = (id: string) => {
            const value = foundAt(
              { standard: buffer(id), temperatureC: t, signal: 0 },
              { zero: 0, sensitivity: 1 },
            ).expected;
            return point(id, millivolts(value, t, { zero, sensitivity: slope }), t);
          };
          const fit = fitCalibration([at('technical-4.01'), at('technical-7.00'), at('technical-10.01')]);
          if (!fit.ok) throw new Error(fit.message);
          expect(fit.coefficients.zero).toBeCloseTo(zero, 6);
          expect(fit.coefficients.sensitivity).toBeCloseTo(slope, 8);
          expect(fit.chiSquare).toBeLessThan(1e-9);
        },
      ),
      { seed: 20260, numRuns: 200 },
    );
  });

  it('refuses one standard, and two that are alike, with the way out', () => {
    expect(fitCalibration([point('technical-7.00', 0)])).toMatchObject({ ok: false, reason: 'too-few-standards' });
    const alike = fitCalibration([point('technical-7.00', 0), point('primary-phosphate', 3)]);
    expect(alike).toMatchObject({ ok: false, reason: 'standards-not-distinct' });
    expect(!alike.ok && alike.message).toMatch(/at least 1/);
  });

  it('sees three points that cannot lie on one line', () => {
    const fit = fitCalibration([
      point('technical-4.01', 177),
      point('technical-7.00', 8),
      point('technical-10.01', -178),
    ]);
    expect(fit.ok && fit.chiSquare).toBeGreaterThan(20);
  });

  it('agrees with 10 000 Monte Carlo draws of its inputs within 2.5 % (JCGM 101:2008; seed 7)', () => {
    const points = [point('technical-7.00', -5, 23), point('technical-4.01', 165, 23)];
    const fit = fitCalibration(points);
    if (!fit.ok) throw new Error(fit.message);
    const slopes: number[] = [];
    const zeros: number[] = [];
    let state = 7;
    const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
    const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    for (let i = 0; i < 10000; i++) {
      const thermometer = 0.2 * normal();
      // Lot and rounding move the table itself: two lots here, each with an error of its own.
      const drawn = points.map((p) => {
        const off = 0.01 * normal() + 0.01 * (uniform() - 0.5);
        return {
          ...p,
          standard: { ...p.standard, table: p.standard.table.map(([t, v]) => [t, v + off] as const) },
          signal: p.signal + 0.2 * normal(),
          temperatureC: p.temperatureC + thermometer,
        };
      });
      const one = fitCalibration(drawn);
      if (!one.ok) continue;
      slopes.push(one.coefficients.sensitivity);
      zeros.push(one.coefficients.zero);
    }
    const sd = (x: number[]) => {
      const m = x.reduce((s, v) => s + v, 0) / x.length;
      return Math.sqrt(x.reduce((s, v) => s + (v - m) ** 2, 0) / (x.length - 1));
    };
    expect(Math.sqrt(fit.covariance[0][0]) / sd(zeros)).toBeCloseTo(1, 1.3);
    expect(Math.sqrt(fit.covariance[1][1]) / sd(slopes)).toBeCloseTo(1, 1.3);
  });
});

describe('as found', () => {
  it('a channel that showed 7.29 and 10.25 in 7.00 and 10.01 has a relative gain of 0.98339, recomputed', () => {
    expect((10.25 - 7.29) / (10.01 - 7.0)).toBeCloseTo(0.98339, 5);
    const inForce = { zero: 0, sensitivity: 1 };
    const points = [
      point('technical-7.00', millivolts(7.29, 25, inForce)),
      point('technical-10.01', millivolts(10.25, 25, inForce)),
    ];
    const fit = fitCalibration(points);
    expect(fit.ok && fit.coefficients.sensitivity).toBeCloseTo(0.98339, 4);
    expect(foundAt(points[0]!, inForce).error).toBeCloseTo(0.29, 6);
  });

  it('shown pH and potential are each other’s inverse (seed 11)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 14, noNaN: true }), fc.double({ min: 0, max: 50, noNaN: true }), (ph, t) => {
        const inForce = { zero: -12, sensitivity: 0.91 };
        expect(shownPh(millivolts(ph, t, inForce), t, inForce)).toBeCloseTo(ph, 9);
      }),
      { seed: 11 },
    );
  });

  it('carries the uncertainty to the working value: larger outside the standards than between them', () => {
    const fit = fitCalibration([point('technical-7.00', 0), point('technical-4.01', 177)]);
    if (!fit.ok) throw new Error(fit.message);
    const at = (ph: number) =>
      workingErrorOf(MODEL, fit.whole, IDEAL_SENSOR, { value: ph, temperatureC: 25, calibrationC: 25 }).uncertainty;
    expect(at(5.5)).toBeLessThan(at(9.5));
    expect(at(5.5)).toBeGreaterThan(0.01);
  });

  it('an ideal slope in force and a worn one in the probe: the error grows away from 7', () => {
    expect(shownError(4, 25, { zero: 0, sensitivity: 0.95 }, { zero: 0, sensitivity: 1 })).toBeCloseTo(0.15, 10);
    expect(() => shownPh(10, 25, { zero: 0, sensitivity: 0 })).toThrow(/Calibrate with two standards/);
  });

  it('the derivative by steps that serves every family gives glass its closed form (seed 12)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2, max: 12, noNaN: true }),
        fc.double({ min: 5, max: 50, noNaN: true }),
        fc.double({ min: 0.6, max: 1.1, noNaN: true }),
        (value, temperatureC, sensitivity) => {
          const [actual, inForce] = [
            { zero: -7, sensitivity: 0.93 },
            { zero: 4, sensitivity },
          ];
          const at = { value, temperatureC };
          const closed = errorGradient(value, temperatureC, inForce);
          const stepped = errorGradientOf(MODEL, at, actual, inForce);
          expect(stepped.perZero / closed.perZero).toBeCloseTo(1, 6);
          expect(stepped.perSensitivity).toBeCloseTo(closed.perSensitivity, 6);
          expect(shownErrorOf(MODEL, at, actual, inForce)).toBeCloseTo(
            shownError(value, temperatureC, actual, inForce),
            9,
          );
        },
      ),
      { seed: 12 },
    );
  });
});
