import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILIES, familyOf } from '../families/registry.ts';
import { unitsOf } from '../quantities/units.ts';
import type { Conditions } from './conditions.ts';
import type { Settings } from './family.ts';
import { requireWritten, scaleOf, scalesOf } from './scale.ts';
import { modelOf } from './sensor.ts';
import { decimalsOf, digitsFor, writtenIn } from './written.ts';

const SEED = 20271;
const AT: Conditions = { temperatureC: 24 };

/** Where each family works, and values for which all of its scales hold. */
const CAST: Readonly<Record<string, { low: number; high: number; works: number; settings?: Settings }>> = {
  temperature: { low: 0, high: 40, works: 25 },
  conductivity: { low: 1, high: 20_000, works: 1900 },
  salinity: { low: 3, high: 41, works: 34 },
  resistivity: { low: 0.1, high: 18, works: 15 },
  ph: { low: 2, high: 12, works: 8.1 },
  'ph-shown': { low: 2, high: 12, works: 8.1 },
  'ph-counts': { low: 2, high: 12, works: 8.1 },
  orp: { low: -300, high: 800, works: 320 },
  ion: { low: 1, high: 1000, works: 30, settings: { ion: 'nitrate', ionicStrength: 0.02 } },
  chlorine: { low: 0.05, high: 5, works: 0.8 },
  nitrate: { low: 0.1, high: 50, works: 5 },
  'oxygen-optical': { low: 0.5, high: 20, works: 7.5, settings: { salinity: 33 } },
  'oxygen-membrane': { low: 0.5, high: 20, works: 7.5 },
};

const inCast = FAMILIES.flatMap((family) => {
  const { settings = {}, ...of } = CAST[family.id]!;
  const model = modelOf(family, settings);
  return scalesOf(model).map((scale) => ({ family, model, scale, ...of }));
});

describe('every scale of every family', () => {
  it('all families are cast, and most of them have more than one', () => {
    expect(Object.keys(CAST).sort()).toEqual(FAMILIES.map((f) => f.id).sort());
    expect(inCast.length).toBeGreaterThan(50);
    for (const { model } of inCast) expect(scalesOf(model).map((s) => s.id)).toEqual([...new Set(scalesOf(model).map((s) => s.id))]); // prettier-ignore
  });

  it.each(inCast.map((c) => [c.family.id, c.scale.id, c] as const))(
    `%s in %s: a value comes back, and what is printed comes back within its last digit (seed ${SEED})`,
    (_, id, { family, model, scale, low, high, works }) => {
      const tolerance = Number(family.typed.tolerance);
      const steps = fc.constantFrom(null, 0.001, 0.01, 0.1, 1, 10);
      fc.assert(
        fc.property(
          fc.double({ min: low, max: high, noNaN: true }),
          steps,
          fc.double({ min: 15, max: 30, noNaN: true }),
          (value, step, temperatureC) => {
            const at = { temperatureC };
            const there = scale.of(value, at);
            expect(Math.abs(scale.own(there, at) - value)).toBeLessThan(1e-6 * Math.max(1, Math.abs(value)));
            const written = writtenIn(family, model, {
              workingValue: works,
              workingC: 24,
              tolerance,
              shownAs: { scale: id, step },
            });
            const printed = written.value(value, at)!.toFixed(written.valueDigits);
            // Half of the last digit, or of the display's step, whichever is the larger.
            const half = Math.max(step ?? 0, 10 ** -written.valueDigits) / 2;
            const ends = [Number(printed) - half, Number(printed) + half].map((end) => scale.of(value, at) - end);
            expect(ends[0]! * ends[1]!).toBeLessThanOrEqual(1e-9);
          },
        ),
        { seed: SEED, numRuns: 60 },
      );
    },
  );

  it.each(inCast.map((c) => [c.family.id, c.scale.id, c] as const))(
    '%s in %s: widths and errors are those of the scale itself',
    (_, id, { family, model, scale, works }) => {
      const tolerance = Number(family.typed.tolerance);
      const written = writtenIn(family, model, {
        workingValue: works,
        workingC: 24,
        tolerance,
        shownAs: { scale: id, step: null },
      });
      const [above, below] = [scale.of(works + tolerance / 20, AT), scale.of(works - tolerance / 20, AT)];
      expect(written.size(tolerance / 10) / Math.abs(above - below)).toBeCloseTo(1, 2);
      expect(written.off(tolerance / 20)).toBeCloseTo(above - scale.of(works, AT), 9);
      expect(written.ownSize(written.size(tolerance))).toBeCloseTo(tolerance, 9);
      expect(written.falls).toBe(above < below);
      expect(written.digits).toBe(id === model.valueUnit ? (family.shown.digits ?? digitsFor(tolerance)) : digitsFor(written.size(tolerance))); // prettier-ignore
    },
  );

  it('one that the family has not is refused with those that it has; a gravity that no sea water has, with the bounds', () => {
    const salinity = modelOf(familyOf('salinity'));
    expect(() => scaleOf(salinity, 'pH')).toThrow(/cannot be written in “pH”.*SG 25\/25/);
    const loop = { workingValue: 34, workingC: 25, shownAs: { scale: 'furlong', step: null } };
    expect(() => requireWritten(salinity, loop)).toThrow(/furlong/);
    expect(() => scaleOf(salinity, 'SG 25/25').own(1.2, AT)).toThrow(/outside 1 to 1\.03/);
  });
});

