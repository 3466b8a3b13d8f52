import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currentFor, loopState, valueOfCurrent } from './current-loop.ts';
import { classA, rtdResistance, rtdSlope, rtdTemperature } from './resistance-thermometer.ts';
import { familyOf } from '../families/registry.ts';
import { settingsThatMatter } from '../sensor/family.ts';
import { modelOf } from '../sensor/sensor.ts';
import { selfHeating, steinhartHart, thermistorOf, thermistorResistance, thermistorTemperature } from './thermistor.ts';
import {
  boxForConductivity,
  boxForResistivity,
  cellConstantFrom,
  conductivityOfBox,
  resistivityOfBox,
} from './simulators.ts';
import { spanTable, type SpanPoint } from './span-table.ts';

const SEED = 20264;

describe('platinum thermometers: IEC 60751', () => {
  it('1 °C 100.391 Ω, 35 °C 113.608 Ω, recomputed; −100 °C 60.256 Ω and 100 °C 138.506 Ω, table of the standard, from memory', () => {
    expect(rtdResistance(1, 100)).toBeCloseTo(100.391, 3);
    expect(rtdResistance(35, 100)).toBeCloseTo(113.608, 3);
    expect(rtdResistance(-100, 100)).toBeCloseTo(60.256, 2);
    expect(rtdResistance(100, 100)).toBeCloseTo(138.506, 2);
    expect(rtdResistance(35, 1000)).toBeCloseTo(1136.08, 2);
    expect(classA(100)).toBeCloseTo(0.35, 9);
  });

  it(`there and back again over the whole range (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 850, noNaN: true }),
        fc.constantFrom(100 as const, 1000 as const),
        (t, n) => {
          expect(rtdTemperature(rtdResistance(t, n), n)).toBeCloseTo(t, 6);
        },
      ),
      { seed: SEED },
    );
  });

  it('an open or shorted element is no temperature', () => {
    expect(() => rtdTemperature(0, 100)).toThrow(/18\.52 to 390\.49 Ω.*open or shorted/);
    expect(() => rtdTemperature(1136, 100)).toThrow(/Pt100 or Pt1000/);
    expect(() => rtdTemperature(NaN, 100)).toThrow(/not a number/);
  });
});

describe('class A holds in less than the equation does: IEC 60751:2008, from memory', () => {
  it.each([
    [-100.1, 'wire', null],
    [-100, 'wire', 0.35],
    [450, 'wire', 1.05],
    [451, 'wire', null],
    [-31, 'film', null],
    [300, 'film', 0.75],
    [301, 'film', null],
  ] as const)('%s °C, %s: %s', (t, winding, half) => {
    if (half === null) expect(classA(t, winding)).toBeNull();
    else expect(classA(t, winding)).toBeCloseTo(half, 9);
  });
  it('a degree is worth 0.3908 Ω at 0 °C, 0.3793 at 100 °C, 0.4048 at −100 °C: differences of the standard’s table', () => {
    expect(rtdSlope(0, 100)).toBeCloseTo(0.3908, 4);
    expect(rtdSlope(100, 100)).toBeCloseTo(0.3793, 4);
    expect(rtdSlope(-100, 1000)).toBeCloseTo(4.05, 2);
  });
});

describe('thermistors', () => {
  const made = steinhartHart([[50, 3603], [0, 32_650], [25, 10_000]]); // prettier-ignore
  it('the rows between, of the table of a common 10 kΩ element, from memory: within 0.05 °C', () => {
    for (const [t, ohms] of [
      [5, 25_390],
      [10, 19_900],
      [15, 15_710],
      [20, 12_490],
      [30, 8057],
      [40, 5327],
    ] as const) {
      expect(Math.abs(thermistorTemperature(made, ohms) - t), `${t} °C`).toBeLessThan(0.05);
      expect(thermistorResistance(made, t) / ohms).toBeCloseTo(1, 2);
    }
    // By two rows and B = ln(R1/R2)/(1/T1 − 1/T2), the simpler law, 20 °C is off by less than 0.1 °C.
    const b = Math.log(32_650 / 10_000) / (1 / 273.15 - 1 / 298.15);
    expect(Math.abs(1 / (1 / 298.15 + Math.log(12_490 / 10_000) / b) - 293.15)).toBeLessThan(0.1);
  });
  it('the thermistor of a loop, by its settings; unsaid rows are as usual', () => {
    expect(thermistorOf({ element: 'Pt100' })).toBe(null);
    // Half of every resistance is half of it in between, too, nearly: ln R is moved, 1/T is not.
    const made = thermistorOf({ element: 'thermistor', ohms0: 16_325, ohms25: 5000, ohms50: 1801.5 })!;
    const usual = thermistorOf({ element: 'thermistor' })!;
    expect(thermistorTemperature(made, 5000)).toBeCloseTo(25, 6);
    for (const t of [5, 20, 45])
      expect(thermistorResistance(made, t) / thermistorResistance(usual, t)).toBeCloseTo(0.5, 4);
    expect(() => thermistorOf({ element: 'thermistor', ohms25: 50_000 })).toThrow(/three temperatures/);
    expect(() => modelOf(familyOf('temperature'), { element: 'thermistor', ohms0: 1 })).toThrow(/falling/);
    const asked = (settings: Record<string, string>) =>
      settingsThatMatter(familyOf('temperature').settings, settings).map(([key]) => key);
    expect(asked({})).toEqual(['element']);
    expect(asked({ element: 'thermistor' })).toEqual(['element', 'ohms0', 'ohms25', 'ohms50']);
  });

  it('rows that are of no thermistor, and elements that are open or shorted', () => {
    expect(() => steinhartHart([[0, 100], [25, 109], [50, 119]])).toThrow(/the resistance falling/); // prettier-ignore
    expect(() => steinhartHart([[0, 9000], [0, 8000], [50, 3600]])).toThrow(/three temperatures/); // prettier-ignore
    expect(() => steinhartHart([[0, 9000], [50, 8000], [50, 3600]])).toThrow(/three temperatures/); // prettier-ignore
    expect(() => steinhartHart([[0, 9000], [25, 9000], [50, 3600]])).toThrow(/resistance falling/); // prettier-ignore
    expect(() => steinhartHart([[0, 9000], [25, 3600], [50, 3600]])).toThrow(/resistance falling/); // prettier-ignore
    // A fall by half in one degree, and hardly any in the next hundred, is a switch.
    expect(() => steinhartHart([[0, 1e7], [1, 100], [100, 99]])).toThrow(/no thermistor/); // prettier-ignore
    for (const beyond of [-51, 151]) expect(() => steinhartHart([[beyond, 9000], [25, 3600], [50, 1000]])).toThrow(/temperature of a row/); // prettier-ignore
    for (const end of [-50, 150])
      expect(thermistorTemperature(made, thermistorResistance(made, end))).toBeCloseTo(end, 6);
    expect(() => thermistorTemperature(made, 0)).toThrow(/resistance/);
    expect(() => thermistorTemperature(made, 1e9)).toThrow(/open or shorted/);
    expect(() => thermistorResistance(made, 200)).toThrow(/−50 to 150|-50 to 150/);
  });
  it('a milliampere through 100 Ω is 0.1 mW: with 10 mW for a degree 0.01 °C', () => {
    expect(selfHeating(1, 100, 10)).toBeCloseTo(0.01, 12);
    expect(selfHeating(2, 1000, 10)).toBeCloseTo(0.4, 12);
    expect(() => selfHeating(1, 100, 0)).toThrow(/dissipation/);
  });
});

describe('4 to 20 mA: NAMUR NE 43', () => {
  it('half way is 12 mA, also when the higher current is the lower value', () => {
    expect(currentFor(7, { at4: 0, at20: 14 })).toBe(12);
    expect(currentFor(14, { at4: 14, at20: 0 })).toBe(4);
    expect(valueOfCurrent(20, { at4: 14, at20: 0 })).toBe(0);
  });

  it.each([
    [3.6, 'fault low'],
    [3.61, 'saturated low'],
    [3.79, 'saturated low'],
    [3.8, 'measuring'],
    [20.5, 'measuring'],
    [20.51, 'saturated high'],
    [20.99, 'saturated high'],
    [21, 'fault high'],
  ])('%s mA: %s', (ma, state) => expect(loopState(ma)).toBe(state));

  it('faults and saturation are no readings, and say so', () => {
    expect(() => valueOfCurrent(3.5, { at4: 0, at20: 14 })).toThrow(/says fault/);
    expect(() => valueOfCurrent(20.8, { at4: 0, at20: 14 })).toThrow(/end of the transmitter’s range/);
    expect(() => currentFor(20, { at4: 0, at20: 14 })).toThrow(/20\.5 mA, here -0\.175 to 14\.4375/);
    expect(() => currentFor(1, { at4: 3, at20: 3 })).toThrow(/no width/);
    // 3.8 and 20.5 mA themselves measure; a hundredth beyond does not.
    const percent = { at4: 0, at20: 100 };
    expect(currentFor(-1.25, percent)).toBeCloseTo(3.8, 9);
    expect(currentFor(103.125, percent)).toBeCloseTo(20.5, 9);
    expect(() => currentFor(-1.26, percent)).toThrow(/3\.8 to 20\.5/);
    expect(() => currentFor(103.14, percent)).toThrow(/3\.8 to 20\.5/);
    expect([3.8, 20.5].map((ma) => valueOfCurrent(ma, percent))).toEqual([
      expect.closeTo(-1.25, 9),
      expect.closeTo(103.125, 9),
    ]);
  });

  it(`there and back again (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1000, max: 1000, noNaN: true }),
        fc.double({ min: 0.01, max: 1000, noNaN: true }),
        fc.double({ min: -0.0124, max: 1.03, noNaN: true }),
        (at4, width, share) => {
          const span = { at4, at20: at4 + width };
          const value = at4 + share * width;
          expect(Math.abs(valueOfCurrent(currentFor(value, span), span) - value)).toBeLessThan(
            1e-9 * (Math.abs(at4) + width + 1),
          );
        },
      ),
      { seed: SEED },
    );
  });
});

