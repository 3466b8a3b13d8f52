import { describe, expect, it } from 'vitest';
import { Body } from '../physics/body.ts';
import type { ElectrodeTruth, Sense } from '../physics/electrode.ts';
import type { OxygenTruth } from '../physics/oxygen.ts';
import type { Process } from '../physics/process.ts';
import { DEEDS } from '../physics/deeds.ts';
import { BARE_BODY, type BodyTruth } from '../physics/truth.ts';
import { FAULTS, faulty, type Switched } from './index.ts';

const E: ElectrodeTruth = {
  zeroMv: 1,
  slope: 0.98,
  fastSeconds: 4,
  slowSeconds: 20,
  slowShare: 0.1,
  noiseMv: 0.1,
  megohm: 120,
};
const SOUND: BodyTruth = {
  ...BARE_BODY,
  electrodes: { ph: E, chloride: { ...E, zeroMv: 90 }, orp: E },
  cell: { gain: 1, constant: 1, scaled: 0, filmUs: 1, mostUs: 1e9 },
  chlorine: { zeroNa: 1, slopeNa: 100, flow: 32 },
  optics: { zero: 0, gain: 1, dirt: 0, straylight: 0 },
};
const SENSES: Record<string, Sense> = { ph: { of: 'ph' }, chloride: { of: 'chloride' }, orp: { of: 'orp' } };
const WATER: Process = {
  ph: 6.5,
  dailySwing: 0,
  temperatureC: 25,
  us25: 900,
  chlorine: 0.5,
  ions: { nitrate: 0.2, potassium: 4, chloride: 4 },
};

/** A body at which one thing may be wrong from the start, and what its operator sees. */
class Bench {
  readonly body: Body;

  constructor(name: string | null, severity = 1, process = WATER, more: Partial<BodyTruth> = {}) {
    const fault = name === null ? null : FAULTS.find((f) => f.name === name)!;
    const on: Switched[] = fault ? [{ fault, severity, from: 0 }] : [];
    const truth = (s: number) => faulty({ ...SOUND, ...more }, on, s);
    this.body = new Body({ senses: SENSES, truth, process, seed: 7, atMs: 0, roomC: 25 });
  }

  /** Rinses, blots, moves, taps and waits. */
  in(place: string, seconds = 240): this {
    this.body.moveTo('rinse');
    this.body.blot();
    this.body.moveTo(place);
    this.body.tap();
    return this.after(seconds);
  }

  after(seconds: number): this {
    for (let i = 0; i < seconds * 4; i++) this.body.step(0.25, 0);
    return this;
  }

  /** Mean of ten looks, so that noise does not decide. */
  mean(figure: (b: Bench) => number): number {
    return this.looks(figure).reduce((s, v) => s + v, 0) / 10;
  }

  /** Spread of ten looks a quarter of a second apart. */
  spread(figure: (b: Bench) => number): number {
    const looks = this.looks(figure);
    return Math.max(...looks) - Math.min(...looks);
  }

  private looks(figure: (b: Bench) => number): number[] {
    return Array.from({ length: 10 }, () => figure(this.after(0.25)));
  }

  ph = () => this.mean((b) => b.body.shown().electrodes['ph']!);
  us = () => this.mean((b) => b.body.shown().conductance);
  shown = () => this.body.shown();
}

const sound = () => new Bench(null);
/** mV of a faulty body less that of a sound one, in the same place. */
const off = (name: string, place: string, severity = 1) =>
  new Bench(name, severity).in(place).ph() - sound().in(place).ph();
const slope = (b: Bench) =>
  (b.in('cup-4.01').ph() - b.in('cup-7.00').ph()) / (sound().in('cup-4.01').ph() - sound().in('cup-7.00').ph());

const CAP: OxygenTruth = { kind: 'cap', faded: 0, quenching: 0.1, fouled: 0 };
const MEMBRANE: OxygenTruth = { kind: 'membrane', zeroNa: 1, slopeNa: 3, fouled: 0 };
const oxygen = (name: string | null, truth: OxygenTruth, place: string, seconds = 300) =>
  new Bench(name, 1, WATER, { oxygen: truth }).in(place, seconds).mean((b) => b.shown().oxygen);

