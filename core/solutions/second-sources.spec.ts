import { describe, expect, it } from 'vitest';
import { FARADAY, GAS_CONSTANT } from '../quantities/constants.ts';
import { kelvin } from '../quantities/temperature.ts';
import { interpolate } from '../statistics/shape-preserving-cubic.ts';
import { debyeHuckelA, daviesCoefficient, daviesUncertainty, extendedCoefficient, permittivity } from './activity.ts';
import { buffer } from './buffers.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from './conductivity-standards.ts';
import { courseFactor } from './compensation.ts';
import { familyOf } from '../families/registry.ts';
import { modelOf } from '../sensor/sensor.ts';
import { OXYGEN_RELATIVE } from './oxygen.ts';
import { ammoniaPka, HYPOCHLOROUS_C, hypochlorousPka } from './dissociation.ts';
import { pureWater, pureWaterRelative } from './pure-water.ts';
import { ferrocyanidePotential, quinhydronePotential, REDOX_STANDARDS } from './redox-standards.ts';
import { referenceOf, referencePotential, REFERENCES, silverChlorideByActivity } from './references.ts';
import { ionOf, molarMass } from './salts.ts';
import { grabSample } from './sample.ts';
import { ionStandard } from './ion-standard.ts';
import { DENSITY_UNCERTAINTY } from './seawater/density.ts';
import { SALINITY_UNCERTAINTY } from './seawater/practical-salinity.ts';
import { still, temperatureSlope, valueAt, withOwnTable } from './standard.ts';
import { AIR, ZERO_PLUG } from './without-liquid.ts';

/** Each row of a table against something that is not that table: a closed form, another table, or the curve through its other rows. */

/** Largest share by which a row differs from what the other rows say: a parabola through the four nearest of them. */
function offTheOthers(table: readonly (readonly [number, number])[], of = (v: number) => v): number {
  return Math.max(
    ...table.map(([t, v]) => {
      const near = table
        .filter(([x]) => x !== t)
        .sort((a, b) => Math.abs(a[0] - t) - Math.abs(b[0] - t))
        .slice(0, 4);
      // Lagrange through four rows
      const said = near.reduce(
        (sum, [x, y]) => sum + of(y) * near.reduce((p, [z]) => (z === x ? p : (p * (t - z)) / (x - z)), 1),
        0,
      );
      return Math.abs(said - of(v)) / Math.abs(of(v));
    }),
  );
}

describe('primary buffers against pH = A/T + B + C·T + D·T² (Bates, Determination of pH, 1973; coefficients from memory)', () => {
  // Bates’ phthalate stands 0.003 above that of 2002 at 25 °C and 0.010 at 50 °C; the others are the same buffers within 0.003.
  it.each([
    ['primary-phthalate', 1678.3, -9.8357, 0.034946, -2.4804e-5, 0.011],
    ['primary-phosphate', 3459.39, -21.0574, 0.073301, -6.2266e-5, 0.004],
    ['primary-phosphate-7.4', 5706.61, -43.9428, 0.154785, -15.6745e-5, 0.006],
    ['primary-borax', 5259.02, -33.1064, 0.114826, -10.786e-5, 0.004],
    ['primary-carbonate', 2557.1, -4.2846, 0.019185, 0, 0.004],
  ])('%s', (id, a, b, c, d, within) => {
    for (const [t, ph] of buffer(id).table) {
      const k = kelvin(t);
      expect(Math.abs(ph - (a / k + b + c * k + d * k * k)), `${t} °C`).toBeLessThan(within);
    }
    expect(buffer(id).nominal).toBe(valueAt(buffer(id), 25));
    // ±0.01 at k = 2 is what secondary preparations have; primary ones 0.007.
    expect(2 * buffer(id).uncertainty).toBeCloseTo(0.007, 4);
  });
});

describe('technical buffers move as the primary ones of their kind', () => {
  it.each([
    ['technical-4.01', 'primary-phthalate', 0.02],
    ['technical-7.00', 'primary-phosphate', 0.02],
    ['technical-9.00', 'primary-borax', 0.03],
    ['technical-10.01', 'primary-carbonate', 0.02],
  ])('%s', (id, primary, within) => {
    const { table, nominalAtC, nominal } = buffer(id);
    const apart = nominal - valueAt(buffer(primary), nominalAtC);
    for (const [t, ph] of table) {
      const like = interpolate(buffer(primary).table, t)!;
      expect(Math.abs(ph - like - apart), `${t} °C`).toBeLessThan(within);
    }
  });
});

