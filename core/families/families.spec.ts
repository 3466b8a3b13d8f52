import { readdirSync } from 'node:fs';
import fc from 'fast-check';
import { inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantities/refusal.ts';
import { buffer } from '../solutions/buffers.ts';
import { CONDUCTIVITY_STANDARDS } from '../solutions/conductivity-standards.ts';
import { ionStandard } from '../solutions/ion-standard.ts';
import { nernstSlope } from '../solutions/nernst-slope.ts';
import { REDOX_STANDARDS } from '../solutions/redox-standards.ts';
import { grabSample } from '../solutions/sample.ts';
import type { Standard } from '../solutions/standard.ts';
import { budgetOf } from '../sensor/budget.ts';
import type { Settings } from '../sensor/family.ts';
import { AIR } from '../solutions/without-liquid.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import { fitSensor, type FitOptions } from '../sensor/fit.ts';
import { fitIon, GAP_LIMITS, idealGap } from './ion/over-temperature.ts';
import { IN_OXYGEN } from './oxygen-membrane/standards.ts';
import { interference } from './ion/nikolsky.ts';
import { simulateBudget } from '../sensor/monte-carlo.ts';
import { chainGains } from './ph-shown/chain.ts';
import { FAMILIES, familyOf } from './registry.ts';
import { bracket, bracketedValue } from '../sensor/segments.ts';
import { asFound, modelOf, shownValue, signalOf } from '../sensor/sensor.ts';
import { agree, offsetInSteps } from './temperature/two-thermometers.ts';
import type { StandardPoint } from '../sensor/standard-point.ts';

const SEED = 20265;

/** For each family: standards of its own, a working point, and the noise of its signal. */
const CAST: Record<
  string,
  { standards: Standard[]; working: number; temperatureC: number; noise: number; options?: FitOptions }
> = {
  temperature: {
    standards: [grabSample('temperature', 25.2, '°C', 0.2, 25)],
    working: 24,
    temperatureC: 24,
    noise: 0.02,
  },
  conductivity: { standards: [AIR, CONDUCTIVITY_STANDARDS[0]!], working: 1600, temperatureC: 22, noise: 1 },
  salinity: { standards: [grabSample('salinity', 35, 'PSS-78', 0.1, 25)], working: 33, temperatureC: 26, noise: 20 },
  resistivity: {
    standards: [grabSample('resistivity', 1, 'MΩ·cm', 0.02, 25)],
    working: 16,
    temperatureC: 22,
    noise: 0.1,
  },
  ph: { standards: [buffer('technical-7.00'), buffer('technical-10.01')], working: 8.2, temperatureC: 26, noise: 0.2 },
  'ph-shown': {
    standards: [buffer('technical-7.00'), buffer('technical-4.01')],
    working: 5.8,
    temperatureC: 22,
    noise: 0.004,
  },
  'ph-counts': {
    standards: [buffer('technical-7.00'), buffer('technical-4.01')],
    working: 5.8,
    temperatureC: 22,
    noise: 2,
  },
  orp: { standards: [REDOX_STANDARDS[0]!], working: 320, temperatureC: 25, noise: 0.5 },
  ion: {
    standards: [
      ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }),
      ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.0013 }),
    ],
    working: 120,
    temperatureC: 24,
    noise: 0.3,
  },
  chlorine: { standards: [grabSample('chlorine', 0.82, 'mg/L', 0.04, 22)], working: 0.8, temperatureC: 22, noise: 0.3 },
  'oxygen-optical': {
    standards: [IN_OXYGEN.all[0]!, IN_OXYGEN.all[1]!],
    working: 7.4,
    temperatureC: 24,
    noise: 0.002,
  },
  'oxygen-membrane': { standards: [IN_OXYGEN.all[1]!], working: 7.4, temperatureC: 24, noise: 0.06 },
  nitrate: { standards: [grabSample('nitrate', 22.1, 'mg/L NO3', 0.9, 22)], working: 5, temperatureC: 20, noise: 0.03 },
};

const pointsFor = (id: string, truth: Coefficients, temperatureC = 25): StandardPoint[] => {
  const model = modelOf(familyOf(id));
  return CAST[id]!.standards.map((standard) => {
    const value = model.shows(standard, standard.table.length ? valueOf(standard, temperatureC) : 0, { temperatureC });
    return {
      standard,
      lotId: standard.id,
      temperatureC,
      signal: model.origin + truth.zero + truth.sensitivity * model.ideal(value, { temperatureC }),
      signalUncertainty: CAST[id]!.noise,
    };
  });
};

