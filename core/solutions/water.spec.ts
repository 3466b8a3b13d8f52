import fc from 'fast-check';
import { Matrix, solve } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { daviesCoefficient, debyeHuckelA, extendedCoefficient, ionicStrength, permittivity } from './activity.ts';
import { buffer } from './buffers.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from './conductivity-standards.ts';
import { ammoniaPka, ammoniaShare, hypochlorousPka, hypochlorousShare } from './dissociation.ts';
import { ionStandard, preparedIon } from './ion-standard.ts';
import { nernstSlope } from './nernst-slope.ts';
import { concentrationOf, dilute, massFor } from './preparation.ts';
import { pureFrom25, pureTo25, pureWater, to25 } from './pure-water.ts';
import { ferrocyanidePotential, quinhydronePotential, REDOX_STANDARDS } from './redox-standards.ts';
import { againstReference, REFERENCES, referencePotential, silverChlorideByActivity } from './references.ts';
import { ionOf, IONS, molarMass, saltOf, SALTS } from './salts.ts';
import { valueAt, withOwnTable } from './standard.ts';

const SEED = 20262;
/** Least-squares parabola through a table, by ml-matrix: general-purpose, and nothing of the core's. */
function parabola(table: readonly (readonly [number, number])[]): (t: number) => number {
  const x = new Matrix(table.map(([t]) => [1, t - 22, (t - 22) ** 2]));
  const [a, b, c] = solve(x, Matrix.columnVector(table.map(([, v]) => v))).to1DArray() as [number, number, number];
  return (t) => a + b * (t - 22) + c * (t - 22) ** 2;
}

const celsius = fc.double({ min: 0, max: 50, noNaN: true });

describe('conductivity standards', () => {
  const kcl = (id: string) => CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!;

  it('KCl over 15 to 30 °C: handbook table, from memory; at 25 °C as ISO 7888:1985 has it, 141, 277, 1290 mS/m', () => {
    expect(valueAt(kcl('kcl-0.01'), 25)).toBe(1413);
    expect(valueAt(kcl('kcl-0.01'), 15)).toBe(1147);
    expect(valueAt(kcl('kcl-0.01'), 30)).toBe(1552);
    expect(valueAt(kcl('kcl-0.02'), 25)).toBe(2765);
    expect(valueAt(kcl('kcl-0.1'), 25)).toBe(12_880);
    expect(valueAt(kcl('kcl-1'), 25)).toBe(111_800);
    for (const [id, iso] of [
      ['kcl-0.01', 1410],
      ['kcl-0.02', 2770],
      ['kcl-0.1', 12_900],
    ] as const) {
      expect(Math.abs(valueAt(kcl(id), 25) / iso - 1)).toBeLessThan(0.003);
    }
  });

  it('every row of the three fine KCl tables lies within 0.06 % of a parabola: a slip of the pen would stand out', () => {
    for (const s of CONDUCTIVITY_STANDARDS.filter((x) => x.table.length > 5)) {
      for (const [t, v] of s.table) expect(Math.abs(parabola(s.table)(t) / v - 1), `${s.name} ${t}`).toBeLessThan(6e-4);
    }
  });

  it('rises between the rows too, and refuses outside them', () => {
    for (const s of CONDUCTIVITY_STANDARDS) {
      for (let t = 15; t < 30 && t < s.table.at(-1)![0]; t += 0.1) {
        expect(valueAt(s, Math.min(t + 0.1, s.table.at(-1)![0])), `${s.name} ${t}`).toBeGreaterThan(valueAt(s, t));
      }
      expect(() => valueAt(s, 14.9)).toThrow(/outside the table .* Bring the cup/);
    }
  });

  it('a bottle takes the course of its salt; one without a salt holds at its own temperature only', () => {
    const label = { label: 84, labelC: 25 } as const;
    const at20 = (salt: 'KCl' | 'NaCl') => valueAt(conductivityBottle({ ...label, salt }), 20);
    expect(at20('KCl')).toBeCloseTo((84 * 1278) / 1413, 6);
    // Walden and Stokes agree to a per cent or so: the two salts differ, but not by much.
    expect(at20('NaCl') / at20('KCl')).toBeGreaterThan(0.98);
    expect(at20('NaCl') / at20('KCl')).toBeLessThan(1);
    const bare = conductivityBottle({ ...label, salt: 'not stated' });
    expect(valueAt(bare, 25)).toBe(84);
    expect(() => valueAt(bare, 20)).toThrow(/names no salt.*enter the salt or the bottle’s own table/);
  });

  it('53 and 50 mS/cm are seawater by PSS-78 (UNESCO 44): between two rows within 0.02 % of the equation', async () => {
    const { conductivityOfSeawater, salinity } = await import('./seawater/practical-salinity.ts');
    const bottle = conductivityBottle({ label: 53_000, labelC: 25, salt: 'seawater' });
    const s = salinity({ conductivityUsPerCm: 53_000, temperatureC: 25 });
    for (let t = -2; t <= 35; t += 0.37)
      expect(valueAt(bottle, t) / conductivityOfSeawater(s, t) - 1).toBeLessThan(2e-4);
    expect(valueAt(bottle, 25)).toBeCloseTo(53_000, 0);
  });

  it('a label that cannot be is refused', () => {
    expect(() => conductivityBottle({ label: 0, labelC: 25, salt: 'KCl' })).toThrow(/outside 1 to 250000 µS\/cm/);
    expect(() => conductivityBottle({ label: 84, labelC: 10, salt: 'KCl' })).toThrow(/outside the course of KCl/);
    expect(() => conductivityBottle({ label: 84_000, labelC: 25, salt: 'seawater' })).toThrow(/outside the scale/);
  });
});