describe('conductivity', () => {
  /** λ of K⁺ and Cl⁻, S cm²/mol: Robinson & Stokes (1959), appendix 6.2, from memory. */
  const LIMITING = [
    [5, 46.75 + 47.51],
    [15, 59.66 + 61.41],
    [18, 63.9 + 66.0],
    [25, 73.5 + 76.35],
    [35, 88.21 + 92.21],
    [45, 103.49 + 108.92],
  ] as const;
  const kcl = (id: string) => CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!;

  it('dilute KCl moves with temperature as its ions at infinite dilution do', () => {
    for (const [id, within] of [
      ['kcl-0.01', 0.006],
      ['kcl-0.02', 0.007],
      ['kcl-0.1', 0.009],
    ] as const) {
      const { table, nominal } = kcl(id);
      for (const [t, v] of table) {
        const limiting = interpolate(LIMITING, t)! / interpolate(LIMITING, 25)!;
        expect(Math.abs(v / nominal / limiting - 1), `${id} at ${t} °C`).toBeLessThan(within);
      }
      // Three figures of the strong one round by a thousandth.
      expect(offTheOthers(table), id).toBeLessThan(id === 'kcl-0.1' ? 0.0035 : 0.0015);
    }
  });

  it('18 °C against 25 °C by Jones & Bradshaw (1933), demal solutions, from memory', () => {
    // 1.22052 of 1.40877, 11.1667 of 12.8560, 97.838 of 111.342 mS/cm
    for (const [id, ratio] of [
      ['kcl-0.01', 1.22052 / 1.40877],
      ['kcl-0.1', 11.1667 / 12.856],
      ['kcl-1', 97.838 / 111.342],
    ] as const)
      expect(Math.abs(valueAt(kcl(id), 18) / kcl(id).nominal / ratio - 1), id).toBeLessThan(0.0015);
    // 15 °C, where only a parabola through 18, 20 and 25 °C can tell: within 0.3 %.
    const at15 = offTheOthers([...kcl('kcl-1').table, [18, (111_800 * 97.838) / 111.342]]);
    expect(at15).toBeLessThan(0.003);
  });

  it('25 °C by ISO 7888 and, for 1 mol/L, by the handbook: 0.2 % is what a bottle of them states', () => {
    expect(['kcl-0.01', 'kcl-0.02', 'kcl-0.1', 'kcl-1'].map((id) => kcl(id).nominal)).toEqual([
      1413, 2765, 12_880, 111_800,
    ]);
    // Molar conductivity falls with concentration as Kohlrausch and Onsager say: 149.85 − 94.65 √c, to a few hundredths mol/L.
    for (const [id, c] of [
      ['kcl-0.01', 0.01],
      ['kcl-0.02', 0.02],
    ] as const)
      expect(kcl(id).nominal / (1000 * c) / (149.85 - 94.65 * Math.sqrt(c)) - 1, id).toBeLessThan(0.015);
    for (const id of ['kcl-0.01', 'kcl-0.02', 'kcl-0.1', 'kcl-1'])
      expect((200 * kcl(id).uncertainty) / kcl(id).nominal, id).toBeCloseTo(0.2, 9);
  });

  it('NaCl moves by Walden’s rule: its logarithm over that of the viscosity of water is nearly a line', () => {
    // Viscosity, mPa s: IAPWS, from memory.
    const viscosity = [
      [0, 1.7916],
      [5, 1.5182],
      [15, 1.1375],
      [18, 1.0526],
      [25, 0.8901],
      [35, 0.7193],
      [45, 0.596],
    ] as const;
    const salt = conductivityBottle({ label: 1000, labelC: 25, salt: 'NaCl' });
    // ln κ over ln η: a line with a slight bend, through the first, the middle and the last of them.
    const points = viscosity.map(([t, eta]) => [Math.log(eta), Math.log(valueAt(salt, t))] as const);
    const bend = (x: number, at: readonly (readonly [number, number])[]) =>
      at.reduce((sum, [xi, y]) => sum + y * at.reduce((p, [z]) => (z === xi ? p : (p * (x - z)) / (xi - z)), 1), 0);
    for (const [x, y] of points) {
      const others = points.filter(([z]) => z !== x);
      const three = [others[0]!, others[3]!, others.at(-1)!];
      expect(Math.abs(y - bend(x, three)), `${x}`).toBeLessThan(0.012);
    }
    // Sum of the ions at 25 and 18 °C, Kohlrausch’s own: 43.5 + 65.5 of 50.1 + 76.35, from memory.
    expect(valueAt(salt, 18) / 1000).toBeCloseTo(109 / 126.45, 2);
  });

  it('pure water by its ion product (Marshall & Franck 1981) and limiting conductivities of its ions, from memory', () => {
    const pkw = (t: number) => {
      const k = kelvin(t);
      const rho = [0.99984, 0.9997, 0.9982, 0.99705, 0.99565, 0.99222, 0.98804];
      const density = interpolate(
        [0, 10, 20, 25, 30, 40, 50].map((x, i) => [x, rho[i]!] as const),
        t,
      )!;
      const log =
        -4.098 - 3245.2 / k + 2.2362e5 / k ** 2 - 3.984e7 / k ** 3 + (13.957 - 1262.3 / k + 8.5641e5 / k ** 2) * Math.log10(density); // prettier-ignore
      return -log;
    };
    // λ of H⁺ and OH⁻ together, S cm²/mol: Robinson & Stokes for 0, 18 and 25 °C; 50 °C of other tables.
    const ions = [
      [0, 225 + 117.8],
      [18, 315.8 + 172],
      [25, 349.85 + 198.3],
      [50, 465 + 282],
    ] as const;
    for (let t = 0; t <= 50; t += 5) {
      const by = 1000 * interpolate(ions, t)! * 10 ** (-pkw(t) / 2);
      expect(Math.abs(pureWater(t) / by - 1), `${t} °C: ${by}`).toBeLessThan(t < 5 ? 0.03 : 0.02);
    }
    expect(1 / pureWater(25)).toBeCloseTo(18.18, 2);
    const rows = Array.from({ length: 11 }, (_, i) => [5 * i, pureWater(5 * i)] as const);
    expect(offTheOthers(rows, Math.log)).toBeLessThan(0.0065);
    expect([0, 2.5, 5, 25, 50].map(pureWaterRelative)).toEqual([0.02, 0.015, 0.01, 0.01, 0.01]);
  });
});

