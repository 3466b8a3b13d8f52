import { describe, expect, it } from 'vitest';
import { CLASS_A_C, classA, rtdResistance, rtdSlope } from '../electrical/resistance-thermometer.ts';
import { boxForConductivity, cellConstantFrom, resistivityOfBox } from '../electrical/simulators.ts';
import { currentFor, valueOfCurrent } from '../electrical/current-loop.ts';
import { interference } from '../families/ion/nikolsky.ts';
import { ewma } from '../statistics/control-charts.ts';
import { daviesCoefficient, daviesUncertainty, extendedCoefficient, ionicStrength, permittivity } from './activity.ts';
import { buffer } from './buffers.ts';
import { conductivityBottle } from './conductivity-standards.ts';
import { ammoniaPka, HYPOCHLOROUS_C, hypochlorousPka } from './dissociation.ts';
import { ionStandard, preparedIon } from './ion-standard.ts';
import { oxygenSaturation } from './oxygen.ts';
import { concentrationOf, dilute, massFor } from './preparation.ts';
import { pureCompensationUncertainty, pureFrom25, pureTo25, pureWater } from './pure-water.ts';
import { ferrocyanidePotential, quinhydronePotential } from './redox-standards.ts';
import { againstReference, silverChlorideByActivity } from './references.ts';
import { grabSample } from './sample.ts';
import { molarMass } from './salts.ts';
import { density68, salinityOfGravity } from './seawater/density.ts';
import { conductivityOfSeawater, salinityFromRatio } from './seawater/practical-salinity.ts';
import { ageUncertainty, certified, withOwnTable } from './standard.ts';

/** Where each equation ends: at the end itself it answers, a hundredth further it refuses. Ends as the sources print them. */

const salt = { formula: 'KCl', purityPercent: 100 };
const seven = buffer('technical-7.00');
const bottle = (label: number, labelC: number, plusMinusPercent = 1) => conductivityBottle({ label, labelC, salt: 'not stated', plusMinusPercent }); // prettier-ignore
const chloride = { activity: 100, charge: -1, molarMass: 35.45, selectivity: 0.01 };
const nitrate = { charge: -1, molarMass: 62.004 };
const span = { at4: 4, at20: 20 };

const ENDS: readonly (readonly [what: string, of: (x: number) => unknown, low: number | null, high: number | null])[] =
  [
    ['permittivity, °C: Malmberg & Maryott', permittivity, 0, 100],
    ['Davies, mol/L', (i) => daviesCoefficient(1, i, 25), 0, 0.5],
    ['Davies’ ±, mol/L', daviesUncertainty, 0, 0.5],
    ['extended Debye-Hückel, mol/L: Kielland', (i) => extendedCoefficient(1, 3, i), 0, 0.1],
    ['ion size, Å', (a) => extendedCoefficient(1, a, 0.01), 1, 15],
    ['concentration of an ion, mol/L', (c) => ionicStrength([{ concentration: c, charge: 1 }]), 0, 60],
    ['charge of an ion', (charge) => ionicStrength([{ concentration: 0.1, charge }]), -10, 10],
    ['PSS-78, °C on the scale of 1968: UNESCO 44', (t) => salinityFromRatio(0.5, t), -2.001, 35.01],
    ['PSS-78, dbar', (p) => salinityFromRatio(1, 15, p), 0, 10_000],
    ['PSS-78 backwards, °C', (t) => conductivityOfSeawater(35, t), -2, 35],
    ['PSS-78 backwards, salinity', (s) => conductivityOfSeawater(s, 15), 0, 42],
    ['PSS-78 backwards, dbar', (p) => conductivityOfSeawater(35, 15, p), 0, 10_000],
    ['EOS-80, °C on the scale of 1968: UNESCO 44', (t) => density68(35, t), -2.001, 40.01],
    ['EOS-80, salinity', (s) => density68(s, 15), 0, 42],
    ['gravity of no salt', (g) => salinityOfGravity(g, 25), 1, null],
    ['oxygen, °C: Benson & Krause', (temperatureC) => oxygenSaturation({ temperatureC }), 0, 40],
    ['oxygen, salinity', (salinity) => oxygenSaturation({ temperatureC: 20, salinity }), 0, 40],
    ['oxygen, kPa', (pressureKPa) => oxygenSaturation({ temperatureC: 20, pressureKPa }), 50, 112],
    ['pure water, °C', pureWater, 0, 50],
    ['pure water to 25 °C, µS/cm', (v) => pureTo25(v, 25, 2), null, 1e9],
    ['pure water from 25 °C, µS/cm', (v) => pureFrom25(v, 20, 2), null, 1e9],
    ['pure water’s ±, µS/cm', (v) => pureCompensationUncertainty(v, 20, 2), 0, 1e9],
    ['ferri/ferrocyanide, °C: Nordstrom', ferrocyanidePotential, 8, 85],
    ['quinhydrone, pH', (ph) => quinhydronePotential(ph, 25), 1, 8],
    ['quinhydrone, °C', (t) => quinhydronePotential(4, t), 5, 40],
    ['silver chloride by activity, °C: Bates & Bower', (t) => silverChlorideByActivity(1, 1, t), 10, 40],
    ['silver chloride by activity, activity', (a) => silverChlorideByActivity(a, 1), 1e-9, 1e3],
    ['potential, mV', (mv) => againstReference(mv, 'hydrogen', 'calomel-saturated', 25), -1e6, 1e6],
    ['hypochlorous acid, °C', hypochlorousPka, 0, 50],
    ['ammonium, °C', ammoniaPka, 0, 50],
    ['prepared ion, mol/L of background: Davies', (backgroundMolPerL) => preparedIon({ salt: 'KCl', ion: 'chloride', molPerL: 0, backgroundMolPerL }), 0, 0.5], // prettier-ignore
    ['weighing, mol/L', (c) => massFor(c, 1000, salt), null, 20],
    ['weighing, mL', (ml) => massFor(0.01, ml, salt), null, 1e6],
    ['weighing, %', (purityPercent) => massFor(0.01, 1000, { ...salt, purityPercent }), null, 100],
    ['weighed, g', (g) => concentrationOf(g, 1000, salt), null, 1e6],
    ['weighed, mL', (ml) => concentrationOf(1, ml, salt), null, 1e6],
    ['weighed, %', (purityPercent) => concentrationOf(1, 1000, { ...salt, purityPercent }), null, 100],
    ['diluting, stock', (stock) => dilute(stock, 1, 100), null, 1e9],
    ['diluting, mL', (ml) => dilute(1000, 1, ml), null, 1e6],
    ['sample’s ±', (u) => grabSample('chlorine', 0.8, 'mg/L', u, 25), 1e-9, 1e6],
    ['label, µS/cm', (label) => bottle(label, 25), 1, 250_000],
    ['label’s °C', (t) => bottle(1413, t), 0, 50],
    ['label’s ±, %', (u) => bottle(1413, 25, u), 0.01, 20],
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

  it('a formula of up to sixty characters is read', () => {
    expect(molarMass('H'.repeat(60))).toBeCloseTo(60 * 1.008, 1);
    expect(() => molarMass('H'.repeat(61))).toThrow(/./);
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