/** By the two rows around it: near enough to place a point, and not the core's own interpolation. */
function valueOf(standard: Standard, temperatureC: number): number {
  const exact = standard.table.find(([t]) => t === temperatureC);
  if (exact) return exact[1];
  const next = standard.table.findIndex(([t]) => t > temperatureC);
  const [a, b] = [standard.table[next - 1]!, standard.table[next]!];
  return a[1] + ((b[1] - a[1]) * (temperatureC - a[0])) / (b[0] - a[0]);
}

describe('every family', () => {
  it('is one folder and one line in the registry, and nothing else knows it', () => {
    const folders = readdirSync(import.meta.dirname, { withFileTypes: true })
      .filter((e) => e.isDirectory())
      .map((e) => e.name);
    expect(folders.sort()).toEqual(FAMILIES.map((f) => f.id).sort());
    expect(folders.sort()).toEqual(Object.keys(CAST).sort());
    expect(() => familyOf('turbidity')).toThrow(/There is no family “turbidity”.*ph/);
  });

  for (const family of FAMILIES) {
    const model = modelOf(family);
    const cast = CAST[family.id]!;
    // Away from the ends, so that a worn sensor's signal stays inside the family's validity too.
    const low =
      family.id === 'salinity'
        ? 5
        : family.id === 'resistivity'
          ? 0.001
          : family.id === 'ion'
            ? 0.1
            : Math.max(model.range.low, -1000);
    const high = { salinity: 40, resistivity: 18, ion: 50_000 }[family.id] ?? Math.min(model.range.high, 100_000);
    const values = fc.double({ min: low, max: high, noNaN: true });
    const warmth = fc.double({ min: 11, max: 34, noNaN: true });

    it(`${family.id}: signal and value are each other's inverse, and rise or fall throughout (seed ${SEED})`, () => {
      fc.assert(
        fc.property(
          values,
          warmth,
          fc.double({ min: 0.7, max: 1.1, noNaN: true }),
          fc.double({ min: -0.01, max: 0.01, noNaN: true }),
          (v, t, s, z) => {
            const p = { zero: z, sensitivity: s };
            const signal = signalOf(model, v, { temperatureC: t }, p);
            const back = shownValue(model, signal, { temperatureC: t }, p);
            expect(Math.abs(back - v)).toBeLessThan(1e-6 * Math.max(1, Math.abs(v)));
            const more = Math.min(high, v + (high - low) / 50);
            if (more > v) {
              const rises = model.ideal(high, { temperatureC: t }) > model.ideal(low, { temperatureC: t });
              expect(model.ideal(more, { temperatureC: t }) > model.ideal(v, { temperatureC: t })).toBe(rises);
            }
          },
        ),
        { seed: SEED, numRuns: 150 },
      );
    });

    it(`${family.id}: its standards give back the truth that made them (seed ${SEED})`, () => {
      fc.assert(
        fc.property(
          fc.double({ min: 0.8, max: 1.05, noNaN: true }),
          fc.double({ min: -1, max: 1, noNaN: true }),
          (s, z) => {
            const free = fitSensor(family, model, pointsFor(family.id, { zero: 0, sensitivity: 1 }));
            if (!free.ok) throw new Error(free.message);
            const truth = {
              zero: free.free === 'sensitivity' ? 0 : z * Math.abs(cast.noise),
              sensitivity: free.free === 'zero' ? 1 : s,
            };
            const fit = fitSensor(family, model, pointsFor(family.id, truth));
            if (!fit.ok) throw new Error(fit.message);
            expect(fit.coefficients.sensitivity).toBeCloseTo(truth.sensitivity, 6);
            expect(Math.abs(fit.coefficients.zero - truth.zero)).toBeLessThan(1e-6 * (1 + Math.abs(truth.zero)));
            expect(fit.chiSquare).toBeLessThan(1e-6);
            const found = asFound(model, pointsFor(family.id, truth)[0]!, truth);
            expect(Math.abs(found.error)).toBeLessThan(1e-6 * Math.max(1, Math.abs(found.expected)));
          },
        ),
        { seed: SEED, numRuns: 40 },
      );
    });

    it(`${family.id}: the budget agrees with 25 000 Monte Carlo draws within 2 % (JCGM 101:2008; seed 5)`, () => {
      const fit = fitSensor(family, model, pointsFor(family.id, { zero: 0, sensitivity: 0.97 }), {
        held: { zero: 0, sensitivity: 0.97 },
        heldUncertainty: family.id === 'orp' || family.id === 'temperature' ? 0.002 : cast.noise / 2,
      });
      if (!fit.ok) throw new Error(fit.message);
      const at = { value: cast.working, temperatureC: cast.temperatureC, calibrationC: 25 };
      const budget = budgetOf(model, fit, at);
      const twin = simulateBudget(model, fit, at, 25_000, 5);
      expect(twin.failed).toBe(0);
      // 25 000 draws know a standard deviation to 0.45 %: 2 % is more than four times that.
      expect(Math.abs(twin.standardUncertainty / budget.combined - 1)).toBeLessThan(0.02);
      expect(Math.abs(twin.mean - cast.working)).toBeLessThan(0.1 * budget.combined);
      expect(budget.rows.every((r) => Number.isFinite(r.contribution) && r.contribution >= 0)).toBe(true);
      expect(Math.hypot(...budget.rows.map((r) => r.contribution))).toBeCloseTo(budget.combined, 12);
      expect(budget.expanded).toBeCloseTo(2 * budget.combined, 12);
    });

    it(`${family.id}: whatever passes validation gives a number or a refusal, never NaN (seed ${SEED})`, () => {
      const any = fc.double({ noNaN: true, noDefaultInfinity: true });
      fc.assert(
        fc.property(
          any,
          fc.double({ min: -60, max: 300, noNaN: true }),
          fc.double({ min: -2, max: 2, noNaN: true }),
          any,
          (x, t, s, z) => {
            for (const work of [
              () => signalOf(model, x, { temperatureC: t }, { zero: z, sensitivity: s }),
              () => shownValue(model, x, { temperatureC: t }, { zero: z, sensitivity: s }),
            ]) {
              try {
                expect(Number.isNaN(work())).toBe(false);
              } catch (error) {
                if (!(error instanceof Refusal)) throw error;
                expect(error.message.length).toBeGreaterThan(15);
              }
            }
          },
        ),
        { seed: SEED, numRuns: 400 },
      );
    });

    it(`${family.id}: refuses no standard, too many, and a setting that is none`, () => {
      expect(fitSensor(family, model, [])).toMatchObject({ ok: false, reason: 'too-few-standards' });
      const one = pointsFor(family.id, { zero: 0, sensitivity: 1 })[0]!;
      expect(fitSensor(family, model, Array(6).fill(one) as StandardPoint[])).toMatchObject({
        ok: false,
        reason: 'too-many-standards',
      });
      expect(() => modelOf(family, { colour: 1 })).toThrow(/has no setting “colour”/);
      const foreign = grabSample(family.id, 1, family.id === 'ion' ? 'mg/L' : 'dbar', 0.1, 25);
      expect(() => fitSensor(family, model, [{ ...one, standard: foreign }, one])).toThrow(/measures|Pick/);
    });
  }
});

