import { conductivityOfSeawater, salinity } from '@frustum/core';
import { describe, expect, it } from 'vitest';
import { foundInBuffers, phBodyAt, SOUND } from './ageing.ts';
import { Body } from './body.ts';
import { chance, seedOf } from './chance.ts';
import { potentialAtRest, type ElectrodeTruth, type Sense } from './electrode.ts';
import { all, bufferPh, gamma, POURED } from './liquids.ts';
import { processPh, strengthOf, waterOf, type Process } from './process.ts';
import { FRESH_REFERENCE } from './reference.ts';
import { BARE_BODY, NO_INPUT_TROUBLE, type BodyTruth } from './truth.ts';

const WATER: Process = { ph: 6, dailySwing: 0, temperatureC: 25, us25: 1800 };
const QUIET: ElectrodeTruth = {
  zeroMv: -4,
  slope: 0.95,
  fastSeconds: 5,
  slowSeconds: 30,
  slowShare: 0.1,
  noiseMv: 0,
  megohm: 100,
};
const STILL = { ...NO_INPUT_TROUBLE, staticMv: 0 };

function bodyOf(
  truth: Partial<BodyTruth>,
  senses: Record<string, Sense> = { ph: { of: 'ph' } },
  process = WATER,
  seed = 1,
) {
  const whole: BodyTruth = { ...BARE_BODY, input: STILL, electrodes: { ph: QUIET }, ...truth };
  return new Body({ senses, truth: () => whole, process, seed, atMs: 0, roomC: 25 });
}
const pass = (body: Body, seconds: number, step = 0.1) => {
  for (let i = 0; i < Math.round(seconds / step); i++) body.step(step, 0);
};
const ph = (body: Body) => body.shown().electrodes['ph']!;

describe('an electrode at rest', () => {
  it('glass: 59.159 mV a pH unit at 25 °C and 64.120 at 50 °C (Buck et al. 2002), times its slope', () => {
    const at = (name: string, t: number) =>
      potentialAtRest({ of: 'ph' }, QUIET, all({ ...POURED[name]!, ph: () => Number(name) }), t);
    for (const [t, k] of [
      [25, 59.159],
      [50, 64.12],
    ] as const)
      expect(at('4.01', t) - at('7.00', t)).toBeCloseTo(2.99 * k * 0.95, 2);
  });

  it('a nitrate tip: −59.16 mV a decade of activity, ideal 49.6 mV from chloride 46 to 319 (practice takes 40 to 55)', () => {
    const tip = { ...QUIET, slope: 1 };
    const gap = (sense: Sense, low: string, high: string) =>
      potentialAtRest(sense, tip, all(POURED[low]!), 25) - potentialAtRest(sense, tip, all(POURED[high]!), 25);
    expect(gap({ of: 'chloride' }, 'chloride 46', 'chloride 319')).toBeCloseTo(49.64, 0);
    const [low, high] = [10 / 62.004 / 1000, 100 / 62.004 / 1000];
    const decades = Math.log10((high * gamma(high)) / (low * gamma(low)));
    // The floor of the tip takes a little at the low end.
    expect(gap({ of: 'nitrate' }, 'nitrate 10', 'nitrate 100')).toBeCloseTo(59.159 * decades, 0);
    expect(gap({ of: 'potassium' }, 'potassium 20', 'potassium 200')).toBeLessThan(-55);
  });

  it('another ion counts as some of this one: Nikolsky and Eisenman in its plainest case', () => {
    const both = all({ ...POURED['nitrate 10']!, ions: { nitrate: 0.16, potassium: 10, chloride: 10 } });
    const alone = potentialAtRest({ of: 'nitrate' }, { ...QUIET, slope: 1 }, both, 25);
    const disturbed = potentialAtRest(
      { of: 'nitrate', disturbs: { chloride: 0.0162 } },
      { ...QUIET, slope: 1 },
      both,
      25,
    );
    // 0.162 mmol/L more than 0.162 there: twice the activity is 17.8 mV, less what the floor takes.
    expect(alone - disturbed).toBeCloseTo(17.8, 0);
  });

  it('platinum in the redox standard: 430.3 − 208.6 mV against its own reference', () => {
    const sense: Sense = { of: 'orp' };
    expect(potentialAtRest(sense, { ...QUIET, zeroMv: 0 }, all(POURED['redox 430']!), 25)).toBeCloseTo(
      430.28 - 208.6,
      0,
    );
  });
});

