import { describe, expect, it } from 'vitest';
import { CLASS_A_C, classA, rtdResistance, rtdSlope } from '../electrical/resistance-thermometer.ts';
import { thermistorOf, thermistorResistance } from '../electrical/thermistor.ts';
import { boxForConductivity, cellConstantFrom, resistivityOfBox } from '../electrical/simulators.ts';
import { currentFor, valueOfCurrent } from '../electrical/current-loop.ts';
import { interference } from '../families/ion/nikolsky.ts';
import { ewma } from '../statistics/control-charts.ts';
import { daviesCoefficient, daviesUncertainty, extendedCoefficient, ionicStrength, permittivity } from './activity.ts';
import { buffer, BUFFERS } from './buffers.ts';
import { conductivityBottle, CONDUCTIVITY_STANDARDS } from './conductivity-standards.ts';
import { courseFactor, linearFactor } from './compensation.ts';
import { ammoniaPka, HYPOCHLOROUS_C, hypochlorousPka } from './dissociation.ts';
import { ionStandard, preparedIon } from './ion-standard.ts';
import { oxygenSaturation } from './oxygen.ts';
import { concentrationOf, dilute, massFor } from './preparation.ts';
import { pureCompensationUncertainty, pureFrom25, pureTo25, pureWater } from './pure-water.ts';
import { ferrocyanidePotential, quinhydronePotential } from './redox-standards.ts';
import { againstReference, referencePotential, silverChlorideByActivity } from './references.ts';
import { grabSample } from './sample.ts';
import { IONS, molarMass } from './salts.ts';
import { density68, salinityOfGravity } from './seawater/density.ts';
import { conductivityOfSeawater, salinity, salinityFromRatio } from './seawater/practical-salinity.ts';
import { trisPh } from './seawater/tris.ts';
import { ageUncertainty, certified, still, valueAt, withOwnTable } from './standard.ts';

/** Where each equation ends: at the end itself it answers, a hundredth further it refuses. Ends as the sources print them. */

const salt = { formula: 'KCl', purityPercent: 100 };
const seven = buffer('technical-7.00');
const bottle = (label: number, labelC: number, plusMinusPercent = 1) => conductivityBottle({ label, labelC, salt: 'not stated', plusMinusPercent }); // prettier-ignore
const chloride = { activity: 100, charge: -1, molarMass: 35.45, selectivity: 0.01 };
const nitrate = { charge: -1, molarMass: 62.004 };
const span = { at4: 4, at20: 20 };