describe('what no standard takes away, worked by hand', () => {
  it.each([
    // 16² · 0.0419 · (0.055/0.0419)^0.4 µS/cm · 1 % · 3/5 of the course / 0.94
    ['resistivity', 16, 22, 0, 0.0763],
    // 1 MΩ·cm at 10 °C: (1 − 0.055) µS/cm · 15 °C · 0.1 %/°C / 0.7 = 2.0 % of it
    ['resistivity', 1, 10, 1, 0.02025],
    // mV, whatever the slope makes of them
    ['ion', 120, 24, 0, 0.6],
    // 1600 µS/cm · 3 °C · 0.1 %/°C / 0.94
    ['conductivity', 1600, 22, 0, 5.11],
    // 0.3 pH · 10 K / 298.15 K
    ['ph', 8.2, 35, 1, 0.01006],
    ['chlorine', 0.8, 22, 0, 0.016],
    // 0.8 mg/L · ln 10 · 0.05 pH · what is hypochlorite at pH 8 and 25 °C: 1 − 1/(1 + 10^(8 − 7.537))
    ['chlorine', 0.8, 25, 1, 0.0685, { senses: 'acid', ph: 8 }],
  ] as const)('%s at %s and %s °C', (id, value, temperatureC, row, expected, settings: Settings = {}) => {
    const rows = modelOf(familyOf(id), settings).workingRows({ value, temperatureC, calibrationC: 25 });
    expect(rows[row]!.uncertainty / expected).toBeCloseTo(1, 1.7);
  });
});