describe('a body in a cup', () => {
  it('answers a step with two exponentials of its own time constants', () => {
    const body = bodyOf({});
    const from = ph(body);
    body.moveTo('rinse');
    body.moveTo('cup-4.01');
    body.wiggle();
    // The wiggle’s own jump dies with the fast constant; look when it has.
    pass(body, 40);
    const rest = potentialAtRest({ of: 'ph' }, QUIET, body.bulk(), 25);
    const left = (rest - ph(body)) / (rest - from);
    expect(left).toBeCloseTo(0.9 * Math.exp(-40 / 5) + 0.1 * Math.exp(-40 / 30), 2);
    expect(rest).toBeCloseTo(-4 - 0.95 * 59.159 * (bufferPh('4.01', 25) - 7), 0);
  });

  it('is twice as slow for every 15 °C of cold', () => {
    const leftAfter = (roomC: number) => {
      const cold = { ...WATER, temperatureC: roomC };
      const truth: BodyTruth = { ...BARE_BODY, input: STILL, electrodes: { ph: { ...QUIET, slowShare: 0 } } };
      const body = new Body({
        senses: { ph: { of: 'ph' } },
        truth: () => truth,
        process: cold,
        seed: 2,
        atMs: 0,
        roomC,
      });
      const from = ph(body);
      body.moveTo('rinse');
      body.moveTo('cup-10.01');
      body.tap();
      pass(body, 20);
      return (body.rest('ph') - ph(body)) / (body.rest('ph') - from);
    };
    expect(Math.log(leftAfter(25)) / Math.log(leftAfter(10))).toBeCloseTo(2, 0);
  });

  it('carries the last cup over unless it is rinsed and blotted, and a wiggle mixes it in', () => {
    const pull = (rinse: boolean) => {
      const body = bodyOf({}, undefined, undefined, 3);
      body.moveTo('cup-10.01');
      pass(body, 60);
      if (rinse) {
        body.moveTo('rinse');
        body.blot();
      }
      body.moveTo('cup-4.01');
      body.tap();
      const pulled = body.rest('ph');
      body.wiggle();
      return Math.abs(pulled - body.rest('ph'));
    };
    expect(pull(false)).toBeGreaterThan(5);
    expect(pull(true)).toBeLessThan(0.2);
  });

  it('a wet probe leaves 0.3 mL in 40 mL of the next cup, and again in the same one', () => {
    const body = bodyOf({ cell: { gain: 1, constant: 1, scaled: 0, filmUs: 0, mostUs: 1e9 } });
    const share = 0.3 / 40.3;
    body.moveTo('cup-12.88 mS/cm');
    pass(body, 60);
    body.moveTo('cup-84 µS/cm');
    body.wiggle();
    pass(body, 120);
    expect(body.shown().conductance).toBeCloseTo(84 * (1 - share) + 12_880 * share, -1);
    body.moveTo('cup-12.88 mS/cm');
    body.moveTo('cup-84 µS/cm', true);
    body.wiggle();
    pass(body, 120);
    const once = 84 * (1 - share) + 12_880 * share;
    expect(body.shown().conductance / (once * (1 - share) + 12_880 * share)).toBeCloseTo(1, 1);
  });

  it('body and cup share their warmth: (40·T + 6·t)/46, with 8 s for the probe', () => {
    const warm = { ...WATER, temperatureC: 35 };
    const truth: BodyTruth = { ...BARE_BODY, input: STILL, electrodes: { ph: QUIET } };
    const body = new Body({
      senses: { ph: { of: 'ph' } },
      truth: () => truth,
      process: warm,
      seed: 2,
      atMs: 0,
      roomC: 20,
    });
    body.moveTo('cup-7.00');
    const common = (40 * 20 + 6 * 35) / 46;
    const tau = 8 / (1 + 6 / 40);
    pass(body, 10);
    expect(body.shown().temperatureC).toBeCloseTo(common + (35 - common) * Math.exp(-10 / tau), 0);
    pass(body, 50);
    expect(Math.abs(body.surroundingsC() - common)).toBeLessThan(0.15);
    // In twenty minutes the cup is two thirds of the way to the room.
    pass(body, 1140, 0.5);
    expect(body.surroundingsC()).toBeCloseTo(20 + (common - 20) * Math.exp(-1200 / (1200 * (1 + 6 / 40))), 1);
  });

  it('one reference under three sensors: when it shifts, all shift alike', () => {
    const senses: Record<string, Sense> = {
      ph: { of: 'ph' },
      nitrate: { of: 'nitrate' },
      potassium: { of: 'potassium' },
    };
    const electrodes = { ph: QUIET, nitrate: QUIET, potassium: { ...QUIET, slope: 0.8 } };
    const fresh = bodyOf({ electrodes }, senses).shown().electrodes;
    const diluted = bodyOf({ electrodes, reference: { ...FRESH_REFERENCE, kcl: 1 } }, senses).shown().electrodes;
    for (const name of Object.keys(senses)) expect(diluted[name]! - fresh[name]!).toBeCloseTo(-26.7, 1);
  });

  it('ORP is slow in weak water and quick in its standard', () => {
    const seconds = (place: string) => {
      const sense: Record<string, Sense> = { ph: { of: 'orp' } };
      const body = bodyOf({ electrodes: { ph: { ...QUIET, slowShare: 0 } } }, sense, { ...WATER, poise: 0.02 });
      body.moveTo('cup-redox pH 4');
      pass(body, 600, 1);
      body.moveTo(place);
      body.tap();
      const from = ph(body);
      for (let s = 1; s < 2000; s++) {
        body.step(1, 0);
        if (Math.abs(ph(body) - body.rest('ph')) < Math.abs(from - body.rest('ph')) / 10) return s;
      }
      return Infinity;
    };
    expect(seconds('cup-redox 430')).toBeLessThan(30);
    expect(seconds('process')).toBeGreaterThan(120);
  });

  it('a shorting plug shows 0 mV and a box what it is set to; a pulled cable floats', () => {
    const body = bodyOf({});
    body.plugged = { mv: 0 };
    expect(Math.abs(ph(body))).toBeLessThan(0.3);
    body.plugged = { mv: 177.5, us: 1413 };
    expect(ph(body)).toBeCloseTo(177.5, 0);
    body.plugged = null;
    const loose = bodyOf({ input: { ...STILL, pulled: true } });
    pass(loose, 20);
    const floats = Array.from({ length: 40 }, () => (pass(loose, 1), ph(loose)));
    expect(Math.max(...floats) - Math.min(...floats)).toBeGreaterThan(150);
  });

  it('a cell in air reads its film and dries; a breath takes most of it at once', () => {
    const cell = { gain: 1, constant: 1, scaled: 0, filmUs: 40, mostUs: 1e9 };
    const body = bodyOf({ cell, electrodes: { ph: QUIET } });
    body.moveTo('air');
    pass(body, 30, 0.25);
    expect(body.shown().conductance).toBeCloseTo(40 * Math.exp(-30 / 900), -1);
    body.blot();
    pass(body, 20, 0.25);
    expect(body.shown().conductance).toBeLessThan(3);
  });

  it('is the same for the same seed, and not for another', () => {
    const run = (seed: number) => {
      const body = bodyOf({ electrodes: { ph: { ...QUIET, noiseMv: 0.2 } } }, undefined, WATER, seed);
      return Array.from({ length: 20 }, () => (pass(body, 0.5), ph(body)));
    };
    expect(run(5)).toEqual(run(5));
    expect(run(5)).not.toEqual(run(6));
  });
});