const SYMPTOMS: Record<string, () => void> = {
  'electrolyte diluted': () => {
    // A twentieth of the salt: about 3 e-folds of kT/e; every electrode alike, in cups and in the water.
    const shift = off('electrolyte diluted', 'cup-7.00');
    expect(shift).toBeLessThan(-60);
    expect(off('electrolyte diluted', 'process')).toBeCloseTo(shift, 0);
    const ion = (b: Bench) => b.in('cup-7.00').mean((x) => x.shown().electrodes['chloride']!);
    expect(ion(new Bench('electrolyte diluted')) - ion(sound())).toBeCloseTo(shift, 0);
  },
  'reference contaminated': () => {
    const b = new Bench('reference contaminated').in('cup-7.00');
    const early = b.ph();
    expect(b.after(3600).ph() - early).toBeLessThan(-20);
    expect(sound().in('cup-7.00').after(3600).ph() - sound().in('cup-7.00').ph()).toBeCloseTo(0, 0);
  },
  'junction blocked': () => {
    expect(Math.abs(off('junction blocked', 'cup-7.00'))).toBeLessThan(1);
    expect(off('junction blocked', 'process')).toBeGreaterThan(20);
    expect(new Bench('junction blocked').shown().junctionKohm).toBeGreaterThan(100);
  },
  'glass aged': () => {
    expect(slope(new Bench('glass aged'))).toBeCloseTo(0.75, 1);
    const late = (name: string | null) => {
      const b = new Bench(name).in('cup-4.01', 12);
      return Math.abs(b.ph() - b.body.rest('ph'));
    };
    expect(late('glass aged')).toBeGreaterThan(3 * late(null));
  },
  'glass coated': () => {
    expect(slope(new Bench('glass coated'))).toBeCloseTo(0.98 * 0.955, 1);
    const late = (b: Bench) => Math.abs(b.in('cup-4.01', 12).ph() - b.body.rest('ph'));
    expect(late(new Bench('glass coated'))).toBeGreaterThan(2 * late(new Bench(null)));
    // What is aged under the film stays aged, whichever came first.
    const on = (...names: string[]) => faulty(SOUND, names.map((n) => ({ fault: FAULTS.find((f) => f.name === n)!, severity: 1, from: 0 })), 1); // prettier-ignore
    for (const order of [
      ['glass coated', 'glass aged'],
      ['glass aged', 'glass coated'],
    ])
      // prettier-ignore
      expect(DEEDS.clean.on(on(...order), 1, 0).electrodes['ph']!.slope).toBeCloseTo(0.98 * 0.75, 9);
  },
  'glass cracked': () => {
    expect(slope(new Bench('glass cracked'))).toBeLessThan(0.1);
    expect(Math.abs(new Bench('glass cracked').in('cup-10.01').ph())).toBeLessThan(15);
    expect(new Bench('glass cracked').shown().membraneMohm).toBeLessThan(1);
  },
  'moist connector': () => {
    const at = (severity: number) => slope(new Bench('moist connector', severity));
    expect(at(1)).toBeLessThan(0.6);
    expect(at(0.1)).toBeGreaterThan(at(1));
    const cold = new Bench('moist connector', 1, { ...WATER, temperatureC: 10 });
    expect(Math.abs(cold.after(60).ph() / cold.body.rest('ph'))).toBeLessThan(
      Math.abs(new Bench('moist connector').after(60).ph() / sound().body.rest('ph')),
    );
  },
  bubble: () => {
    const b = new Bench('bubble').in('cup-1413 µS/cm');
    expect(b.us()).toBeLessThan(0.6 * sound().in('cup-1413 µS/cm').us());
    b.body.tap();
    expect(b.after(20).us()).toBeLessThan(0.6 * 1413);
    const restless = (name: string | null) => new Bench(name).in('cup-7.00').spread((x) => x.shown().electrodes['ph']!);
    expect(restless('bubble')).toBeGreaterThan(1.3 * restless(null));
  },
  'dry tip': () => {
    const moved = (name: string | null) => new Bench(name).in('cup-4.01', 30).ph() - new Bench(name).ph();
    expect(moved('dry tip')).toBeLessThan(0.35 * moved(null));
    const restless = (name: string | null) => new Bench(name).spread((x) => x.shown().electrodes['ph']!);
    expect(restless('dry tip')).toBeGreaterThan(10 * restless(null));
  },
  'cap on': () => {
    const b = new Bench('cap on');
    expect(b.in('cup-4.01').ph()).toBeCloseTo(b.in('cup-10.01').ph(), 0);
  },
  'carry-over': () => {
    const pulled = (name: string | null) => {
      const b = new Bench(name).in('cup-10.01', 120);
      b.body.moveTo('cup-4.01');
      b.after(15);
      return b.body.rest('ph') - b.in('cup-4.01').body.rest('ph');
    };
    expect(pulled('carry-over')).toBeLessThan(5 * pulled(null));
    expect(pulled('carry-over')).toBeLessThan(-20);
  },
  'bad lot': () => {
    // Half a pH: −29 mV in every buffer, 40 mV in a redox standard, and the conductivity standard a fifth short.
    const redox = (b: Bench) => b.in('cup-redox 430').mean((x) => x.shown().electrodes['orp']!);
    // The water that it is thinned with takes a little of it.
    const aged = redox(new Bench('bad lot')) - redox(sound());
    expect(aged).toBeGreaterThan(35);
    expect(aged).toBeLessThan(40);
    expect(off('bad lot', 'cup-7.00')).toBeCloseTo(-0.5 * 59.16 * 0.98, 0);
    expect(new Bench('bad lot').in('cup-1413 µS/cm').us() / 1413).toBeCloseTo(0.8, 1);
    expect(Math.abs(off('bad lot', 'process'))).toBeLessThan(1);
  },
  'thermometer off': () => {
    expect(new Bench('thermometer off').shown().temperatureC).toBeCloseTo(30, 0);
    expect(Math.abs(off('thermometer off', 'cup-7.00'))).toBeLessThan(1);
  },
  'thermometer elsewhere': () => {
    const b = new Bench('thermometer elsewhere', 1, { ...WATER, temperatureC: 30 });
    const before = b.shown().temperatureC;
    expect(b.in('cup-7.00').shown().temperatureC).toBeCloseTo(before, 0);
    expect(before).toBeCloseTo(19, 0);
  },
  'cups cold': () => {
    const b = new Bench('cups cold').in('cup-7.00', 60);
    const cold = b.shown().temperatureC;
    expect(cold).toBeLessThan(17);
    expect(new Bench(null).in('cup-7.00', 60).shown().temperatureC).toBeCloseTo(25, 0);
  },
  'stray voltage': () => {
    expect(off('stray voltage', 'process')).toBeCloseTo(80, 0);
    expect(Math.abs(off('stray voltage', 'cup-7.00'))).toBeLessThan(1);
  },
  'mains hum': () => {
    const swing = (b: Bench) => {
      const looks = Array.from({ length: 160 }, () => b.after(0.25).shown().electrodes['ph']!);
      return Math.max(...looks) - Math.min(...looks);
    };
    expect(swing(new Bench('mains hum').in('cup-7.00'))).toBeGreaterThan(25);
    expect(swing(new Bench(null).in('cup-7.00'))).toBeLessThan(2);
  },
  static: () => {
    const wanders = (name: string | null, us25: number) => {
      const b = new Bench(name, 1, { ...WATER, us25 });
      const looks = Array.from({ length: 120 }, () => b.after(2).shown().electrodes['ph']!);
      return Math.max(...looks) - Math.min(...looks);
    };
    expect(wanders('static', 0.8)).toBeGreaterThan(50);
    expect(wanders('static', 900)).toBeLessThan(3);
    expect(wanders(null, 0.8)).toBeLessThan(15);
  },
  'cable pulled': () => {
    const b = new Bench('cable pulled').in('cup-4.01');
    const looks = Array.from({ length: 60 }, () => b.after(1).shown().electrodes['ph']!);
    expect(Math.max(...looks) - Math.min(...looks)).toBeGreaterThan(150);
    expect(b.us()).toBe(0);
  },
  'worn ion tip': () => {
    const gap = (name: string | null) => {
      const b = new Bench(name);
      const ion = (place: string) => b.in(place).mean((x) => x.shown().electrodes['chloride']!);
      return ion('cup-chloride 46') - ion('cup-chloride 319');
    };
    expect(gap(null)).toBeGreaterThan(40);
    expect(gap(null)).toBeLessThan(55);
    expect(gap('worn ion tip')).toBeLessThan(40);
  },
  'scaled cell': () => {
    for (const place of ['cup-84 µS/cm', 'cup-12.88 mS/cm'])
      expect(new Bench('scaled cell').in(place).us() / sound().in(place).us()).toBeCloseTo(0.67, 1);
  },
  'wet cell': () => {
    const b = new Bench('wet cell');
    b.body.moveTo('air');
    const wet = b.after(20).us();
    expect(wet).toBeGreaterThan(30);
    expect(b.after(1800).us()).toBeLessThan(wet / 4);
    const dry = sound();
    dry.body.moveTo('air');
    expect(dry.after(20).us()).toBeLessThan(2);
  },
  'wrong range': () => {
    const b = new Bench('wrong range');
    expect(b.in('cup-1413 µS/cm').us()).toBeCloseTo(b.in('cup-12.88 mS/cm').us(), 0);
    expect(b.us()).toBeCloseTo(200, 0);
  },
  'dirty window': () => {
    const reads = (name: string | null, place: string) => new Bench(name).in(place).mean((x) => x.shown().nitrateN);
    const high = reads('dirty window', 'cup-nitrate 5 as N') - reads(null, 'cup-nitrate 5 as N');
    expect(high).toBeGreaterThan(5);
    expect(reads('dirty window', 'process') - reads(null, 'process')).toBeCloseTo(high, 1);
  },
  'low flow': () => {
    const line = (name: string | null) => new Bench(name).after(200).mean((x) => x.shown().chlorine);
    expect(line('low flow')).toBeLessThan(0.1 * line(null));
    expect(line(null)).toBeGreaterThan(40);
  },
  'cap faded': () => {
    // A fifth of the lifetime: 1/0.8 where there is no oxygen, and the slope by what it is quenched less.
    expect(oxygen('cap faded', CAP, 'cup-zero oxygen')).toBeCloseTo(1.25, 2);
    const slopes = ['cap faded', null].map((name) => oxygen(name, CAP, 'cup-air-saturated water') - oxygen(name, CAP, 'cup-zero oxygen')); // prettier-ignore
    expect(slopes[0]! / slopes[1]!).toBeCloseTo(0.75, 1);
  },
  'membrane fouled': () => {
    const share = (truth: OxygenTruth) => oxygen('membrane fouled', truth, 'process') / oxygen(null, truth, 'process');
    expect(share(MEMBRANE)).toBeCloseTo(0.5, 1);
    expect(share(CAP)).toBeGreaterThan(0.9);
    // Five times slower: after a minute a sound one has arrived, and this one has not.
    const early = (name: string | null) => oxygen(name, MEMBRANE, 'cup-zero oxygen', 60);
    expect(early('membrane fouled')).toBeGreaterThan(early(null) + 5);
  },
  'membrane torn': () => {
    expect(oxygen('membrane torn', MEMBRANE, 'cup-zero oxygen')).toBeCloseTo(16, 0);
    expect(oxygen('membrane torn', MEMBRANE, 'process') / oxygen(null, MEMBRANE, 'process')).toBeGreaterThan(1.6);
    expect(oxygen('membrane torn', CAP, 'process')).toBeCloseTo(oxygen(null, CAP, 'process'), 2);
  },
  'process moved': () => {
    expect(off('process moved', 'process')).toBeCloseTo(-0.5 * 59.16 * 0.98, 0);
    expect(Math.abs(off('process moved', 'cup-7.00'))).toBeLessThan(1);
  },
  'poles exchanged': () => {
    const reads = (name: string | null, place: string) =>
      new Bench(name).in(place).mean((x) => x.shown().electrodes['ph']!);
    for (const place of ['cup-4.01', 'cup-10.01'])
      expect(reads('poles exchanged', place)).toBeCloseTo(-reads(null, place), 0);
  },
  'another scale': () => {
    for (const place of ['cup-84 µS/cm', 'cup-12.88 mS/cm'])
      expect(new Bench('another scale').in(place).us() / sound().in(place).us()).toBeCloseTo(0.5, 2);
  },
  'another coefficient': () => {
    const b = new Bench('another coefficient').in('cup-1413 µS/cm');
    const { temperatureC } = b.body.shown();
    const right = sound().in('cup-1413 µS/cm').us();
    expect(b.us() / right).toBeCloseTo(1 + 0.02 * (temperatureC - 25), 2);
  },
};