describe('the fit', () => {
  const family = familyOf('ph');
  const model = modelOf(family);
  const at = (id: string, signal: number, lotId = id, temperatureC = 24): StandardPoint => ({
    standard: buffer(id),
    lotId,
    temperatureC,
    signal,
    signalUncertainty: 0.3,
  });

  it('is generalised least squares: the textbook matrices (ml-matrix) give the same zero, slope and χ²', () => {
    const points = [at('technical-4.01', 168), at('technical-7.00', -3.2), at('technical-10.01', -173.4)];
    const fit = fitSensor(family, model, points);
    if (!fit.ok) throw new Error(fit.message);
    const k = nernstSlope(24);
    const values = points.map((p) => asFound(model, p, { zero: 0, sensitivity: 1 }).expected);
    const x = new Matrix(values.map((v) => [1, -k * (v - 7)]));
    const y = Matrix.columnVector(points.map((p) => p.signal));
    // An error in pH moves the residual by what the worn slope makes of it.
    const worn = k * fit.coefficients.sensitivity;
    // Inputs: own noise, lot 0.01 pH each, rounding 0.01/√12, a thermometer common to all.
    const table = points.map((p) => (valueOf(p.standard, 25) - valueOf(p.standard, 20)) / 5);
    const perDegree = values.map((v, i) => -worn * table[i]! - (worn / (24 + 273.15)) * (v - 7));
    const v = new Matrix(
      points.map((_, i) =>
        points.map(
          (__, j) =>
            (i === j ? 0.09 + (worn * 0.01) ** 2 + (worn * 0.01) ** 2 / 12 : 0) + perDegree[i]! * perDegree[j]! * 0.04,
        ),
      ),
    );
    const w = inverse(v);
    const c = inverse(x.transpose().mmul(w).mmul(x));
    const b = c.mmul(x.transpose()).mmul(w).mmul(y);
    const r = Matrix.sub(y, x.mmul(b));
    // The table's slope is taken over 5 °C here and over 1 °C there: that is all that differs.
    expect(Math.abs(fit.coefficients.zero - b.get(0, 0))).toBeLessThan(0.01);
    expect(fit.coefficients.sensitivity).toBeCloseTo(b.get(1, 0), 4);
    expect(Math.sqrt(fit.covariance[0][0]) / Math.sqrt(c.get(0, 0))).toBeCloseTo(1, 1.3);
    expect(Math.sqrt(fit.covariance[1][1]) / Math.sqrt(c.get(1, 1))).toBeCloseTo(1, 1.3);
    expect(fit.chiSquare / r.transpose().mmul(w).mmul(r).get(0, 0)).toBeCloseTo(1, 1.3);
  });

  it('two points from one lot share its error: the zero is then less certain than from two lots', () => {
    const zero = (lot: string) => {
      const fit = fitSensor(family, model, [at('technical-7.00', 0, 'one'), at('technical-7.00', 0.1, lot, 26)], {
        free: 'zero',
      });
      return fit.ok ? Math.sqrt(fit.covariance[0][0]) : NaN;
    };
    expect(zero('one') / zero('two')).toBeGreaterThan(1.3);
  });

  it('a few repeats widen the coverage factor: JCGM 100:2008, table G.2', () => {
    const few = { ...at('technical-7.00', 0), signalUncertainty: 3, signalFreedom: 3 };
    const fit = fitSensor(family, model, [few, at('technical-10.01', -177)]);
    if (!fit.ok) throw new Error(fit.message);
    const budget = budgetOf(model, fit, { value: 7.2, temperatureC: 24, calibrationC: 24 });
    expect(budget.effectiveFreedom).toBeLessThan(5);
    expect(budget.coverageFactor).toBeGreaterThan(2.5);
    expect(budget.rows[0]!.name).toBe('settling in 7.00');
  });

  it('brackets join the standards exactly, and agree with the line where there are only two', () => {
    const three = [at('technical-4.01', 170), at('technical-7.00', -3), at('technical-10.01', -174)];
    const pieces = bracket(family, model, three);
    if (!Array.isArray(pieces)) throw new Error('no brackets');
    for (const p of three) {
      const expected = asFound(model, p, { zero: 0, sensitivity: 1 }).expected;
      expect(bracketedValue(model, pieces, p.signal, { temperatureC: 24 })).toBeCloseTo(expected, 9);
    }
    expect(bracketedValue(model, pieces, 200, { temperatureC: 24 })).toBeLessThan(4);
    expect(bracketedValue(model, pieces, -200, { temperatureC: 24 })).toBeGreaterThan(10);
    const line = fitSensor(family, model, three.slice(0, 2));
    const two = bracket(family, model, three.slice(0, 2));
    if (!line.ok || !Array.isArray(two)) throw new Error('no line');
    expect(bracketedValue(model, two, 80, { temperatureC: 24 })).toBeCloseTo(
      shownValue(model, 80, { temperatureC: 24 }, line.coefficients),
      6,
    );
    expect(bracket(family, model, three.slice(0, 1))).toMatchObject({ ok: false, reason: 'too-few-standards' });
    expect(bracket(family, model, [three[0]!, three[0]!])).toMatchObject({
      ok: false,
      reason: 'standards-not-distinct',
    });
  });

  it('a cup at the very edge of its table still has an uncertainty, one beyond is refused', () => {
    const edge = fitSensor(family, model, [at('technical-4.01', 170, 'a', 50), at('technical-7.00', -3, 'b', 50)]);
    expect(edge.ok && Number.isFinite(edge.covariance[0][0])).toBe(true);
    expect(() => fitSensor(family, model, [at('technical-4.01', 170, 'a', 50.1), at('technical-7.00', -3)])).toThrow(
      /outside the table/,
    );
  });

  it('a coarse display is drawn as steps, not as a bell: 95 % within 1.645 standard deviations, not 1.96 (JCGM 101:2008, 6.4.2)', () => {
    const coarse = { ...at('technical-7.00', 0), signalUncertainty: 0.01, resolution: 40 };
    const fit = fitSensor(family, model, [coarse], { free: 'zero' });
    if (!fit.ok) throw new Error(fit.message);
    const twin = simulateBudget(model, fit, { value: 7, temperatureC: 24, calibrationC: 24 }, 50_000, 3);
    expect((twin.high - twin.low) / 2 / twin.standardUncertainty).toBeCloseTo(1.645, 1);
    expect((twin.high - twin.low) / 2 / twin.standardUncertainty).toBeLessThan(1.72);
  });

  it('draws are counted: too few and too many are refused, progress is told', () => {
    const fit = fitSensor(family, model, [at('technical-7.00', 0), at('technical-4.01', 177)]);
    if (!fit.ok) throw new Error(fit.message);
    const working = { value: 5.8, temperatureC: 22, calibrationC: 24 };
    expect(() => simulateBudget(model, fit, working, 10, 1)).toThrow(/outside 1000/);
    expect(() => simulateBudget(model, fit, working, 1e9, 1)).toThrow(/outside 1000/);
    const told: number[] = [];
    const one = simulateBudget(model, fit, working, 5000, 1, (p) => told.push(p));
    expect(told.at(-1)).toBe(1);
    expect(told.length).toBeGreaterThan(40);
    expect(simulateBudget(model, fit, working, 5000, 1)).toEqual(one);
    expect(simulateBudget(model, fit, working, 5000, 2).mean).not.toBe(one.mean);
    expect(one.histogram.counts.reduce((a, b) => a + b, 0)).toBeGreaterThan(4950);
    expect(one.low).toBeLessThan(one.mean);
    expect(one.high).toBeGreaterThan(one.mean);
  });
});