describe('the process', () => {
  const DAY = 86_400_000;
  it('a tank of S 35 at 25 °C conducts 53.07 mS/cm, and reads 35.0 again through PSS-78', () => {
    const us = waterOf({ ...WATER, salinity: 35 }, 0).us(25);
    expect(us / 1000).toBeCloseTo(conductivityOfSeawater(35, 25) / 1000, 1);
    expect(salinity({ conductivityUsPerCm: us, temperatureC: 25 })).toBeCloseTo(35, 1);
  });

  it('swings with light: highest in the late afternoon, by its swing; and a real move is a step', () => {
    const swinging = { ...WATER, dailySwing: 0.14 };
    const day = Array.from({ length: 96 }, (_, i) => processPh(swinging, (i / 96) * DAY));
    expect(Math.max(...day) - 6).toBeCloseTo(0.14, 3);
    expect(day.indexOf(Math.max(...day)) / 4).toBeCloseTo(16.8, 0);
    expect(processPh({ ...WATER, moved: { fromMs: DAY, ph: 0.3 } }, DAY) - 6).toBeCloseTo(0.3, 9);
  });

  it('washes out as an exponential: exp(−q·t) of the salts, dosing or not', () => {
    const drawn = { ...WATER, dilution: { fromMs: 0, aDay: 0.1 } };
    expect(strengthOf(drawn, 10 * DAY)).toBeCloseTo(Math.exp(-1), 9);
    expect(waterOf({ ...drawn, ions: { nitrate: 8 } }, 10 * DAY).ions.nitrate).toBeCloseTo(8 / Math.E, 9);
    const dosed = { ...WATER, dosing: { everyHours: 8, share: 0.06 } };
    const saw = Array.from({ length: 240 }, (_, i) => strengthOf(dosed, i * 360_000));
    expect(Math.max(...saw)).toBeCloseTo(1.03, 9);
    expect(saw.reduce((a, b) => a + b) / saw.length).toBeCloseTo(1, 2);
  });
});