describe('how conductivity goes with temperature', () => {
  it('natural water: factors of ISO 7888:1985, from memory of its table', () => {
    for (const [t, factor] of [
      [0, 1.918],
      [5, 1.643],
      [10, 1.428],
      [15, 1.256],
      [20, 1.116],
      [30, 0.904],
      [35, 0.822],
    ] as const)
      expect(Math.abs(1 / courseFactor(t, 'natural water') - factor), `${t} °C`).toBeLessThan(0.002);
    expect(courseFactor(25, 'natural water')).toBe(1);
    expect(() => courseFactor(36, 'natural water')).toThrow(/0 to 35/);
    expect(() => courseFactor(-1, 'natural water')).toThrow(/0 to 35/);
  });
  it('sodium chloride in nearly nothing: 2.1 %/°C near 25 °C, as D1125 of ASTM has it (from memory)', () => {
    expect(courseFactor(25, 'NaCl')).toBe(1);
    expect(100 * (courseFactor(26, 'NaCl') - courseFactor(24, 'NaCl'))).toBeCloseTo(2 * 2.12, 0);
    expect(courseFactor(0, 'NaCl')).toBeCloseTo(67.5 / 126.45, 9);
    expect(() => courseFactor(46, 'NaCl')).toThrow(/0 to 45/);
  });
  it('families follow it, there and back', () => {
    const natural = modelOf(familyOf('conductivity'), { course: 'natural water' });
    // 500 µS/cm at 25 °C has 500/1.428 at 10 °C.
    expect(natural.ideal(500, { temperatureC: 10 })).toBeCloseTo(500 / 1.428, 0);
    expect(natural.valueOf(natural.ideal(500, { temperatureC: 10 }), { temperatureC: 10 })).toBeCloseTo(500, 9);
    const trace = modelOf(familyOf('resistivity'), { salts: 'NaCl' });
    const at15 = { temperatureC: 15 };
    // 5 MΩ·cm: 0.145 µS/cm of salt, and pure water’s own
    expect(0.01 * trace.ideal(5, at15)).toBeCloseTo(pureWater(15) + 0.145 * (101.1 / 126.45), 4);
    expect(trace.valueOf(trace.ideal(5, at15), at15)).toBeCloseTo(5, 9);
  });
});

