import {
  buffer,
  CONDUCTIVITY_STANDARDS,
  conductivityOfSeawater,
  daviesCoefficient,
  ferrocyanidePotential,
  oxygenPressure,
  oxygenSaturation,
  pureWater,
  quinhydronePotential,
  referencePotential,
  valueAt,
} from '@frustum/core';
import { describe, expect, it } from 'vitest';
import { curveThrough, on } from './curves.ts';
import { activityOf, all, bufferPh, ehOf, gamma, ionOf, phOf, POURED, stirred, usOf } from './liquids.ts';
import { fullKPa, oxygenMgPerL } from './oxygen.ts';
import { referenceMv, FRESH_REFERENCE } from './reference.ts';
import { freshUs, kclUs, pureUs, seawaterUs } from './waters.ts';

const standard = (id: string) => CONDUCTIVITY_STANDARDS.find((s) => s.id === id)!;

/** The judge must agree with the core about the world, by another route; how nearly is said in each test. */
describe('the stand-in’s liquids against the core’s tables and formulas', () => {
  it.each(['4.01', '7.00', '9.00 (20 °C)', '10.01'])('cubic of %s: within 0.012 pH of the printed table', (name) => {
    for (let t = 10; t <= 35; t += 2.5)
      expect(Math.abs(bufferPh(name, t) - valueAt(buffer(`technical-${name.split(' ')[0]}`), t))).toBeLessThan(0.012);
  });

  it('phosphate by its equation: within 0.002 pH of the core’s table of it', () => {
    for (const t of [5, 15, 25, 35, 50])
      expect(Math.abs(bufferPh('phosphate 6.865', t) - valueAt(buffer('primary-phosphate'), t))).toBeLessThan(0.002);
  });

  it('seawater: gsw’s rows as curves within 0.05 % of PSS-78, between the rows too', () => {
    for (const s of [6, 12, 22, 33, 35, 39])
      for (const t of [6, 14, 21.5, 25.5, 33]) {
        const core = conductivityOfSeawater(s, t);
        expect(Math.abs(seawaterUs(s, t) / core - 1), `S ${s}, ${t} °C`).toBeLessThan(5e-4);
      }
  });

  it('KCl: a cubic through four rows within 0.1 % of the others', () => {
    for (let t = 15; t <= 30; t++) {
      expect(Math.abs(kclUs(1413, t) / valueAt(standard('kcl-0.01'), t) - 1)).toBeLessThan(1e-3);
      expect(Math.abs(kclUs(2765, t) / valueAt(standard('kcl-0.02'), t) - 1)).toBeLessThan(2.5e-3);
    }
  });

  it('pure water from mobilities and ion product within 5 % of the table from 5 to 45 °C, 0.055 µS/cm at 25 °C', () => {
    expect(pureUs(25)).toBeCloseTo(0.055, 3);
    for (let t = 5; t <= 45; t += 5) expect(Math.abs(pureUs(t) / pureWater(t) - 1)).toBeLessThan(0.05);
  });

  it('oxygen: gsw’s table and Magnus’ vapour within 0.2 % of Benson and Krause, at any salt and pressure', () => {
    for (const temperatureC of [2, 12, 18.5, 25.5, 33])
      for (const salinity of [0, 11, 22, 35])
        for (const pressureKPa of [84, 98.4, 101.325]) {
          const core = oxygenSaturation({ temperatureC, salinity, pressureKPa });
          const there = oxygenMgPerL(1, temperatureC, salinity, pressureKPa);
          expect(Math.abs(there / core - 1), `${temperatureC} °C, S ${salinity}, ${pressureKPa} kPa`).toBeLessThan(
            2e-3,
          );
          expect(
            Math.abs(fullKPa(temperatureC, pressureKPa) / oxygenPressure({ temperatureC, pressureKPa }) - 1),
          ).toBeLessThan(1e-3);
        }
  });

  it('fresh water bends away from 2 %/°C by less than 2 % within ten degrees', () => {
    for (const t of [15, 20, 30, 35]) {
      const straight = 1 + 0.02 * (t - 25);
      expect(Math.abs(freshUs(1, t) / straight - 1)).toBeLessThan(0.02);
      expect(freshUs(1, t)).not.toBeCloseTo(straight, 4);
    }
  });

  it('redox: the parabola within 0.1 mV of Nordstrom (1977); quinhydrone in 4.01 462.6 mV', () => {
    for (let t = 18; t <= 32; t++)
      expect(Math.abs(POURED['redox 430']!.eh(t) - ferrocyanidePotential(t))).toBeLessThan(0.1);
    expect(POURED['redox pH 4']!.eh(25)).toBeCloseTo(quinhydronePotential(bufferPh('4.01', 25), 25), 1);
  });

  it('the reference: 208.6 mV for 3 mol/kg at 25 °C by activity, and +26.7 mV when a third is left', () => {
    expect(referenceMv(FRESH_REFERENCE, 25)).toBeCloseTo(208.6, 0);
    const diluted = referenceMv({ ...FRESH_REFERENCE, kcl: 1 }, 25);
    expect(diluted - referenceMv(FRESH_REFERENCE, 25)).toBeCloseTo(26.7, 1);
    // The core's table holds a whole cell, junction included: near, and not the same.
    expect(Math.abs(referenceMv(FRESH_REFERENCE, 25) - referencePotential('silver-chloride-3.5', 25))).toBeLessThan(6);
  });

  it('activity: 0.90 in 0.01 mol/L KCl, where Davies gives 0.9016; 319 mg/L chloride is the bottle’s', () => {
    expect(gamma(0.01)).toBeCloseTo(daviesCoefficient(1, 0.01, 25), 2);
    expect(gamma(0)).toBe(1);
    expect(activityOf(all(POURED['chloride 319']!), 'chloride') * 35.45).toBeCloseTo(319.8, 0);
  });
});

