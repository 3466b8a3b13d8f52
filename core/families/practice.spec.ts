import { describe, expect, it } from 'vitest';
import { oxygenPressure, oxygenSaturation } from '../solutions/oxygen.ts';
import { pureWater } from '../solutions/pure-water.ts';
import { conductivityOfSeawater } from '../solutions/seawater/practical-salinity.ts';
import { againstReference } from '../solutions/references.ts';
import { modelOf } from '../sensor/sensor.ts';
import { buffer } from '../solutions/buffers.ts';
import { ZERO_PLUG } from '../solutions/without-liquid.ts';
import { significantStep } from '../calibration/plan.ts';
import { cone } from '../drift/cone.ts';
import { fitIon, idealGap } from './ion/over-temperature.ts';
import { chainGains } from './ph-shown/chain.ts';
import { FAMILIES, familyOf } from './registry.ts';
import { agree } from './temperature/two-thermometers.ts';

/** What each family takes for enough, refuses, and makes of a figure: worked out by hand, on both sides of each limit. */

const C25 = { temperatureC: 25, calibrationC: 25 };
const rows = (id: string, settings: Record<string, number | string>, at: object) =>
  Object.fromEntries(modelOf(familyOf(id), settings).workingRows({ ...C25, ...at } as never).map((r) => [r.name, r.uncertainty])); // prettier-ignore

describe('what standards determine, and when they lie too close', () => {
  it.each([
    ['temperature', [20], 'zero'],
    ['temperature', [20, 24.9], 'zero'],
    ['temperature', [20, 25], 'both'],
    ['temperature', [20, 22, 40], 'both'],
    ['ion', [46, 319], 'both'],
  ] as const)('%s %j: %s', (id, values, free) => {
    expect(familyOf(id).frees(values as never)).toBe(free);
  });

  it.each([
    ['temperature', [20, 24.9], /4\.9 °C apart/],
    ['temperature', [20, 25], null],
    ['temperature', [], /0\.0 °C apart/],
    ['ph', [6.86, 7.85], /0\.99 pH apart/],
    ['ph', [4, 7, 10], null],
    ['ph', [4, 5], null],
    ['ion', [50, 149], /factor of 3/],
    ['ion', [50, 150], null],
    ['ion', [0, 150], /factor of 3/],
    ['ion', [46, 100, 319], null],
  ] as const)('%s %j', (id, values, said) => {
    const trouble = familyOf(id).tooClose(values);
    if (said === null) expect(trouble).toBeNull();
    else expect(trouble).toMatch(said);
  });
});

describe('what is poured', () => {
  it.each([
    ['chlorine', 'chlorine', true],
    ['chlorine', 'nitrate', false],
    ['nitrate', 'nitrate', true],
    ['nitrate', 'ph', false],
    ['temperature', 'temperature', true],
    ['temperature', 'ph', false],
    ['orp', 'orp', true],
    ['orp', 'ph', false],
  ])('for %s a standard of %s: %s', (id, family, serves) => {
    expect(familyOf(id).standards.serves({ ...buffer('technical-7.00'), family }, {})).toBe(serves);
  });

  it('each tip stands in its own ion; one that no bottle is kept for has no set', () => {
    const { serves, sets, all } = familyOf('ion').standards;
    const of = (ion: string) => all.filter((s) => serves(s, { ion })).map((s) => s.id);
    expect(of('nitrate')).toEqual(['nitrate-10', 'nitrate-100']);
    expect(of('chloride')).toEqual(['chloride-46', 'chloride-319']);
    expect(of('fluoride')).toEqual([]);
    expect(sets({ ion: 'fluoride' })).toEqual([]);
    expect(sets({ ion: 'potassium' })[2]).toEqual(['potassium-20', 'potassium-200', 'potassium-200']);
    expect(familyOf('orp').standards.serves(ZERO_PLUG, {})).toBe(true);
    expect(familyOf('ion').shown.variant({ ion: 'nitrate' })).toBe('nitrate');
    expect(familyOf('ion').shown.variant({ ion: 'no such' })).toBe('');
  });

  it('bottles of one kind may be taken for each other; thermometers serve others, and no other family does', () => {
    for (const { id, standards, thermometer } of FAMILIES) {
      const [one] = standards.all;
      if (one) expect(typeof standards.mixedUp(one), id).toBe('boolean');
      expect(thermometer, id).toBe(id === 'temperature');
    }
    // Two ions, two redox cups look alike; nothing that is shown in air does.
    for (const id of ['ion', 'orp', 'nitrate', 'chlorine', 'temperature']) {
      const { all, mixedUp } = familyOf(id).standards;
      const cup = all[0] ?? buffer('technical-7.00');
      expect(mixedUp(cup), id).toBe(true);
    }
  });
});