describe('activity', () => {
  it('permittivity: rows of Malmberg & Maryott’s own table, from memory', () => {
    for (const [t, epsilon] of [
      [0, 87.74],
      [25, 78.3],
      [50, 69.91],
      [100, 55.72],
    ] as const)
      expect(permittivity(t)).toBeCloseTo(epsilon, 2);
  });

  it('A from natural constants: e³ √(2 N ρ) / (8 π ln 10 (ε0 ε k T)^1.5)', () => {
    const [e, n, k, e0] = [1.602176634e-19, 6.02214076e23, 1.380649e-23, 8.8541878128e-12];
    for (const t of [5, 25, 45]) {
      const thermal = e0 * permittivity(t) * k * kelvin(t);
      const a = (e ** 3 * Math.sqrt(2 * n * 1000)) / (8 * Math.PI * Math.LN10 * thermal ** 1.5);
      expect(debyeHuckelA(t) / a).toBeCloseTo(1, 3);
    }
  });

  it('KCl as measured at 25 °C (Robinson & Stokes, from memory): Davies lies inside its own ±, and outside half of it where it is worst', () => {
    // mean activity coefficients at 0.01, 0.1, 0.2 and 0.5 mol/kg
    for (const [m, gamma] of [
      [0.01, 0.901],
      [0.1, 0.769],
      [0.2, 0.718],
      [0.5, 0.649],
    ] as const) {
      const off = Math.abs(daviesCoefficient(1, m, 25) / gamma - 1);
      expect(off, `${m}`).toBeLessThan(2 * daviesUncertainty(m));
      if (m >= 0.2) expect(off, `${m}`).toBeGreaterThan(daviesUncertainty(m));
    }
    expect(() => daviesUncertainty(0.6)).toThrow(/0 to 0\.5/);
  });
});

describe('acids and bases by their heats: van ’t Hoff', () => {
  const pkAt = (of: (t: number) => number, t: number) => {
    const [a, b] = [t - 5, t + 5];
    return ((of(a) - of(b)) * Math.LN10 * GAS_CONSTANT) / (1 / kelvin(a) - 1 / kelvin(b)) / 1000;
  };
  it('ammonium: 52.2 kJ/mol (CODATA: −79.5 + 132.5 … from memory); pKa 9.245 at 25 °C, 10.07 at 0 °C', () => {
    expect(pkAt(ammoniaPka, 25)).toBeCloseTo(52.2, 0);
    expect(ammoniaPka(25)).toBeCloseTo(9.245, 2);
    // Bates & Pinching 1949, from memory: 10.081 at 0 °C, 8.539 at 50 °C
    expect(Math.abs(ammoniaPka(0) - 10.081)).toBeLessThan(0.01);
    expect(Math.abs(ammoniaPka(50) - 8.539)).toBeLessThan(0.01);
  });
  it('hypochlorous acid: 13.8 kJ/mol near 25 °C; pKa 7.54 there, 7.82 at 0 °C (Morris’ own table, from memory)', () => {
    expect(Math.abs(pkAt(hypochlorousPka, 25) - 13.8)).toBeLessThan(2);
    expect(hypochlorousPka(25)).toBeCloseTo(7.537, 2);
    expect(hypochlorousPka(5)).toBeCloseTo(7.754, 2);
    expect(hypochlorousPka(35)).toBeCloseTo(7.463, 2);
  });
});