describe('conductivity, salinity, resistivity', () => {
  const family = familyOf('conductivity');

  it('air and one standard give zero and cell constant: 2 µS in air and 1180 µS in 1413 µS/cm is a gain of 83.4 %', () => {
    const model = modelOf(family, { cellConstant: 1, alpha: 0 });
    const point = (standard: Standard, signal: number): StandardPoint => ({
      standard,
      lotId: '',
      temperatureC: 25,
      signal,
      signalUncertainty: 0.5,
    });
    const fit = fitSensor(family, model, [point(AIR, 2), point(CONDUCTIVITY_STANDARDS[0]!, 1180)]);
    if (!fit.ok) throw new Error(fit.message);
    expect(fit.free).toBe('both');
    expect(fit.coefficients.zero).toBeCloseTo(2, 6);
    expect(fit.coefficients.sensitivity).toBeCloseTo((1180 - 2) / 1413, 6);
    // A wet cell zeroed "in air": the two look alike, and that is said.
    const wet = fitSensor(
      family,
      model,
      [point(CONDUCTIVITY_STANDARDS[0]!, 1180), point(CONDUCTIVITY_STANDARDS[0]!, 1181)],
      { free: 'both' },
    );
    expect(wet).toMatchObject({ ok: false, reason: 'standards-not-distinct' });
  });

  it('a loop that compensates with the wrong coefficient shows a right standard wrong at 20 °C: 2 %/°C makes 1420 of 1278', () => {
    const model = modelOf(family, { alpha: 2 });
    expect(model.shows(CONDUCTIVITY_STANDARDS[0]!, 1278, { temperatureC: 20 })).toBeCloseTo(1420, 0);
  });

  it('a dry cell has no salinity and no resistivity, and says why', () => {
    const salinity = modelOf(familyOf('salinity'));
    expect(() => shownValue(salinity, 0, { temperatureC: 25 }, { zero: 0, sensitivity: 1 })).toThrow(
      /dry cell, a bubble/,
    );
    const resistivity = modelOf(familyOf('resistivity'));
    expect(() => resistivity.shows(AIR, 0, { temperatureC: 25 })).toThrow(/has no end/);
    expect(() => shownValue(resistivity, 1e-9, { temperatureC: 25 }, { zero: 0, sensitivity: 1 })).toThrow(
      /less than pure water/,
    );
  });
});