const ENDS: readonly (readonly [what: string, of: (x: number) => unknown, low: number | null, high: number | null])[] =
  [
    ['Davies’ ±, mol/L', daviesUncertainty, 0, 0.5],
    ['concentration of an ion, mol/L', (c) => ionicStrength([{ concentration: c, charge: 1 }]), 0, 60],
    ['charge of an ion', (charge) => ionicStrength([{ concentration: 0.1, charge }]), -10, 10],
    ['PSS-78, °C on the scale of 1968: UNESCO 44', (t) => salinityFromRatio(0.5, t), -2.001, 35.01],
    ['PSS-78, dbar', (p) => salinityFromRatio(1, 15, p), 0, 10_000],
    ['EOS-80, °C on the scale of 1968: UNESCO 44', (t) => density68(35, t), -2.001, 40.01],
    ['pure water to 25 °C, µS/cm', (v) => pureTo25(v, 25, 2), null, 1e9],
    ['pure water from 25 °C, µS/cm', (v) => pureFrom25(v, 20, 2), null, 1e9],
    ['pure water’s ±, µS/cm', (v) => pureCompensationUncertainty(v, 20, 2), 0, 1e9],
    ['silver chloride by activity, activity', (a) => silverChlorideByActivity(a, 1), 1e-9, 1e3],
    ['potential, mV', (mv) => againstReference(mv, 'hydrogen', 'calomel-saturated', 25), -1e6, 1e6],
    ['hypochlorous acid, °C', hypochlorousPka, 0, 50],
    ['weighing, mol/L', (c) => massFor(c, 1000, salt), null, 20],
    ['weighing, mL', (ml) => massFor(0.01, ml, salt), null, 1e6],
    ['weighing, %', (purityPercent) => massFor(0.01, 1000, { ...salt, purityPercent }), null, 100],
    ['weighed, g', (g) => concentrationOf(g, 1000, salt), null, 1e6],
    ['weighed, mL', (ml) => concentrationOf(1, ml, salt), null, 1e6],
    ['weighed, %', (purityPercent) => concentrationOf(1, 1000, { ...salt, purityPercent }), null, 100],
    ['diluting, stock', (stock) => dilute(stock, 1, 100), null, 1e9],
    ['diluting, mL', (ml) => dilute(1000, 1, ml), null, 1e6],
    ['certificate’s ±: no more than the value', (u) => certified(seven, u), 1e-9, 7],
    ['certificate’s ±, of a zero', (u) => certified({ ...seven, nominal: 0 }, u), 1e-9, 1],
    ['days open', (days) => ageUncertainty(seven, days, 90), null, 100_000],
    ['days that it keeps', (days) => ageUncertainty(seven, 1, days), 0.04, 100_000],
    ['platinum, °C: IEC 60751', (t) => rtdResistance(t, 100), -200, 850],
    ['platinum’s slope, °C', (t) => rtdSlope(t, 100), -200, 850],
    ['cell constant, /cm', (k) => boxForConductivity(1413, k), 0.001, 100],
    ['cell constant found, /cm', (k) => cellConstantFrom(1000 * k, 1000), 0.001, 100],
    ['box, Ω', (ohms) => resistivityOfBox(ohms, 1), null, 1e12],
    ['current for a value, mA: NE 43', (v) => currentFor(v, span), 3.8, 20.5],
    ['value of a current, mA: NE 43', (ma) => valueOfCurrent(ma, span), 3.8, 20.5],
    ['activity of what interferes, mg/L', (activity) => interference({ ...nitrate, molarMass: 1 }, [{ ...chloride, activity, selectivity: 1e-4 }]), 0, 1e6], // prettier-ignore
    ['selectivity', (selectivity) => interference({ ...nitrate, molarMass: 1 }, [{ ...chloride, activity: 1e-3, selectivity }]), 0, 1e6], // prettier-ignore
    ['molar mass of an ion', (m) => interference({ charge: -1, molarMass: m }, []), 1, 1000],
    ['weight of the newest', (l) => ewma([0], 0, 1, l), 1e-6, 1],
    ['sd of a chart', (sd) => ewma([0], 0, sd), 0, 1e12],
    ['limit of a chart', (k) => ewma([0], 0, 1, 0.3, k), 0, 100],
    ['figure of a chart', (x) => ewma([x], 0, 1), -1e12, 1e12],
  ];