describe('what a figure is in the signal', () => {
  it('a cell of K 0.1 has ten times the conductance; what stays unknown goes with the way from 25 °C', () => {
    const cell = modelOf(familyOf('conductivity'), { cellConstant: 0.1, alpha: 2 });
    expect(cell.ideal(1000, { temperatureC: 25 })).toBeCloseTo(10_000, 9);
    expect(cell.ideal(1000, { temperatureC: 20 })).toBeCloseTo(9000, 9);
    // 0.1 %/°C over 5 °C of 1000 µS/cm, over a factor of 0.9
    expect(rows('conductivity', { alpha: 2 }, { value: 1000, temperatureC: 20 })['temperature coefficient of the water']).toBeCloseTo(1000 * 0.005 / 0.9, 9); // prettier-ignore
    expect(rows('conductivity', { alpha: 0 }, { value: 1000, temperatureC: 20 })['temperature coefficient of the water']).toBe(0); // prettier-ignore
    // α of its own where none is set is the usual 2 %/°C.
    expect(modelOf(familyOf('conductivity')).ideal(1000, { temperatureC: 20 })).toBeCloseTo(900, 9);
  });

  it('seawater over K; a dry cell is nothing', () => {
    const cell = modelOf(familyOf('salinity'), { cellConstant: 0.5 });
    expect(cell.ideal(35, { temperatureC: 20 })).toBeCloseTo(2 * conductivityOfSeawater(35, 20), 6);
    expect(cell.valueOf(2 * conductivityOfSeawater(35, 20), { temperatureC: 20 })).toBeCloseTo(35, 9);
    expect(cell.ideal(0, { temperatureC: 20 })).toBe(0);
  });

  it('resistivity: κ² of what is not known of κ; nothing purer than water', () => {
    const model = modelOf(familyOf('resistivity'), { cellConstant: 0.01 });
    expect(model.range.high).toBeCloseTo(1.01 / pureWater(25), 9);
    expect(model.ideal(10, { temperatureC: 25 })).toBeCloseTo(0.1 / 0.01, 9);
    // 1 MΩ·cm at 10 °C: (1 − 0.055) µS/cm · 15 °C · 0.1 %/°C over a factor of 0.7, in MΩ·cm at κ = 1
    const at10 = rows('resistivity', {}, { value: 1, temperatureC: 10 });
    expect(at10['temperature coefficient of what is dissolved']).toBeCloseTo((0.945 * 0.015) / 0.7, 4);
    const two = rows('resistivity', {}, { value: 2, temperatureC: 10 });
    expect(two['temperature coefficient of what is dissolved']).toBeCloseTo((4 * (0.5 - 0.055) * 0.015) / 0.7, 4);
    expect(two['conductivity of pure water']).toBeCloseTo(4 * at10['conductivity of pure water']!, 9);
  });

  it('oxygen: current and quenching go with the pressure and the temperature, in closed form', () => {
    const kPa = oxygenPressure({ temperatureC: 25 });
    for (const writtenIn of ['mg/L O2', '% sat', 'kPa O2'] as const) {
      const nA = modelOf(familyOf('oxygen-membrane'), { writtenIn, inAir: 60, perC: 3 });
      const dye = modelOf(familyOf('oxygen-optical'), { writtenIn, inAir: 3, perC: 1 });
      const full = { 'mg/L O2': oxygenSaturation({ temperatureC: 15 }), '% sat': 100, 'kPa O2': oxygenPressure({ temperatureC: 15 }) }[writtenIn]; // prettier-ignore
      const share = oxygenPressure({ temperatureC: 15 }) / kPa;
      expect(nA.ideal(full, { temperatureC: 15 }), writtenIn).toBeCloseTo(60 * share * Math.exp(-0.3), 9);
      expect(dye.ideal(full, { temperatureC: 15 }), writtenIn).toBeCloseTo(2 * share * 0.9, 9);
      expect(nA.valueOf(nA.ideal(full, { temperatureC: 15 }), { temperatureC: 15 })).toBeCloseTo(full, 9);
      expect(nA.range).toEqual({ 'mg/L O2': { low: -2, high: 80 }, '% sat': { low: -20, high: 500 }, 'kPa O2': { low: -4, high: 110 } }[writtenIn]); // prettier-ignore
      for (const c of [-0.1, 40.1]) expect(() => nA.ideal(1, { temperatureC: c })).toThrow(/0 to 40/);
      for (const c of [0, 40]) expect(() => nA.ideal(1, { temperatureC: c })).not.toThrow();
    }
  });

  it('oxygen: film, growth, the barometer and salinity stay unknown, each by its share', () => {
    for (const [id, film, share] of [
      ['oxygen-membrane', 'flow and film at the membrane', 0.01],
      ['oxygen-optical', 'growth on the cap', 0.005],
    ] as const) {
      const known = rows(id, {}, { value: 8, salinity: 35 });
      const pressure = 'pressure of the air at the calibration';
      expect(Object.values(known)[0], film).toBeCloseTo(8 * share, 12);
      expect(known[pressure]).toBeCloseTo((8 * 0.1) / 101.325, 9);
      // Benson & Krause: ln C is linear in salinity, so that 35 of it are 35 times one.
      const per = Math.log(oxygenSaturation({ temperatureC: 25 }) / oxygenSaturation({ temperatureC: 25, salinity: 35 })) / 35; // prettier-ignore
      expect(known['salinity of the water']).toBeCloseTo(8 * per * 0.3, 9);
      expect(Object.keys(rows(id, {}, { value: 8 }))).not.toContain('salinity of the water');
      expect(Object.keys(rows(id, { writtenIn: '% sat' }, { value: 80 }))).toHaveLength(1);
      expect(Object.keys(rows(id, { writtenIn: 'kPa O2' }, { value: 8 }))).toHaveLength(2);
    }
    const { standards } = familyOf('oxygen-membrane');
    expect(standards.all.map((s) => standards.mixedUp(s))).toEqual([true, false, true]);
  });

  it('a membrane’s current of its own is a few steps, its gain a fifth', () => {
    const [one, two] = [1, 2].map((step) => familyOf('oxygen-membrane').prior(step).zero);
    for (const of of ['sd', 'walk', 'rateSd', 'firstRateSd', 'jumpSd'] as const)
      expect(two![of], of).toBeCloseTo(2 * one![of], 12);
    expect([one!.sd, one!.walk, one!.rateSd, one!.jumpSd]).toEqual([3, 0.05, 0.01, 3]);
  });

  it('ORP on the hydrogen scale, and on every reference of the same kind but its own', () => {
    const model = modelOf(familyOf('orp'), { reference: 'silver-chloride-saturated', scale: 'hydrogen' });
    expect(model.ideal(430, { temperatureC: 25 })).toBeCloseTo(430 - 198.9, 9);
    expect(model.valueOf(231.1, { temperatureC: 25 })).toBeCloseTo(430, 9);
    const bare = modelOf(familyOf('orp'), { reference: 'silver-chloride-saturated' });
    const names = bare.writes!().map((s) => s.id);
    expect(names.some((n) => n.includes('saturated KCl') && n.includes('Ag/AgCl'))).toBe(false);
    expect(names.some((n) => n.includes('by activity'))).toBe(false);
    const calomel = bare.writes!().find((s) => s.id.includes('calomel'))!;
    expect(calomel.of(200, { temperatureC: 25 })).toBeCloseTo(againstReference(200, 'silver-chloride-saturated', 'calomel-saturated', 25), 12); // prettier-ignore
    expect(calomel.own(calomel.of(200, { temperatureC: 25 }), { temperatureC: 25 })).toBeCloseTo(200, 12);
  });

  it('pH in weak, usual and sea water; counts without a setting fall by 592 a pH', () => {
    const junction = (settings: Record<string, string>) => rows('ph', settings, { value: 7 })['liquid junction, buffer to sample']; // prettier-ignore
    expect([junction({}), junction({ water: 'weak' }), junction({ water: 'sea' })]).toEqual([0.01, 0.05, 0.03]);
    expect(modelOf(familyOf('ph-counts')).ideal(8, { temperatureC: 25 })).toBeCloseTo(-592, 9);
    expect(modelOf(familyOf('ph-counts'), { aPh: 100 }).ideal(6, { temperatureC: 25 })).toBeCloseTo(-100, 9);
  });
});