describe('mixing', () => {
  const [strong, weak] = [POURED['1413 µS/cm']!, POURED['84 µS/cm']!];

  it('a film of a share s leaves (1 − s) of the cup and s of what clung: salts, conductivity', () => {
    for (const s of [0, 0.03, 0.25, 1]) {
      const mix = stirred(all(weak), all(strong), s);
      expect(usOf(mix, 25)).toBeCloseTo(84 * (1 - s) + 1413 * s, 6);
      expect(ionOf(mix, 'chloride')).toBeCloseTo(10 * s, 9);
    }
  });

  it('n dips of the same share wash out as (1 − s)^n', () => {
    let mix = all(strong);
    for (let n = 0; n < 6; n++) mix = stirred(mix, all(POURED['chlorine-free']!), 0.2);
    expect(ionOf(mix, 'chloride')).toBeCloseTo(10 * 0.8 ** 6, 6);
  });

  it('two buffers of one strength meet in the middle; pure water hardly moves a buffer', () => {
    const [low, high] = [POURED['4.01']!, POURED['10.01']!];
    expect(phOf(stirred(all(low), all(high), 0.5), 25)).toBeCloseTo((low.ph(25) + high.ph(25)) / 2, 9);
    const watered = { ...low, ph: () => 6.2, buffering: 0.003 };
    expect(phOf(stirred(all(low), all(watered), 0.3), 25) - low.ph(25)).toBeLessThan(0.004);
  });

  it('shares stay whole after many stirs, and what cannot be seen is let go', () => {
    let mix = all(strong);
    for (let n = 0; n < 200; n++) mix = stirred(mix, all({ ...weak }), 0.3);
    expect(mix.reduce((s, p) => s + p.share, 0)).toBeCloseTo(1, 9);
    expect(mix.length).toBeLessThan(60);
    expect(ehOf(mix, 25)).toBeCloseTo(350, 6);
  });
});

it('a curve goes through as many rows as it has coefficients', () => {
  const rows: [number, number][] = [
    [0, 1],
    [10, -3],
    [20, 5],
    [40, 2],
  ];
  const curve = curveThrough(rows, 3);
  for (const [x, y] of rows) expect(on(curve, x)).toBeCloseTo(y, 9);
});