describe('ageing', () => {
  const still = { ...SOUND, wanderMv: 0 };
  it('a diluted reference shows in buffers as a lower zero: −26.7 mV from 3 to 1 mol/kg (science of chloride activity)', () => {
    const life = { ...still, dilutionFromDay: 100, dilutionDays: 200 };
    const at = (days: number) => foundInBuffers(phBodyAt(life, days, 1), 'ph').zeroMv;
    expect(at(100 + 200 * Math.log(3)) - at(100)).toBeCloseTo(-26.7, 1);
  });

  it('a blocked junction shows in samples and not in buffers; an aged glass loses slope and speed', () => {
    const blocked = phBodyAt({ ...SOUND, blockedFromDay: 10, blockedMvPerDay: 0.1 }, 110, 1);
    expect(blocked.reference.blockedMv).toBeCloseTo(10, 6);
    expect(foundInBuffers(blocked, 'ph')).toEqual(foundInBuffers(phBodyAt(SOUND, 110, 1), 'ph'));
    const aged = phBodyAt({ ...SOUND, wearPerDay: 0.0003 }, 400, 1).electrodes['ph']!;
    expect(aged.slope).toBeLessThan(0.87);
    expect(aged.fastSeconds).toBeGreaterThan(SOUND.fastSeconds * 1.5);
  });
});

it('chance is uniform and normal enough (seed 12)', () => {
  const dice = chance(seedOf(12, 'dice'));
  const normals = Array.from({ length: 20_000 }, () => dice.normal());
  expect(Math.abs(normals.reduce((s, v) => s + v, 0) / normals.length)).toBeLessThan(0.03);
  expect(normals.reduce((s, v) => s + v * v, 0) / normals.length).toBeCloseTo(1, 1);
});

it('the first draw of a small seed is as ordinary as any other (seeds 1 to 200)', () => {
  const firsts = Array.from({ length: 200 }, (_, i) => chance(i + 1).normal());
  expect(Math.max(...firsts.map(Math.abs))).toBeLessThan(4.5);
  expect(Math.abs(firsts.reduce((s, v) => s + v, 0) / 200)).toBeLessThan(0.25);
});