describe('redox', () => {
  it('ferri/ferrocyanide: three rows of Nordstrom’s own table, from memory', () => {
    expect(ferrocyanidePotential(10)).toBeCloseTo(467.2, 0);
    expect(ferrocyanidePotential(25)).toBeCloseTo(430.28, 2);
    expect(ferrocyanidePotential(40)).toBeCloseTo(391.7, 0);
  });
  it('quinhydrone: E° of Harned & Wright (1933), 717.98 at 0, 699.92 at 25, 681.66 mV at 50 °C, from memory', () => {
    const standard = (t: number) =>
      quinhydronePotential(4, t) + (1000 * Math.LN10 * GAS_CONSTANT * kelvin(t) * 4) / FARADAY;
    expect(Math.abs(standard(10) - 710.7)).toBeLessThan(0.5);
    expect(Math.abs(standard(25) - 699.9)).toBeLessThan(0.3);
    expect(Math.abs(standard(40) - 688.9)).toBeLessThan(0.5);
  });
  it('references: smooth over temperature, and as other tables have them at 25 °C', () => {
    for (const { id, table } of REFERENCES.filter((r) => r.table.length > 4))
      expect(offTheOthers(table), id).toBeLessThan(
        id === 'silver-chloride-3' ? 0.016 : id.startsWith('calomel') ? 0.013 : 0.006,
      );
    const at = (id: string) => interpolate(referenceOf(id).table, 25);
    // Galster, pH Measurement (1991), from memory: 197 to 199 saturated, 205 at 3.5, 207 to 210 at 3 mol/L; calomel 244.
    expect(Math.abs(at('silver-chloride-saturated')! - 198)).toBeLessThan(1.5);
    expect(Math.abs(at('silver-chloride-3.5')! - 205)).toBeLessThan(1);
    expect(Math.abs(at('silver-chloride-3')! - 208.5)).toBeLessThan(1.5);
    expect(Math.abs(at('calomel-saturated')! - 244.4)).toBeLessThan(1);
    // By how much they fall: 0.98 mV/°C saturated, 0.7 calomel: Bates 1973, from memory.
    const perC = (id: string) => (referenceOf(id).table.at(-1)![1] - referenceOf(id).table[0]![1]) / (referenceOf(id).table.at(-1)![0] - 10); // prettier-ignore
    expect(perC('silver-chloride-saturated')).toBeCloseTo(-1.01, 1);
    expect(perC('calomel-saturated')).toBeCloseTo(-0.67, 1);
  });
  it('coefficients over temperature as their papers print them, by differences', () => {
    // Nordstrom: −0.0037979 mV/°C², −2.5157 mV/°C at 25 °C; quinhydrone −0.74 mV/°C (handbook).
    expect(ferrocyanidePotential(15) + ferrocyanidePotential(35) - 2 * ferrocyanidePotential(25)).toBeCloseTo(
      -0.75958,
      5,
    );
    expect((ferrocyanidePotential(35) - ferrocyanidePotential(15)) / 20).toBeCloseTo(-2.5157, 4);
    const bare = (t: number) => quinhydronePotential(1, t) + (1000 * Math.LN10 * GAS_CONSTANT * kelvin(t)) / FARADAY;
    expect((bare(35) - bare(15)) / 20).toBeCloseTo(-0.74, 6);
    // by activity at 25 °C, recomputed: 3, 1 and 0.1 mol/kg
    expect(['3m', '1m', '0.1m'].map((m) => referencePotential(`silver-chloride-${m}`, 25).toFixed(1))).toEqual(['208.6', '235.3', '288.2']); // prettier-ignore
    for (const { id, nominalAtC, tableStep, uncertainty, table } of REDOX_STANDARDS) {
      expect([nominalAtC, tableStep, uncertainty], id).toEqual([25, 0, 2.5]);
      expect([table[0]![0], table.at(-1)![0]], id).toEqual(id === 'ferrocyanide' ? [8, 50] : [5, 40]);
    }
  });
  it('silver chloride by activity over temperature: rows of Bates & Bower (1954), from memory', () => {
    // E° 231.42 at 10, 222.34 at 25, 212.08 mV at 40 °C, the strength of one where m γ = 1
    expect(silverChlorideByActivity(1, 1, 10)).toBeCloseTo(231.4, 0);
    expect(silverChlorideByActivity(1, 1, 25)).toBeCloseTo(222.33, 2);
    expect(silverChlorideByActivity(1, 1, 40)).toBeCloseTo(212.1, 0);
    // A tenth of the activity adds the Nernst factor of that temperature.
    for (const t of [10, 25, 40])
      expect(silverChlorideByActivity(0.1, 1, t) - silverChlorideByActivity(1, 1, t)).toBeCloseTo(
        (1000 * Math.LN10 * GAS_CONSTANT * kelvin(t)) / FARADAY,
        6,
      );
    expect(() => silverChlorideByActivity(1, 0.6, 60)).toThrow(/10 to 40/);
  });
});