describe('a lot’s own table wins', () => {
  it('and is refused with its row when it cannot be one', () => {
    const own = withOwnTable(
      buffer('technical-7.00'),
      [
        [15, 7.05],
        [25, 7.01],
        [30, 7.0],
      ],
      { plusMinus: 0.02, k: 2 },
    );
    expect(valueAt(own, 25)).toBe(7.01);
    expect(own.uncertainty).toBe(0.01);
    expect(() => valueAt(own, 10)).toThrow(/15 to 30 °C/);
    const tableOf = (rows: [number, number][]) => () =>
      withOwnTable(buffer('technical-7.00'), rows, { plusMinus: 0.02, k: 2 });
    expect(
      tableOf([
        [20, 4.0],
        [25, 4.01],
      ]),
    ).toThrow(/far from what 7\.00 has there/);
    expect(tableOf([[25, 7]])).toThrow(/1 rows/);
    expect(
      tableOf([
        [25, 7],
        [20, 7.1],
      ]),
    ).toThrow(/Row 2/);
    expect(
      tableOf([
        [20, 7],
        [25, NaN],
      ]),
    ).toThrow(/Row 2/);
  });
});

describe('pure water and compensation', () => {
  it('5 °C rows from memory of the table: 0.055 µS/cm and 18.18 MΩ·cm at 25 °C', () => {
    expect(pureWater(25)).toBeCloseTo(0.055, 9);
    expect(1 / pureWater(25)).toBeCloseTo(18.18, 2);
    expect(pureWater(0)).toBeCloseTo(0.0116, 9);
    expect(pureWater(50)).toBeCloseTo(0.172, 9);
  });

  it('agrees within 4 % with Kw and limiting ionic conductivities (Marshall & Franck 1981 pKw; Robinson & Stokes), from memory', () => {
    // κ = (λH + λOH)·√Kw·ρ at 25 °C: (349.8 + 198.6)·1.004e-7·0.997 → 0.0549 µS/cm
    expect(((349.8 + 198.6) * 1.004e-7 * 0.997 * 1000) / pureWater(25)).toBeCloseTo(1, 1.5);
    // at 0 °C: (225 + 105)·√(10^-14.94)
    expect(((225 + 105) * Math.sqrt(10 ** -14.94) * 1000) / pureWater(0)).toBeCloseTo(1, 1);
  });

  it(`compensated and back again; pure water stays pure (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        celsius,
        fc.double({ min: 0.0551, max: 2000, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (t, at25, alpha) => {
          const seen = pureFrom25(at25, t, alpha);
          expect(pureTo25(seen, t, alpha) / at25).toBeCloseTo(1, 9);
          expect(pureTo25(pureWater(t), t, alpha)).toBeCloseTo(pureWater(25), 9);
        },
      ),
      { seed: SEED },
    );
  });

  it('refuses water purer than water, and a compensation that breaks down', () => {
    expect(() => pureTo25(0.01, 25, 2)).toThrow(/less than pure water has \(0\.0550\).*bubble/);
    expect(() => to25(100, -30, 2)).toThrow(/-30 °C.*means nothing/);
    expect(() => to25(100, 20, 40)).toThrow(/outside 0 to 10 %\/°C/);
    expect(to25(1278, 20, 0)).toBe(1278);
  });
});

describe('activity', () => {
  it('permittivity 78.30 and A = 0.5115 at 25 °C: Malmberg & Maryott 1956, recomputed', () => {
    expect(permittivity(25)).toBeCloseTo(78.3, 2);
    expect(debyeHuckelA(25)).toBeCloseTo(0.5115, 4);
  });

  it('0.01 mol/L KCl at 25 °C: γ = 0.9016, chloride 354.53 → 319.7 mg/L by Davies, 318.7 by extended Debye-Hückel, recomputed', () => {
    const gamma = daviesCoefficient(-1, 0.01, 25);
    expect(gamma).toBeCloseTo(0.9016, 4);
    expect(354.53 * gamma).toBeCloseTo(319.7, 1);
    expect(354.53 * extendedCoefficient(-1, 3, 0.01)).toBeCloseTo(318.7, 1);
    const prepared = preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 });
    expect(prepared.concentrationMgPerL).toBeCloseTo(354.5, 1);
    // Practice takes 319 (common practice, no source).
    expect(Math.abs(prepared.activityMgPerL - 319)).toBeLessThan(1);
  });

  it('mean activity coefficients of KCl: Davies within 2 % of the handbook (0.901, 0.769 at 0.01 and 0.1 mol/kg; from memory)', () => {
    expect(daviesCoefficient(1, 0.01, 25) / 0.901).toBeCloseTo(1, 1.7);
    expect(daviesCoefficient(1, 0.1, 25) / 0.769).toBeCloseTo(1, 1.5);
  });

  it(`γ falls with charge and with strength below 0.1 mol/L, is 1 in water, and never no number (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 0.1, noNaN: true }), celsius, (i, t) => {
        expect(daviesCoefficient(2, i, t)).toBeLessThanOrEqual(daviesCoefficient(1, i, t));
        expect(daviesCoefficient(1, i * 0.9, t)).toBeGreaterThanOrEqual(daviesCoefficient(1, i, t));
        expect(daviesCoefficient(-1, 0, t)).toBe(1);
      }),
      { seed: SEED },
    );
  });

  it('refuses strengths beyond Davies, charges that are none, and ions that are not in the salt', () => {
    expect(() => daviesCoefficient(1, 0.6, 25)).toThrow(/outside 0 to 0\.5 mol\/L.*Dilute/);
    expect(() => daviesCoefficient(0, 0.1, 25)).toThrow(/whole number/);
    expect(() => daviesCoefficient(1.5, 0.1, 25)).toThrow(/whole number/);
    expect(() => preparedIon({ salt: 'KCl', ion: 'nitrate', molPerL: 0.01 })).toThrow(
      /KCl has no nitrate.*potassium, chloride/,
    );
    expect(() => ionicStrength([{ concentration: -1, charge: 1 }])).toThrow(/outside 0/);
  });

  it('ionic strength: 0.01 mol/L CaCl2 is 0.03 mol/L (definition, ½ Σ c z²); a background adds to it', () => {
    expect(preparedIon({ salt: 'CaCl2', ion: 'calcium', molPerL: 0.01 }).ionicStrength).toBeCloseTo(0.03, 12);
    const plain = preparedIon({ salt: 'KNO3', ion: 'nitrate', molPerL: 0.001 });
    const adjusted = preparedIon({ salt: 'KNO3', ion: 'nitrate', molPerL: 0.001, backgroundMolPerL: 0.1 });
    expect(adjusted.activityMgPerL).toBeLessThan(plain.activityMgPerL * 0.82);
  });

  it('an ion standard is stated as activity, over temperature', () => {
    const standard = ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 });
    expect(standard.unit).toBe('mg/L activity');
    expect(valueAt(standard, 25)).toBeCloseTo(319.63, 1);
    expect(valueAt(standard, 10)).toBeGreaterThan(valueAt(standard, 40));
  });
});