describe('each named fault shows what it is named for', () => {
  it('and none is without its test', () =>
    expect(Object.keys(SYMPTOMS).sort()).toEqual(FAULTS.map((f) => f.name).sort()));
  it.each(Object.entries(SYMPTOMS))('%s', (_, shows) => shows());

  it('at severity 0 nothing is wrong, and before its moment neither', () => {
    for (const fault of FAULTS) {
      const truth = fault.on(SOUND, 0, 100);
      const seen = { ...truth, input: { ...truth.input, insulationMohm: Math.min(truth.input.insulationMohm, 1e6) } };
      const plain = {
        ...SOUND,
        input: { ...SOUND.input, insulationMohm: 1e6 },
        cell: { ...SOUND.cell!, mostUs: expect.any(Number) as number },
      };
      if (fault.name === 'thermometer elsewhere') continue;
      expect(seen, fault.name).toEqual(plain);
      expect(faulty(SOUND, [{ fault, severity: 1, from: 60 }], 59)).toBe(SOUND);
    }
  });
});

describe('what an operator does for a probe', () => {
  const after = (faults: string[], deed: keyof typeof DEEDS, seconds: number) => {
    const on = faults.map((name): Switched => ({ fault: FAULTS.find((f) => f.name === name)!, severity: 1, from: 0 }));
    return faulty(SOUND, [...on, { fault: DEEDS[deed], severity: 1, from: 0 }], seconds);
  };
  it('cleaning takes scale, dirt and most of a block away, and no age', () => {
    const clean = after(['scaled cell', 'dirty window', 'junction blocked', 'glass aged', 'bubble'], 'clean', 1);
    expect([clean.cell!.scaled, clean.optics!.dirt, clean.bubble]).toEqual([0, 0, 0]);
    expect(clean.reference.blockedMv).toBeCloseTo(5, 9);
    expect(clean.electrodes['ph']!.slope).toBeCloseTo(0.98 * 0.75, 9);
  });
  it('a refill brings the electrolyte back and frees no junction', () => {
    const full = after(['electrolyte diluted', 'reference contaminated', 'junction blocked'], 'refill', 1);
    expect(full.reference).toMatchObject({ kcl: 3, blockedMv: 25 });
    // What foreign ions have done to the wire stays, four fifths of it.
    const before = after(['reference contaminated'], 'soak', 1).reference.contaminationMv;
    expect(full.reference.contaminationMv / before).toBeCloseTo(0.8, 9);
  });
  it('a plug that is dried insulates again, and takes no age away', () => {
    const dry = after(['moist connector', 'glass aged'], 'dry the plug', 1);
    expect(dry.input.insulationMohm).toBe(Infinity);
    expect(dry.electrodes['ph']!.slope).toBeCloseTo(0.98 * 0.75, 9);
  });
  it('a soak takes the cap off and brings a dry tip back with half an hour’s time constant', () => {
    const soaked = after(['cap on', 'dry tip'], 'soak', 1800);
    expect(soaked.capped).toBe(false);
    expect(soaked.dry).toBeCloseTo(Math.exp(-1), 9);
  });
});