describe('ions', () => {
  const family = familyOf('ion');
  const model = modelOf(family, { ion: 'chloride' });
  const low = ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.0014 });
  const high = ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 });
  const point = (standard: Standard, temperatureC: number, truth: (t: number) => Coefficients): StandardPoint => ({
    standard,
    lotId: standard.id,
    temperatureC,
    signal: signalOf(model, valueOf(standard, temperatureC), { temperatureC }, truth(temperatureC)),
    signalUncertainty: 0.2,
  });

  it('low 46.2 to high 319 mg/L at 25 °C: 49.64 mV ideal, recomputed; 40 to 55 mV accepted is 81 to 111 % (common practice, no source)', () => {
    expect(idealGap(46.2, 319, -1, 25)).toBeCloseTo(49.64, 2);
    expect(40 / idealGap(46.2, 319, -1, 25)).toBeCloseTo(GAP_LIMITS.low, 2);
    expect(55 / idealGap(46.2, 319, -1, 25)).toBeCloseTo(GAP_LIMITS.high, 2);
    expect(idealGap(46.2, 319, 2, 25)).toBeCloseTo(49.64 / 2, 2);
  });

  it('the slope is negative for an anion and halves with the charge', () => {
    const step = (ion: string) => {
      const m = modelOf(family, { ion });
      return m.ideal(100, { temperatureC: 25 }) - m.ideal(10, { temperatureC: 25 });
    };
    expect(step('chloride')).toBeCloseTo(-59.16, 2);
    expect(step('potassium')).toBeCloseTo(59.16, 2);
    expect(step('calcium')).toBeCloseTo(29.58, 2);
  });

  const worn = (t: number): Coefficients => ({ zero: 120 + 0.4 * (t - 20), sensitivity: 0.93 - 0.001 * (t - 20) });

  it('four points find how zero and slope move with temperature; three the zero alone', () => {
    const room = [point(high, 20, worn), point(low, 20, worn)];
    const warm = [point(high, 30, worn), point(low, 30, worn)];
    const four = fitIon(family, model, room, warm);
    if (!four.ok) throw new Error(four.message);
    expect(four.coefficients.course!.zeroPerC).toBeCloseTo(0.4, 4);
    expect(four.coefficients.course!.sensitivityPerC).toBeCloseTo(-0.001, 6);
    const signal = signalOf(model, 120, { temperatureC: 27 }, worn(27));
    expect(shownValue(model, signal, { temperatureC: 27 }, four.coefficients)).toBeCloseTo(120, 2);
    const three = fitIon(family, model, room, [warm[0]!]);
    if (!three.ok) throw new Error(three.message);
    expect(three.coefficients.course!.sensitivityPerC).toBe(0);
    const two = fitIon(family, model, room);
    expect(two.ok && two.coefficients.course).toBeUndefined();
    const off = (p: Coefficients) => Math.abs(shownValue(model, signal, { temperatureC: 27 }, p) - 120);
    expect(two.ok && off(two.coefficients)).toBeGreaterThan(off(three.coefficients));
    expect(off(three.coefficients)).toBeGreaterThan(off(four.coefficients));
  });

  it('a pair more than 0.5 °C apart is void; two temperatures alike say nothing', () => {
    const apart = fitIon(family, model, [point(high, 20, worn), point(low, 20.6, worn)]);
    expect(apart).toMatchObject({ ok: false, reason: 'pair-apart' });
    expect(!apart.ok && apart.message).toMatch(/0\.6 °C apart; the limit is 0\.5/);
    const alike = fitIon(family, model, [point(high, 20, worn), point(low, 20, worn)], [point(high, 21, worn)]);
    expect(alike).toMatchObject({ ok: false, reason: 'temperatures-alike' });
    const fine = fitIon(family, model, [point(high, 20, worn), point(low, 20.5, worn)]);
    expect(fine.ok).toBe(true);
  });

  it('a liquid’s own pH at 25 °C stands beside the reading, where its coefficient is known', () => {
    // Pure water: half of pKw, 14.167 at 20 °C and 13.995 at 25 °C (handbook, from memory): −0.0172 pH/°C.
    for (const id of ['ph', 'ph-shown', 'ph-counts']) {
      const model = modelOf(familyOf(id), { liquid: -0.0172 });
      expect(model.liquidAt25!(14.167 / 2, { temperatureC: 20 })).toBeCloseTo(13.995 / 2, 2);
      expect(model.liquidAt25!(7, { temperatureC: 25 })).toBe(7);
      // What the channel shows is not touched by it.
      expect(model.ideal(7.4, { temperatureC: 32 })).toBe(modelOf(familyOf(id)).ideal(7.4, { temperatureC: 32 }));
      expect(modelOf(familyOf(id)).liquidAt25).toBeUndefined();
      expect(() => modelOf(familyOf(id), { liquid: 0.2 })).toThrow(/-0\.1 to 0\.1|−0\.1 to 0\.1/);
    }
  });

  it('interfering ions add to what the tip sees: Nikolsky-Eisenman', () => {
    // By hand: 100 mg/L of calcium is 2.495 mmol/L, its root 0.04995 mol/L; a hundredth of it, as potassium, 19.53 mg/L.
    const potassium = { charge: 1, molarMass: 39.098 };
    const calcium = { activity: 100, charge: 2, molarMass: 40.078, selectivity: 0.01 };
    expect(interference(potassium, [calcium])).toBeCloseTo(0.01 * Math.sqrt(0.1 / 40.078) * 39098, 9);
    expect(interference(potassium, [calcium])).toBeCloseTo(19.53, 2);
    // A coefficient is for amounts: as many nitrate ions as a hundredth of 10 mmol/L of chloride.
    const nitrate = { charge: -1, molarMass: 62.004 };
    const chloride = { activity: 354.5, charge: -1, molarMass: 35.45, selectivity: 0.01 };
    expect(interference(nitrate, [chloride])).toBeCloseTo(6.2004, 9);
    const plain = modelOf(family, { ion: 'nitrate' });
    const disturbed = modelOf(family, { ion: 'nitrate', interference: 10 });
    expect(disturbed.ideal(10, { temperatureC: 25 })).toBeCloseTo(plain.ideal(20, { temperatureC: 25 }), 9);
    expect(disturbed.valueOf(plain.ideal(20, { temperatureC: 25 }), { temperatureC: 25 })).toBeCloseTo(10, 9);
    expect(() => interference(potassium, [{ ...calcium, activity: -1 }])).toThrow(/cannot be/);
    expect(() => interference(potassium, [{ ...calcium, charge: -2 }])).toThrow(/cannot be/);
    expect(() => interference({ charge: 0, molarMass: 39 }, [])).toThrow(/charge 0/);
    expect(() => interference(nitrate, [{ ...chloride, activity: NaN }])).toThrow(/cannot be/);
  });

  it('a concentration is no activity, and is refused as a standard', () => {
    expect(() => model.shows(grabSample('ion', 354.5, 'mg/L', 5, 25), 354.5, { temperatureC: 25 })).toThrow(
      /mass concentration in mg\/L; this channel measures activity/,
    );
  });
});