describe('atomic weights by molar masses of compounds that handbooks print', () => {
  it.each([
    ['H2O', 18.015],
    ['KCl', 74.551],
    ['NaCl', 58.443],
    ['NaHCO3', 84.007],
    ['Na2B4O7·10H2O', 381.37],
    ['CaF2', 78.075],
    ['MgSO4·7H2O', 246.47],
    ['Al2O3', 101.961],
    ['SiO2', 60.084],
    ['KH2PO4', 136.086],
    ['AgNO3', 169.873],
    ['KMnO4', 158.034],
    ['FeCl3', 162.204],
    ['CuSO4', 159.609],
    ['ZnCl2', 136.286],
    ['KBr', 119.002],
    ['SrCl2', 158.526],
    ['KI', 166.003],
    ['BaSO4', 233.39],
  ])('%s', (formula, mass) => expect(Math.abs(molarMass(formula) / mass - 1)).toBeLessThan(2e-4));
});

describe('what has no liquid, and how a bottle’s own table is read', () => {
  it('air and the shorting plug are nothing at every temperature of their use, and not beyond', () => {
    for (const [standard, low, high, known] of [
      [AIR, -20, 60, 0.01],
      [ZERO_PLUG, -20, 150, 0.05],
    ] as const) {
      expect([standard.nominal, standard.nominalAtC, standard.tableStep, standard.uncertainty]).toEqual([
        0,
        25,
        0,
        known,
      ]);
      for (const t of [low, 0, 25, high]) expect(valueAt(standard, t)).toBe(0);
      for (const t of [low - 0.5, high + 0.5]) expect(() => valueAt(standard, t)).toThrow(/outside the table/);
    }
  });

  it('a slope over temperature is that of the table half a degree to both sides, and to one side at its ends', () => {
    const squares = { ...AIR, table: Array.from({ length: 11 }, (_, t) => [t, t * t] as const) };
    // Between rows of a parabola the cubic is exact enough: d(t²)/dt.
    expect(temperatureSlope(squares, 5)).toBeCloseTo(10, 1);
    const [v95, v10] = [valueAt(squares, 9.5), valueAt(squares, 10)];
    expect(temperatureSlope(squares, 10)).toBeCloseTo((v10 - v95) / 0.5, 9);
    expect(temperatureSlope(squares, 0)).toBeCloseTo(valueAt(squares, 0.5) / 0.5, 9);
    expect(temperatureSlope(squares, 3.2)).toBeCloseTo(valueAt(squares, 3.7) - valueAt(squares, 2.7), 9);
  });

  it('an own table may differ by a twentieth of what is printed, has two rows or more, and a ± that can be', () => {
    const own = (value: number, plusMinus = 0.02, k = 2) => withOwnTable(buffer('technical-7.00'), [[20, 7.02], [25, value]], { plusMinus, k }); // prettier-ignore
    expect(own(7.34).uncertainty).toBe(0.01);
    expect(() => own(7.36)).toThrow(/far from what 7\.00 has/);
    expect(own(7, 0).uncertainty).toBe(0);
    expect(own(7, 0.03, 1).uncertainty).toBe(0.03);
    for (const k of [0, 0.5, -1, NaN, 100]) expect(() => own(7, 0.02, k), `${k}`).toThrow(/rows/);
    for (const half of [-0.01, NaN, 1e9]) expect(() => own(7, half), `${half}`).toThrow(/rows/);
    // Printed without a decimal, of a bottle that has no step of its own.
    const salt = conductivityBottle({ label: 1000, labelC: 25, salt: 'KCl' });
    expect(withOwnTable(salt, [[20, 905], [25, 1000]], { plusMinus: 10, k: 2 }).tableStep).toBe(1); // prettier-ignore
  });
});