/** The same where the last figure inside and the next ones beyond are named. */
const NAMED: readonly (readonly [string, (x: number) => unknown, readonly number[], readonly number[]])[] = [
  ['salinity, °C', (t) => salinity({ conductivityUsPerCm: 30_000, temperatureC: t }), [-2, 35], [-2.02, 35.03]],
  ['salinity, dbar', (p) => salinity({ conductivityUsPerCm: 40_000, temperatureC: 15, pressureDbar: p }), [0, 10_000], [-1, 10_001]], // prettier-ignore
  ['conductivity of seawater, S', (s) => conductivityOfSeawater(s, 20), [0, 42], [-0.01, 42.01]],
  ['conductivity of seawater, °C', (t) => conductivityOfSeawater(35, t), [-2, 35], [-2.01, 35.01]],
  ['conductivity of seawater, dbar', (p) => conductivityOfSeawater(35, 10, p), [10_000], [10_001]],
  ['density, °C', (t) => density68(35, t), [-2, 40], [-2.01, 40.02]],
  ['density, S', (s) => density68(s, 10), [0, 42], [-0.01, 42.01]],
  ['gravity', (g) => salinityOfGravity(g, 25), [1, 1.0316], [0.9999, 1.032]],
  ['tris, S', (s) => trisPh(s, 25), [20, 40], [19.9, 40.1]],
  ['tris, °C', (t) => trisPh(35, t), [0, 45], [-0.1, 45.1]],
  ['pure water, °C', (t) => pureWater(t), [0, 50], [-0.1, 50.1]],
  ['ferrocyanide, °C', (t) => ferrocyanidePotential(t), [8, 85], [7.9, 85.1]],
  ['quinhydrone, °C', (t) => quinhydronePotential(4, t), [5, 40], [4.9, 40.1]],
  ['quinhydrone, pH', (ph) => quinhydronePotential(ph, 25), [1, 8], [0.9, 8.1]],
  ['permittivity, °C', (t) => permittivity(t), [0, 100], [-0.1, 100.1]],
  ['Davies, mol/L', (i) => daviesCoefficient(1, i, 25), [0, 0.5], [-0.01, 0.51]],
  ['Davies, charge', (z) => daviesCoefficient(z, 0.1, 25), [-4, -1, 1, 4], [-5, 0, 5, 1.5]],
  ['extended, mol/L', (i) => extendedCoefficient(1, 3, i), [0, 0.1], [-0.01, 0.11]],
  ['extended, Å', (a) => extendedCoefficient(1, a, 0.05), [1, 15], [0.9, 15.1]],
  ['ammonia, °C', (t) => ammoniaPka(t), [0, 50], [-0.1, 50.1]],
  ['line, %/°C', (a) => courseFactor(20, a), [0, 10], [-0.1, 10.1]],
  ['line, °C', (t) => courseFactor(t, 0), [-50, 250], [-51, 251]],
  ['silver chloride, °C', (t) => silverChlorideByActivity(1, 0.6, t), [10, 40], [9.9, 40.1]],
  ['bottle, µS/cm', (k) => conductivityBottle({ label: k, labelC: 25, salt: 'NaCl' }), [1, 250_000], [0.9, 250_001]],
  ['bottle, %', (p) => conductivityBottle({ label: 84, labelC: 25, salt: 'KCl', plusMinusPercent: p }), [0.01, 20], [0.009, 20.1]], // prettier-ignore
  ['prepared, background', (b) => preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: 0, backgroundMolPerL: b }), [0, 0.5], [-0.01, 0.51]], // prettier-ignore
  [
    'ion standard, °C',
    (t) => valueAt(ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }), t),
    [5, 45],
    [4.5, 45.5],
  ],
  ['prepared, mol/L', (m) => preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: m }), [0, 0.5], [-0.01, 0.51, 10.1]],
  ...CONDUCTIVITY_STANDARDS.map((s) => [s.id, (t: number) => valueAt(s, t), [15, 20, 25], [14.5, 30.5]] as const),
  ['a label without a salt, °C', (t) => valueAt(conductivityBottle({ label: 84, labelC: 20, salt: 'not stated' }), t), [19.9, 20.1], [19.8, 20.2]], // prettier-ignore
  ['a label without a salt, its °C', (t) => conductivityBottle({ label: 84, labelC: t, salt: 'not stated' }), [0, 50], [-0.1, 50.1]], // prettier-ignore
  ['oxygen, °C', (t) => oxygenSaturation({ temperatureC: t }), [0, 40], [-0.1, 40.1]],
  ['oxygen, S', (s) => oxygenSaturation({ temperatureC: 20, salinity: s }), [0, 40], [-0.1, 40.1]],
  ['oxygen, kPa', (p) => oxygenSaturation({ temperatureC: 20, pressureKPa: p }), [50, 112], [49.9, 112.1]],
  ['sample, ±', (half) => grabSample('ph', 7, 'pH', half, 25), [1e-9, 1e6], [0, 1.01e6]],
  ['sample, °C', (t) => valueAt(grabSample('ph', 7, 'pH', 0.1, 25), t), [-20, 150], [-20.5, 150.5]],
  ['nitrate bottle, °C', (t) => valueAt(still('nitrate', 'a', 'a', 'mg/L NO3-N', 5), t), [0, 60], [-0.5, 60.5]],
  ['hydrogen, °C', (t) => referencePotential('hydrogen', t), [0, 100], [-0.5, 100.5]],
  ['sat. silver chloride, °C', (t) => referencePotential('silver-chloride-saturated', t), [10, 40], [9.5, 40.5]],
  ['3 mol/L silver chloride, °C', (t) => referencePotential('silver-chloride-3', t), [10, 30], [9.5, 30.5]],
  ['formula', (n) => molarMass('H'.repeat(n)), [1, 60], [0, 61]],
];