describe('simulator boxes', () => {
  it('18 MΩ·cm with K = 0.01 /cm is 180 kΩ, recomputed from R = K ρ', () => {
    expect(boxForResistivity(18, 0.01)).toBeCloseTo(180_000, 6);
    expect(boxForConductivity(1413, 1)).toBeCloseTo(707.71, 2);
    expect(cellConstantFrom(1413, 1570)).toBeCloseTo(0.9, 9);
  });

  it(`there and back again; a resistivity and its conductivity need the same box (seed ${SEED})`, () => {
    const positive = fc.double({ min: 1e-3, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(positive, fc.double({ min: 0.001, max: 100, noNaN: true }), (x, k) => {
        expect(resistivityOfBox(boxForResistivity(x, k), k) / x).toBeCloseTo(1, 9);
        expect(conductivityOfBox(boxForConductivity(x, k), k) / x).toBeCloseTo(1, 9);
        expect(boxForResistivity(1 / x, k) / boxForConductivity(x, k)).toBeCloseTo(1, 9);
      }),
      { seed: SEED },
    );
    expect(() => boxForConductivity(0, 1)).toThrow(/no box/);
    expect(() => boxForResistivity(18, 0)).toThrow(/cell constant 0 \/cm is outside/);
    expect(() => cellConstantFrom(1413, 1e9)).toThrow(/Check both units/);
  });
});

describe('as found and as left in % of span', () => {
  const point = (applied: number, asFound: number | null, asLeft: number | null = null): SpanPoint => ({
    label: `${applied}`,
    use: 'adjust',
    applied,
    asFound,
    asLeft,
  });

  it('0.1 off in a span of 20 is 0.5 %; the worst of each look is named with its sign', () => {
    const table = spanTable([point(2, 2.1, 2), point(18, 17.7, 18.02), point(10, null)], 20, 1);
    expect(table.rows.map((r) => r.found?.percentOfSpan.toFixed(2))).toEqual(['0.50', '-1.50', undefined]);
    expect(table.rows.map((r) => r.found?.inside)).toEqual([true, false, undefined]);
    expect(table.worstFound).toBeCloseTo(-1.5, 9);
    expect(table.worstLeft).toBeCloseTo(0.1, 9);
    expect(spanTable([point(1, null)], 20, 1).worstFound).toBeNull();
  });

  it('a limit that is met exactly is met', () => {
    expect(spanTable([point(0.3, 0.3 + 0.1 * 3)], 30, 1).rows[0]!.found?.inside).toBe(true);
  });

  it('refuses a span without width, and a limit that nothing meets', () => {
    expect(() => spanTable([], 0, 1)).toThrow(/no percent/);
    expect(() => spanTable([], 10, 0)).toThrow(/above 0/);
    expect(() => spanTable([point(1, NaN)], 10, 1)).toThrow(/not a number/);
  });
});