describe('pH that is only shown', () => {
  it('7.29 and 10.25 in 7.00 and 10.01: relative gain 0.98339, recomputed', () => {
    const family = familyOf('ph-shown');
    const at = (id: string, signal: number): StandardPoint => ({
      standard: buffer(id),
      lotId: id,
      temperatureC: 25,
      signal,
      signalUncertainty: 0.005,
    });
    const fit = fitSensor(family, modelOf(family), [at('technical-7.00', 7.29), at('technical-10.01', 10.25)]);
    expect(fit.ok && fit.coefficients.sensitivity).toBeCloseTo(0.98339, 5);
    expect(fit.ok && fit.coefficients.zero).toBeCloseTo(0.29, 5);
  });

  it(`gains that were adjusted multiply, gains that were left do not, and a silent adjustment breaks the chain (seed ${SEED})`, () => {
    const link = (relativeGain: number, adjusted: boolean) => ({ kind: 'found', relativeGain, adjusted }) as const;
    expect(chainGains([link(0.98, true), link(0.99, true), link(0.97, false)]).gain).toBeCloseTo(
      0.98 * 0.99 * 0.97,
      12,
    );
    expect(chainGains([link(0.98, false), link(0.96, false)]).gain).toBeCloseTo(0.96, 12);
    expect(chainGains([link(0.9, true), { kind: 'broken' }, link(0.99, false)])).toEqual({
      gain: 0.99,
      sinceNew: false,
      links: 1,
    });
    expect(chainGains([])).toEqual({ gain: 1, sinceNew: true, links: 0 });
    expect(() => chainGains([link(0, true)])).toThrow(/no electrode/);
    // An electrode ages the same whether it is adjusted at each visit or never.
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.9, max: 1.02, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (truths) => {
          const kept = chainGains(truths.map((g) => link(g, false))).gain;
          const adjusting = chainGains(truths.map((g, i) => link(g / (truths[i - 1] ?? 1), true))).gain;
          expect(adjusting).toBeCloseTo(kept, 9);
        },
      ),
      { seed: SEED },
    );
  });
});