describe('salts and weighing in', () => {
  it('molar masses: IUPAC 2021 abridged atomic weights', () => {
    expect(molarMass('KCl')).toBeCloseTo(74.55, 2);
    expect(molarMass('NaCl')).toBeCloseTo(58.44, 2);
    expect(molarMass('CaCl2·2H2O')).toBeCloseTo(147.01, 1);
    expect(molarMass('Ca(NO3)2·4H2O')).toBeCloseTo(236.15, 2);
    expect(molarMass('K4Fe(CN)6.3H2O')).toBeCloseTo(422.39, 1);
    for (const formula of ['', 'Xx', 'kcl', 'K(Cl', 'KCl0', '((('])
      expect(() => molarMass(formula), formula).toThrow(/cannot be read/);
  });

  it('every salt is made of ions that are known, and carries no charge', () => {
    for (const { id, ions, formula } of SALTS) {
      expect(
        ions.reduce((s, p) => s + p.count * ionOf(p.ion).charge, 0),
        id,
      ).toBe(0);
      const dry = ions.reduce((s, p) => s + p.count * ionOf(p.ion).molarMass, 0);
      const water = Number(/·(\d)H2O/.exec(formula)?.[1] ?? 0) * molarMass('H2O');
      expect(dry + water, id).toBeCloseTo(molarMass(formula), 6);
    }
    expect(IONS.length).toBeGreaterThan(8);
    expect(() => saltOf('unobtainium')).toThrow(/There is no salt/);
    expect(() => ionOf('x')).toThrow(/There is no ion/);
  });

  it('0.01 mol/L KCl is 0.7455 g/L, the mass that ISO 7888 weighs in for it (0.745 g)', () => {
    expect(massFor(0.01, 1000, { formula: 'KCl', purityPercent: 100 })).toBeCloseTo(0.7455, 3);
  });

  it(`weighing in and out again (seed ${SEED})`, () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 10, noNaN: true }),
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        fc.double({ min: 10, max: 100, noNaN: true }),
        fc.constantFrom(...SALTS.map((s) => s.formula)),
        (c, ml, purityPercent, formula) => {
          const mass = massFor(c, ml, { formula, purityPercent });
          if (mass <= 1e6) expect(concentrationOf(mass, ml, { formula, purityPercent }) / c).toBeCloseTo(1, 9);
        },
      ),
      { seed: SEED },
    );
  });

  it('a dilution keeps the amount, and a weak stock makes nothing strong', () => {
    const { stockVolume, waterVolume } = dilute(1000, 46.2, 250);
    expect(stockVolume * 1000).toBeCloseTo(46.2 * 250, 9);
    expect(stockVolume + waterVolume).toBeCloseTo(250, 9);
    expect(() => dilute(10, 100, 250)).toThrow(/stock of 10 cannot make 100/);
    expect(() => dilute(0, 1, 250)).toThrow(/above 0/);
    expect(() => massFor(0.01, 1000, { formula: 'KCl', purityPercent: 0 })).toThrow(/above 0/);
  });
});