describe('ions over temperature', () => {
  const model = modelOf(familyOf('ion'), { ion: 'chloride' });
  /** A tip with zero 200 mV at 20 °C and 230 at 30 °C, 97 % of the slope throughout. */
  const point = (activity: number, temperatureC: number, off = 0) => {
    const standard = { ...familyOf('ion').standards.all[0]!, nominal: activity, table: [[0, activity], [60, activity]] as const, uncertainty: 0.01 * activity }; // prettier-ignore
    return { standard, temperatureC, signal: 200 + 3 * (temperatureC - 20) + 0.97 * model.ideal(activity, { temperatureC }) + off, signalUncertainty: 0.1, degreesOfFreedom: Infinity }; // prettier-ignore
  };
  const pair = (c: number) => [point(46, c), point(319, c)] as never;
  const fit = (room: never, warm: never) => fitIon(familyOf('ion'), model, room, warm);

  it('between and a little beyond both pairs their course is followed, whichever is the warmer; further it is refused', () => {
    for (const [first, second] of [
      [20, 30],
      [30, 20],
    ] as const) {
      // prettier-ignore
      const made = fit(pair(first), pair(second));
      if (!made.ok) throw new Error(made.message);
      const at = (c: number) => made.at(c);
      for (const c of [20, 25, 30, 39.9, 10.1]) {
        const there = at(c);
        if (!there.ok) throw new Error(there.message);
        expect(there.coefficients.zero, `${c} °C`).toBeCloseTo(200 + 3 * (c - 20), 6);
        expect(there.coefficients.sensitivity).toBeCloseTo(0.97, 9);
      }
      for (const c of [40.1, 9.9]) expect(at(c)).toMatchObject({ ok: false, reason: 'water-beyond-pairs' });
      expect((at(41) as { message: string }).message).toMatch(/11\.0 °C beyond both pairs .*the limit is 10\.0/);
    }
  });

  it('a third point alone moves the zero and keeps the slope; a pair alone is one line', () => {
    const three = fit(pair(20), [point(319, 30)] as never);
    if (!three.ok) throw new Error(three.message);
    const there = three.at(25);
    if (!there.ok) throw new Error(there.message);
    expect(there.coefficients.zero).toBeCloseTo(215, 6);
    const one = fit(pair(20), [] as never);
    expect(one).toMatchObject({ ok: true });
    if (one.ok) expect(one.coefficients).not.toHaveProperty('course');
  });

  it('pairs of nearly one temperature, and a pair that is not of one, are refused', () => {
    expect(fit(pair(20), pair(22.9))).toMatchObject({ ok: false, reason: 'temperatures-alike' });
    expect(fit(pair(22.9), pair(20))).toMatchObject({ ok: false, reason: 'temperatures-alike' });
    expect(fit(pair(20), pair(23))).toMatchObject({ ok: true });
    const apart = fit([point(46, 20), point(319, 23)] as never, pair(30));
    expect(apart).toMatchObject({ ok: false, reason: 'pair-apart' });
    expect(fit(pair(20), [point(46, 30), point(319, 33)] as never)).toMatchObject({ ok: false, reason: 'pair-apart' });
  });

  it('ideal gaps for charges up to four, either sign; not for none', () => {
    expect(idealGap(10, 100, 2, 25)).toBeCloseTo(29.58, 2);
    expect(idealGap(100, 10, -4, 25)).toBeCloseTo(14.79, 2);
    expect(idealGap(1e-12, 1e6, 1, 25)).toBeCloseTo(18 * 59.159, 1);
    for (const charge of [0, 5, -5, 1.5]) expect(() => idealGap(10, 100, charge, 25)).toThrow(/charge of/);
    for (const [low, high] of [
      [0, 10],
      [10, 0],
      [9e-13, 10],
      [10, 1.1e6],
    ] as const)
      // prettier-ignore
      expect(() => idealGap(low, high, 1, 25)).toThrow(/no gap/);
  });
});

