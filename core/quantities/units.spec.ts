import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figure } from './figure.ts';
import { readQuantity, unitNamed } from './read-quantity.ts';
import {
  AMMONIUM_PER_N,
  convertTo,
  inUnit,
  kindOf,
  NITRATE_PER_N,
  quantity,
  UNITS,
  unitsOf,
  type Unit,
} from './units.ts';

const SEED = 20261;

describe('units with their scale', () => {
  it('EC, CF and the three ppm scales: ×10, ×500, ×640, ×700 of mS/cm (definition, common practice)', () => {
    const ec = quantity(1.9, 'mS/cm');
    expect(inUnit(ec, 'CF')).toBeCloseTo(19, 9);
    expect(inUnit(ec, 'ppm×500')).toBeCloseTo(950, 9);
    expect(inUnit(ec, 'ppm×640')).toBeCloseTo(1216, 9);
    expect(inUnit(ec, 'ppm×700')).toBeCloseTo(1330, 9);
    expect(inUnit(ec, 'mS/m')).toBeCloseTo(190, 9);
  });

  it('F = 1.8 C + 32: 26.1 °C is 78.98 °F (definition)', () => {
    expect(inUnit(quantity(26.1, '°C'), '°F')).toBeCloseTo(78.98, 9);
    expect(inUnit(quantity(0, '°C'), 'K')).toBeCloseTo(273.15, 9);
  });

  it('as N or as NO3 differ by 4.42664, as NH4 by 1.28786: molar masses by IUPAC 2021 atomic weights', () => {
    expect((14.007 + 3 * 15.999) / 14.007).toBeCloseTo(NITRATE_PER_N, 12);
    expect((14.007 + 4 * 1.008) / 14.007).toBeCloseTo(AMMONIUM_PER_N, 12);
    expect(inUnit(quantity(5, 'mg/L NO3-N'), 'mg/L NO3')).toBeCloseTo(22.1332, 4);
  });

  it('a small m is milli: 5 mΩ is no megohm, and 3 m is no mol/L; a large one that was left small is not guessed', () => {
    for (const typed of ['5 mΩ', '5 mohm', '3 m', '18 mΩ·cm', '18 mohm cm'])
      expect(readQuantity(typed, [], null), typed).toMatchObject({ ok: false, reason: 'unknown-unit' });
    expect(readQuantity('5 MΩ', [], null)).toMatchObject({ ok: true, unit: 'MΩ' });
    expect(readQuantity('5 megohm', [], null)).toMatchObject({ ok: true, unit: 'MΩ' });
    expect(readQuantity('3 M', [], null)).toMatchObject({ ok: true, unit: 'mol/L' });
    expect(readQuantity('1.41 MS/CM', [], null)).toMatchObject({ ok: true, unit: 'mS/cm' });
    expect(readQuantity('3 mm', [], null)).toMatchObject({ ok: false });
    expect(readQuantity('2 mbar', [], null)).toMatchObject({ ok: true, unit: 'hPa' });
  });

  it('mixed kinds do not compile, and give nothing when only known at run time', () => {
    // @ts-expect-error a nitrate has no value as ammonium
    expect(inUnit(quantity(5, 'mg/L NO3'), 'mg/L NH4')).not.toBe(5);
    // @ts-expect-error a gravity at 25/25 is not one at 20/20
    inUnit(quantity(1.026, 'SG 25/25'), 'SG 20/20');
    // @ts-expect-error a concentration is no activity
    inUnit(quantity(354.5, 'mg/L'), 'mg/L activity');
    // @ts-expect-error the NBS-type scale is not the total scale
    inUnit(quantity(8.1, 'pH'), 'pH total');
    // @ts-expect-error there is no bare ppm
    quantity(1330, 'ppm');
    expect(convertTo(5, 'mg/L NO3', 'mg/L NH4')).toBeNull();
    expect(convertTo(8.1, 'pH', 'pH total')).toBeNull();
  });

  it(`there and back again, every unit of every kind (seed ${SEED})`, () => {
    const pairs = UNITS.flatMap((u) => unitsOf(kindOf(u)).map((v) => [u, v] as const));
    fc.assert(
      fc.property(fc.constantFrom(...pairs), fc.double({ min: -1e5, max: 1e5, noNaN: true }), ([u, v], x) => {
        const back = convertTo(convertTo(x, u, v)!, v, u)!;
        expect(Math.abs(back - x)).toBeLessThanOrEqual(1e-9 * Math.max(300, Math.abs(x)));
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});

describe('reading what was typed', () => {
  it.each<[string, Parameters<typeof readQuantity>[1], Unit | null, number, Unit]>([
    ['81.3 F', ['temperature'], '°C', 81.3, '°F'],
    ['81.3F', ['temperature'], '°C', 81.3, '°F'],
    ['23,4', ['temperature'], '°C', 23.4, '°C'],
    ['−8.4 mV', ['potential'], 'mV', -8.4, 'mV'],
    ['1.41 mS/cm', ['conductivity'], 'mS/cm', 1.41, 'mS/cm'],
    ['1413 us/cm', ['conductivity'], 'mS/cm', 1413, 'µS/cm'],
    ['1413 μS/cm', ['conductivity'], 'mS/cm', 1413, 'µS/cm'],
    ['1330 ppm700', ['conductivity'], 'mS/cm', 1330, 'ppm×700'],
    ['1330 ppm x700', ['conductivity'], 'mS/cm', 1330, 'ppm×700'],
    ['19 cf', ['conductivity'], 'mS/cm', 19, 'CF'],
    ['18 Mohm', ['resistance'], 'Ω', 18, 'MΩ'],
    ['18 MΩ·cm', ['resistivity'], 'MΩ·cm', 18, 'MΩ·cm'],
    ['18 megohm cm', [], null, 18, 'MΩ·cm'],
    ['35 S', ['practical salinity'], 'PSS-78', 35, 'PSS-78'],
    ['1.0264 SG 25/25', ['gravity at 25/25 °C'], 'SG 25/25', 1.0264, 'SG 25/25'],
    ['22.1 mg/L as NO3', ['nitrate'], 'mg/L NO3-N', 22.1, 'mg/L NO3'],
    ['0.01 M', ['amount concentration'], 'mol/L', 0.01, 'mol/L'],
    ['1e-3 mol/l', ['amount concentration'], 'mol/L', 0.001, 'mol/L'],
  ])('“%s”', (text, kinds, assumed, value, unit) => {
    expect(readQuantity(text, kinds, assumed)).toMatchObject({ ok: true, value, unit });
  });

  it.each<[string, Parameters<typeof readQuantity>[1], Unit | null, string, RegExp]>([
    ['', ['temperature'], '°C', 'empty', /Nothing typed/],
    ['warm', ['temperature'], '°C', 'no-figure', /“warm” has no figure.*7\.2 °C/],
    ['1.2.3', ['temperature'], '°C', 'no-figure', /“1\.2\.3” is not a figure/],
    ['1e999', ['temperature'], '°C', 'no-figure', /not a figure/],
    ['1330 ppm', ['conductivity'], 'mS/cm', 'unknown-unit', /three scales.*ppm×500, ppm×640, ppm×700/],
    ['1.026 sg', ['gravity at 25/25 °C'], 'SG 25/25', 'unknown-unit', /SG 25\/25 or SG 20\/20/],
    ['25 °', ['temperature'], '°C', 'unknown-unit', /°C or °F/],
    ['7 mV', ['temperature'], '°C', 'other-kind', /mV is a potential; this takes °C, °F, K/],
    ['7 parsec', ['temperature'], '°C', 'unknown-unit', /“parsec” is no unit known here.*°C, °F, K/],
    ['1,413', ['conductivity'], 'mS/cm', 'ambiguous', /1\.413 or as 1413/],
    ['7.02', [], null, 'unknown-unit', /7\.02 of what/],
  ])('refuses “%s” with the way out', (text, kinds, assumed, reason, message) => {
    const read = readQuantity(text, kinds, assumed);
    expect(read).toMatchObject({ ok: false, reason });
    expect(!read.ok && read.message).toMatch(message);
  });

  it('every unit reads back from its own spelling', () => {
    for (const unit of UNITS) expect(unitNamed(unit), unit).toBe(unit);
  });

  it(`no text at all makes it fall over or give no number (seed ${SEED})`, () => {
    const mess = fc.oneof(
      fc.string(),
      fc.string({ unit: 'grapheme' }),
      fc.tuple(fc.double(), fc.string()).map((t) => t.join(' ')),
    );
    fc.assert(
      fc.property(mess, (text) => {
        const read = readQuantity(text, [], 'mV');
        if (read.ok) expect(Number.isFinite(read.value)).toBe(true);
        else expect(read.message.length).toBeGreaterThan(5);
      }),
      { seed: SEED, numRuns: 2000 },
    );
  });

  it('a figure is a figure: comma, minus, exponent; anything else is not', () => {
    expect(figure('−8,4')).toBe(-8.4);
    expect(figure('1e3')).toBe(1000);
    for (const no of ['', '.', '7.0.1', '0x10', '1e999', 'NaN', '--1']) expect(figure(no), no).toBeNull();
  });
});