describe('temperature', () => {
  it('two thermometers that agree are one better standard; two that do not are none', () => {
    const good = agree({ temperatureC: 25.1, plusMinusC: 0.2 }, { temperatureC: 25.3, plusMinusC: 0.2 });
    expect(good.ok && good.standard.uncertainty).toBeCloseTo(0.2 / Math.SQRT2 / 2, 9);
    const bad = agree({ temperatureC: 25.1, plusMinusC: 0.2 }, { temperatureC: 25.6, plusMinusC: 0.2 });
    expect(!bad.ok && bad.message).toMatch(/0\.50 °C apart; their accuracy allows 0\.28.*which is wrong/);
    expect(() => agree({ temperatureC: NaN, plusMinusC: 0.2 }, { temperatureC: 25, plusMinusC: 0.2 })).toThrow(
      /not a number/,
    );
  });

  it('78.9 on a display of whole steps is entered as 79, and the 0.1 that remains is known', () => {
    const { entered, remains } = offsetInSteps(78.9, 1);
    expect(entered).toBe(79);
    expect(remains).toBeCloseTo(-0.1, 9);
  });
});

describe('ORP', () => {
  const family = familyOf('orp');

  it('the standard is carried to the sensor’s own reference: 430.28 mV SHE is 231.4 mV against saturated Ag/AgCl at 25 °C', () => {
    const own = modelOf(family, { reference: 'silver-chloride-saturated' });
    expect(own.shows(REDOX_STANDARDS[0]!, 430.28, { temperatureC: 25 })).toBeCloseTo(231.38, 2);
    const hydrogen = modelOf(family, { reference: 'silver-chloride-saturated', scale: 'hydrogen' });
    expect(hydrogen.shows(REDOX_STANDARDS[0]!, 430.28, { temperatureC: 25 })).toBeCloseTo(430.28, 9);
    expect(signalOf(hydrogen, 430.28, { temperatureC: 25 }, { zero: 3, sensitivity: 1 })).toBeCloseTo(234.38, 2);
    expect(() => modelOf(family, { reference: 'mystery' })).toThrow(/is not known. Pick one of/);
  });

  it('a lot that prints its value against another reference of the other series is refused', () => {
    const lot = { ...REDOX_STANDARDS[0]!, against: 'silver-chloride-3m' };
    expect(() => modelOf(family).shows(lot, 220, { temperatureC: 25 })).toThrow(/one series/);
  });
});