describe('what a cleaning leaves open', () => {
  it('wiping a sound thermometer hardly widens its ±; a glass or a cell may have changed', () => {
    const day = 86_400_000;
    const widened = (
      id: string,
      value: number,
      covariance: readonly [readonly [number, number], readonly [number, number]],
    ) => {
      const family = familyOf(id);
      const model = modelOf(family);
      const at = { value, temperatureC: 25 };
      const step = significantStep(family, model, at);
      const run = { atMs: 0, kind: 'calibration' as const, found: { zero: 0, sensitivity: 1 }, covariance, inForceAfter: { zero: 0, sensitivity: 1 }, cleaned: false }; // prettier-ignore
      const half = (services: readonly { atMs: number; kind: 'cleaned' }[]) =>
        cone([run], family.prior(step), { model, ...at }, 2 * day, undefined, services).errorAt!(2 * day).half95;
      return half([{ atMs: day, kind: 'cleaned' }]) / half([]);
    };
    const C = [[0.01, 0], [0, 0]] as const; // prettier-ignore
    expect(widened('temperature', 25, C)).toBeLessThan(1.05);
    expect(widened('conductivity', 1413, [[0.01, 0], [0, 1e-6]])).toBeGreaterThan(1.5); // prettier-ignore
  });
});

describe('gains and thermometers', () => {
  it('a relative gain lies between 0 and 100', () => {
    const gain = (relativeGain: number) => chainGains([{ kind: 'found', relativeGain, adjusted: true }]);
    expect(gain(99.9).gain).toBe(99.9);
    for (const bad of [0, -1, 100, NaN]) expect(() => gain(bad)).toThrow(/between 0 and 100/);
  });

  it('two thermometers agree up to the root of the sum of the squares of their ±', () => {
    const of = (b: number, plusMinusC = 0.3) => agree({ temperatureC: 20, plusMinusC: 0.4 }, { temperatureC: b, plusMinusC }); // prettier-ignore
    expect(of(20.499).ok).toBe(true);
    const beyond = of(20.501) as { ok: boolean; limitC: number };
    expect([beyond.ok, beyond.limitC.toFixed(9)]).toEqual([false, '0.500000000']);
    const { standard } = of(20.4) as { standard: { nominal: number; uncertainty: number; table: unknown } };
    // Weights 1/0.16 and 1/0.09
    expect(standard.nominal).toBeCloseTo(20 + 0.4 / 0.09 / (1 / 0.16 + 1 / 0.09), 9);
    expect(standard.uncertainty).toBeCloseTo(0.24 / 2, 9);
    for (const ends of [0.001, 10]) expect(of(20, ends).ok).toBe(true);
    for (const wide of [0.0009, 10.1]) expect(() => of(20, wide)).toThrow(/accuracy/);
  });
});