describe('sizes of ions by the coefficients that Kielland printed for them (1937, table, from memory)', () => {
  // γ at an ionic strength of 0.1: a size that is wrong by one Å is 0.015 away and more.
  it.each([
    ['chloride', 0.755],
    ['nitrate', 0.755],
    ['potassium', 0.755],
    ['sodium', 0.775],
    ['ammonium', 0.75],
    ['calcium', 0.405],
    ['magnesium', 0.45],
    ['sulfate', 0.355],
    ['fluoride', 0.76],
  ] as const)('%s', (id, gamma) => {
    const { charge, sizeAngstrom } = ionOf(id);
    expect(Math.abs(extendedCoefficient(charge, sizeAngstrom, 0.1) - gamma)).toBeLessThan(0.008);
  });
});

describe('bottles, samples and what is stated of them', () => {
  it('a bottle of its own kind states 1 % at k = 1, a blank 0.01; it holds at 25 °C and has no step', () => {
    const five = still('nitrate', 'a', 'a', 'mg/L NO3-N', 5);
    expect([five.uncertainty, five.nominalAtC, five.tableStep]).toEqual([0.05, 25, 0]);
    expect(still('nitrate', 'a', 'a', 'mg/L NO3-N', 0).uncertainty).toBe(0.01);
    expect(grabSample('ph', 7, 'pH', 0.1, 22)).toMatchObject({ uncertainty: 0.05, tableStep: 0, nominalAtC: 22 });
    expect(ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 })).toMatchObject({
      nominalAtC: 25,
      tableStep: 0,
    });
    expect(CONDUCTIVITY_STANDARDS.map((s) => [s.nominalAtC, s.tableStep])).toEqual([[25, 1], [25, 1], [25, 10], [25, 10]]); // prettier-ignore
    expect(conductivityBottle({ label: 84, labelC: 20, salt: 'NaCl' })).toMatchObject({ uncertainty: 0.42, tableStep: 0, nominalAtC: 20 }); // prettier-ignore
    expect([OXYGEN_RELATIVE, HYPOCHLOROUS_C.low, HYPOCHLOROUS_C.high]).toEqual([0.001, 5, 35]);
    // Where a label is no row of a table the nearest strength in proportion is taken: 400 µS/cm goes like 0.01 mol/L.
    expect(valueAt(conductivityBottle({ label: 400, labelC: 25, salt: 'KCl' }), 20)).toBeCloseTo(
      (400 * 1278) / 1413,
      6,
    );
    expect(valueAt(conductivityBottle({ label: 60_000, labelC: 25, salt: 'KCl' }), 20)).toBeCloseTo((60_000 * 102.07) / 111.8, 6); // prettier-ignore
    // UNESCO 44: the scale was fitted to 0.0015 of salinity, the density to 0.0036 kg/m³ (from memory).
    expect([SALINITY_UNCERTAINTY, DENSITY_UNCERTAINTY]).toEqual([0.0015, 0.0036]);
    expect(daviesUncertainty(0)).toBe(0.01);
    expect(daviesUncertainty(0.1)).toBeCloseTo(Math.hypot(0.01, 0.014 / Math.sqrt(3)), 9);
    expect(daviesUncertainty(0.2)).toBeCloseTo(Math.hypot(0.01, 0.039 / Math.sqrt(3)), 9);
    expect(daviesUncertainty(0.5)).toBeCloseTo(Math.hypot(0.01, 0.129 / Math.sqrt(3)), 9);
    expect(referencePotential('silver-chloride-1m', 10)).toBe(silverChlorideByActivity(1, 0.604, 10));
    expect(silverChlorideByActivity(3, 0.569, 15) - referencePotential('silver-chloride-3m', 15)).toBeCloseTo(0, 9);
    // The 3 mol/L row stands at its own temperatures: 216 mV at 15 °C, 209 mV at 25 °C.
    expect([10, 15, 20, 25, 30].map((t) => referencePotential('silver-chloride-3', t))).toEqual([220, 216, 213, 209, 205]); // prettier-ignore
  });
});