describe('check values from elsewhere', () => {
  const of = (
    family: string,
    id: string,
    value: number,
    settings: Settings = {},
    at: Conditions = { temperatureC: 25 },
  ) => scaleOf(modelOf(familyOf(family), settings), id).of(value, at);

  it.each([
    // F = 1.8 C + 32, by definition
    ['temperature', '°F', 25, {}, 77],
    // κ20 of water with 2 %/°C: 1 − 5 · 0.02 of κ25, the line itself
    ['conductivity', 'mS/cm 20 °C', 1413, { alpha: 2 }, 1.2717],
    ['conductivity', 'ppm×500 20 °C', 2000, { alpha: 2 }, 900],
    // Ultrapure water: 18.18 MΩ·cm is 0.0550 µS/cm (ASTM D1125 and ISO 3696 print the pair)
    ['resistivity', 'µS/cm', 18.18, {}, 0.055],
    // Reference salinity of S = 35 is 35.16504 g/kg (TEOS-10 manual, 2010)
    ['salinity', 'g/kg', 35, {}, 35.16504],
    // EOS-80: 1023.343 over 997.047 kg/m³ (Millero and Poisson, 1981; pure water of the same)
    ['salinity', 'SG 25/25', 35, {}, 1.02637],
    // C(35, 25 °C) = 53.065 mS/cm with C(35, 15 °C) = 42.914 (UNESCO tables)
    ['salinity', 'mS/cm 25 °C', 35, {}, 53.065],
    // 35.45 g/mol (IUPAC 2021)
    ['ion', 'mmol/L activity', 35.45, { ion: 'chloride' }, 1],
    // γ of a single charge at I = 0.1 by Davies is 0.781 (textbook table)
    ['ion', 'mg/L Cl⁻', 78.1, { ion: 'chloride', ionicStrength: 0.1 }, 100],
    // without salt there is no difference
    ['ion', 'mg/L NO₃⁻', 62, { ion: 'nitrate', ionicStrength: 0 }, 62],
    // 62.004 mg/L of NO3 hold 14.007 mg/L of N
    ['ion', 'mg/L NO3-N', 62.004, { ion: 'nitrate', ionicStrength: 0 }, 14.007],
    ['nitrate', 'mg/L NO3', 1, {}, 4.427],
    ['nitrate', 'mmol/L N', 14.007, {}, 1],
    // APHA 4500-O: fresh water at 25 °C under 1 atm holds 8.263 mg/L
    ['oxygen-membrane', '% sat', 8.263, {}, 100],
  ] as const)('%s in %s', (family, id, value, settings, expected) => {
    expect(of(family, id, value, settings) / expected).toBeCloseTo(1, 3);
  });

  it('a potential on another reference is off by the difference of the two, at the temperature of the water', () => {
    const name = scalesOf(modelOf(familyOf('orp'))).find((s) => s.id.includes('hydrogen'))!.id;
    // Ag/AgCl in saturated KCl: 199 mV at 25 °C, 1 mV a degree less in warmer water (handbook figures).
    expect(of('orp', name, 200) - 200).toBeCloseTo(198.9, 1);
    expect(of('orp', name, 200, {}, { temperatureC: 35 }) - of('orp', name, 200)).toBeCloseTo(-10.2, 0);
  });

  it('conditions of the moment go before those of the set-up', () => {
    const settings = { salinity: 0, pressureKPa: 101.325 };
    const high = of('oxygen-membrane', '% sat', 8, settings, { temperatureC: 25, pressureKPa: 80 });
    // Less air above it: the same water is fuller, by the pressures without the vapour of 3.17 kPa (steam table).
    expect(high / of('oxygen-membrane', '% sat', 8, settings)).toBeCloseTo((101.325 - 3.17) / (80 - 3.17), 2);
  });
});

describe('steps of a display', () => {
  it.each([
    [0.05, 2],
    [10, 0],
    [1e-7, 7],
    [2.5, 1],
  ])('%s has %s decimals', (step, decimals) => expect(decimalsOf(step)).toBe(decimals));

  it('values are rounded to them, errors keep the digits of the tolerance', () => {
    const family = familyOf('conductivity');
    const written = writtenIn(family, modelOf(family), { workingValue: 1900, workingC: 22, tolerance: 60, shownAs: { scale: 'ppm×700', step: 10 } }); // prettier-ignore
    expect(written.worksAt).toBe('1330');
    expect(written.value(1909)).toBe(1340);
    expect(written.off(-9).toFixed(written.digits)).toBe('-6');
    expect(unitsOf('conductivity')).toContain(written.unit);
  });
});