describe('ammonia and chlorine: fractions in fresh water', () => {
  it('ammonia pKa 9.2464 at 25 °C, 5.37 % NH3 at pH 8: Emerson et al. 1975, recomputed', () => {
    expect(ammoniaPka(25)).toBeCloseTo(9.2464, 4);
    expect(ammoniaShare(8, 25)).toBeCloseTo(5.37, 2);
  });

  it('hypochlorous acid pKa 7.537 at 25 °C, 52.1 % at pH 7.5: Morris 1966, recomputed', () => {
    expect(hypochlorousPka(25)).toBeCloseTo(7.537, 3);
    expect(hypochlorousShare(7.5, 25)).toBeCloseTo(52.1, 1);
  });

  it(`the shares stay between 0 and 100 and move the right way with pH (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 13.9, noNaN: true }), celsius, (pH, t) => {
        expect(ammoniaShare(pH + 0.1, t)).toBeGreaterThan(ammoniaShare(pH, t));
        expect(hypochlorousShare(pH + 0.1, t)).toBeLessThan(hypochlorousShare(pH, t));
        for (const share of [ammoniaShare(pH, t), hypochlorousShare(pH, t)]) {
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThanOrEqual(100);
        }
      }),
      { seed: SEED },
    );
    expect(() => ammoniaShare(8, 60)).toThrow(/0 to 50 °C/);
    expect(() => hypochlorousShare(15, 20)).toThrow(/0 to 14/);
  });
});

describe('redox standards and references', () => {
  it('ferri/ferrocyanide 442.8, 430.3, 417.6 mV at 20, 25, 30 °C: Nordstrom 1977, recomputed', () => {
    expect(ferrocyanidePotential(20)).toBeCloseTo(442.8, 1);
    expect(ferrocyanidePotential(25)).toBeCloseTo(430.3, 1);
    expect(ferrocyanidePotential(30)).toBeCloseTo(417.6, 1);
  });

  it('quinhydrone at 25 °C: 462.6 mV at pH 4.008, 293.6 at 6.865 (arithmetic recomputed; E° from memory of the handbook)', () => {
    expect(quinhydronePotential(4.008, 25)).toBeCloseTo(462.6, 1);
    expect(quinhydronePotential(6.865, 25)).toBeCloseTo(293.6, 1);
    expect(() => quinhydronePotential(9, 25)).toThrow(/decays above pH 8/);
  });

  it('silver chloride against hydrogen, 10 to 40 °C: Sawyer et al., rows from memory of the table', () => {
    expect([10, 15, 20, 25, 30, 35, 40].map((t) => referencePotential('silver-chloride-saturated', t))).toEqual([
      213.8, 208.9, 204.0, 198.9, 193.9, 188.7, 183.5,
    ]);
    expect([10, 15, 20, 25, 30, 35, 40].map((t) => referencePotential('silver-chloride-3.5', t))).toEqual([
      215.2, 211.7, 208.2, 204.6, 200.9, 197.1, 193.3,
    ]);
    expect(() => referencePotential('silver-chloride-3.5', 45)).toThrow(/10 to 40 °C/);
  });

  it('by activity at 25 °C: 3 m 208.6, 1 m 235.3, 0.1 m 288.2 mV, recomputed from 222.33 − (RT/F) ln(m γ)', () => {
    expect(silverChlorideByActivity(3, 0.569)).toBeCloseTo(208.6, 1);
    expect(silverChlorideByActivity(1, 0.604)).toBeCloseTo(235.3, 1);
    expect(silverChlorideByActivity(0.1, 0.77)).toBeCloseTo(288.2, 1);
    // 3 → 1 mol/kg: +26.7 mV at the reference.
    expect(silverChlorideByActivity(1, 0.604) - silverChlorideByActivity(3, 0.569)).toBeCloseTo(26.7, 1);
    expect(() => silverChlorideByActivity(0, 0.5)).toThrow(/above 0/);
  });

  it('tables with and without the junction are never mixed; with hydrogen both are', () => {
    expect(() => againstReference(200, 'silver-chloride-saturated', 'silver-chloride-3m', 25)).toThrow(
      /Pick two of one series/,
    );
    expect(againstReference(230, 'silver-chloride-3m', 'hydrogen', 25)).toBeCloseTo(438.6, 1);
    expect(againstReference(0, 'silver-chloride-saturated', 'silver-chloride-3.5', 25)).toBeCloseTo(-5.7, 9);
    expect(() => againstReference(0, 'calomel', 'hydrogen', 25)).toThrow(/There is no reference/);
  });

  it(`to hydrogen and back is the same potential, every reference (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.constantFrom(...REFERENCES), fc.double({ min: -1000, max: 1000, noNaN: true }), (r, mv) => {
        const there = againstReference(mv, r.id, 'hydrogen', 25);
        expect(againstReference(there, 'hydrogen', r.id, 25)).toBeCloseTo(mv, 9);
      }),
      { seed: SEED },
    );
    for (const s of REDOX_STANDARDS) expect(valueAt(s, 25)).toBeCloseTo(s.nominal, 6);
  });

  it('ideal slopes: 54.199, 59.159, 60.151, 61.540, 64.120 mV/pH at 0, 25, 30, 37, 50 °C, recomputed with CODATA 2018', () => {
    const expected = [54.199, 59.159, 60.1515, 61.54, 64.12];
    [0, 25, 30, 37, 50].forEach((t, i) => expect(Math.abs(nernstSlope(t) - expected[i]!)).toBeLessThan(0.0007));
  });
});