describe('every equation answers to its end, and refuses beyond it', () => {
  it.each(ENDS)('%s', (_, of, low, high) => {
    for (const [end, out] of [
      [low, -1],
      [high, 1],
    ] as const) {
      if (end === null) continue;
      expect(() => of(end), `at ${end}`).not.toThrow();
      const beyond = end + out * Math.max(0.01 * Math.abs(end), end === 0 ? 1e-6 : 0);
      expect(() => of(beyond), `at ${beyond}`).toThrow(/./);
    }
  });

  it.each(NAMED)('%s', (_, of, inside, beyond) => {
    for (const x of inside) expect(() => of(x), `${x}`).not.toThrow();
    for (const x of beyond) expect(() => of(x), `${x}`).toThrow();
  });

  it('class A ends before the equation does: IEC 60751, wire and film, from memory', () => {
    expect(CLASS_A_C).toEqual({ wire: { low: -100, high: 450 }, film: { low: -30, high: 300 } });
    expect([classA(-100), classA(-100.1), classA(450), classA(450.1)].map((u) => u === null)).toEqual([false, true, false, true]); // prettier-ignore
  });

  it('Morris (1966) measured from 5 to 35 °C', () => {
    expect(HYPOCHLOROUS_C).toEqual({ low: 5, high: 35 });
  });

  it('charges from −4 to 4 are ions', () => {
    for (const charge of [-4, -1, 1, 4]) {
      expect(extendedCoefficient(charge, 3, 0.001)).toBeLessThan(1);
      expect(interference({ charge, molarMass: 40 }, [])).toBe(0);
    }
    for (const charge of [-5, 0, 5, 1.5]) {
      expect(() => extendedCoefficient(charge, 3, 0.001)).toThrow(/charge/);
      expect(() => interference({ charge, molarMass: 40 }, [])).toThrow(/charge/);
    }
  });

  it('what an own table may differ: 10 times its ± for a zero, and which row is wrong', () => {
    const zero = { ...seven, nominal: 0, uncertainty: 0.01, table: [[0, 0], [50, 0]] as const }; // prettier-ignore
    const own = (v: number) => withOwnTable(zero, [[0, v], [50, 0]], { plusMinus: 0.02, k: 2 }); // prettier-ignore
    expect(() => own(0.0999)).not.toThrow();
    expect(() => own(0.101)).toThrow(/far from/);
    expect(() => withOwnTable(seven, [[20, 7], [20, 7.01]], { plusMinus: 0.02, k: 2 })).toThrow(/Row 2 /); // prettier-ignore
    expect(() => withOwnTable(seven, [[Number.NaN, 7], [20, 7.01]], { plusMinus: 0.02, k: 2 })).toThrow(/Row 1 /); // prettier-ignore
    try {
      withOwnTable(seven, [[Number.NaN, 7], [20, 7.01]], { plusMinus: 0.02, k: 2 }); // prettier-ignore
    } catch (refusal) {
      expect(refusal).toMatchObject({ facts: { rows: 2, row: 1 } });
    }
  });

  it('what reads less than pure water by more than the table’s own ± is a fault; by less it is pure water', () => {
    // ±2 % at k = 2 above 5 °C, ±4 % at 0 °C
    expect(pureTo25(0.981 * pureWater(20), 20, 2)).toBe(pureWater(25));
    expect(() => pureTo25(0.979 * pureWater(20), 20, 2)).toThrow(/less than pure water/);
    expect(pureFrom25(0.981 * pureWater(25), 20, 2)).toBe(pureWater(20));
    expect(() => pureFrom25(0.979 * pureWater(25), 20, 2)).toThrow(/less than pure water/);
    expect(pureCompensationUncertainty(0.9 * pureWater(25), 20, 2).coefficient).toBe(0);
  });

  it('E° of silver chloride to a microvolt: the coefficients of Bates & Bower in volts, recomputed', () => {
    const volts = (t: number) => 0.23655 - 4.8642e-4 * t - 3.4205e-6 * t ** 2 + 5.869e-9 * t ** 3;
    for (const t of [10, 40])
      expect(silverChlorideByActivity(1, 1, t) - silverChlorideByActivity(1, 1, 25)).toBeCloseTo(
        1000 * (volts(t) - volts(25)),
        3,
      );
  });

  it('a coefficient that leaves less than a tenth is none; a tip’s gap, a thermistor’s rows and references by activity', () => {
    // 1 + 3 %/°C · (t − 25): 0.1 at −5 °C
    expect(linearFactor(-4.9, 3)).toBeCloseTo(0.103, 9);
    expect(() => linearFactor(-5.1, 3)).toThrow(/below 0\.1/);
    expect(() => pureCompensationUncertainty(1, 20, 0).coefficient).not.toThrow();
    expect(pureCompensationUncertainty(1, 20, 0).coefficient).toBe(0);
    // A common 10 kΩ element, from memory of its table: 25 395 Ω at 5, 12 490 at 20, 5327 at 40 °C.
    const usual = thermistorOf({ element: 'thermistor' })!;
    for (const [t, ohms] of [
      [5, 25_395],
      [20, 12_490],
      [25, 10_000],
      [40, 5327],
    ] as const)
      // prettier-ignore
      expect(thermistorResistance(usual, t) / ohms, `${t} °C`).toBeCloseTo(1, 2);
    for (const [t, ohms] of [
      [0, 32_650],
      [25, 10_000],
      [50, 3603],
    ] as const)
      // prettier-ignore
      expect(thermistorResistance(usual, t) / ohms, `${t} °C`).toBeCloseTo(1, 6);
    expect(referencePotential('silver-chloride-0.1m', 10)).toBeCloseTo(silverChlorideByActivity(0.1, 0.77, 10), 9);
    expect(referencePotential('silver-chloride-0.1m', 40)).toBeCloseTo(silverChlorideByActivity(0.1, 0.77, 40), 9);
  });

  it('bottles of pH by their labels: at 25 °C, but for pH 9; tables to a hundredth, primary ones to a thousandth', () => {
    for (const { id, nominalAtC, tableStep, nominal, table } of BUFFERS) {
      expect(nominalAtC, id).toBe(id === 'technical-9.00' ? 20 : 25);
      expect(tableStep, id).toBe(id.startsWith('technical') ? 0.01 : 0.001);
      expect(table.find(([t]) => t === nominalAtC)![1], id).toBe(nominal);
    }
    // Labels of potassium hydrogen phthalate by other makers, from memory: 4.00 at 20, 4.01 at 25, 4.02 at 35 °C.
    const four = buffer('technical-4.01');
    expect([5, 20, 25, 30, 35, 40, 50].map((t) => valueAt(four, t))).toEqual([4, 4, 4.01, 4.02, 4.02, 4.03, 4.06]);
  });

  it('sizes of ions: Kielland’s own list, from memory', () => {
    const sizes = Object.fromEntries(IONS.map((i) => [i.id, i.sizeAngstrom]));
    expect(sizes).toEqual({ chloride: 3, nitrate: 3, fluoride: 3.5, bromide: 3, potassium: 3, sodium: 4, ammonium: 2.5, calcium: 6, magnesium: 8, sulfate: 4 }); // prettier-ignore
    // B = 50.29/√(ε T) = 0.329 per Å at 25 °C (Robinson & Stokes): γ of an ion of 15 Å at 0.1 mol/L
    const b = 50.29 / Math.sqrt(78.3 * 298.15);
    const root = Math.sqrt(0.1);
    expect(Math.log10(extendedCoefficient(2, 15, 0.1))).toBeCloseTo((-0.509 * 4 * root) / (1 + b * 15 * root), 3);
  });

  it('what a platinum thermometer gains a degree below 0 °C: differences of the resistance itself', () => {
    for (const t of [-190, -100, -30, 40, 700])
      expect(rtdSlope(t, 100)).toBeCloseTo((rtdResistance(t + 0.01, 100) - rtdResistance(t - 0.01, 100)) / 0.02, 6);
  });

  it('a bottle that is an hour old, and one that keeps for half a day, have an age', () => {
    // u = 2 u_certificate/√3 by the day to which it is good, a rectangle (JCGM 100, 4.3.7)
    expect(ageUncertainty(seven, 0.5, 0.5)).toBeCloseTo((2 * seven.uncertainty) / Math.sqrt(3), 12);
    expect(ageUncertainty(seven, 0, 90)).toBe(0);
    expect(ageUncertainty(seven, 1, Infinity)).toBe(0);
  });

  it('names by size, ± by share, and a table over 5 to 45 °C', () => {
    expect([bottle(9999, 25).name, bottle(10_000, 25).name, bottle(10_100, 25).name]).toEqual(['9999 µS/cm', '10 mS/cm', '10.1 mS/cm']); // prettier-ignore
    expect(bottle(1000, 25, 1).uncertainty).toBe(5);
    expect(bottle(1000, 25).uncertainty).toBe(5);
    expect(bottle(1000, 25).tableStep).toBe(0);
    expect(bottle(1413, 25).table.map(([t]) => t)).toEqual([24.9, 25.1]);
    const made = ionStandard({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 });
    expect(made.table.map(([t]) => t)).toEqual([5, 10, 15, 20, 25, 30, 35, 40, 45]);
    expect([made.tableStep, made.nominalAtC]).toEqual([0, 25]);
    expect(made.nominal).toBeCloseTo(made.table[4]![1], 12);
    expect(preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: 0.01 }).activityMgPerL).toBeCloseTo(made.nominal, 12);
    const sample = grabSample('chlorine', 0.8, 'mg/L', 0.04, 25);
    expect(sample.tableStep).toBe(0);
    expect(sample.table.map(([t]) => t)).toEqual([-20, 150]);
  });
});
