import { buffer, valueAt } from '@frustum/core';
import { describe, expect, it } from 'vitest';
import { historyOf } from './fleets/history.ts';
import { TIDEWATER } from './fleets/tidewater.ts';
import { SOUND, truthAt } from './physics/ageing.ts';
import { chance, seedOf } from './physics/chance.ts';
import { bufferPh } from './physics/liquids.ts';
import { PhProbe, potentialAtRest } from './physics/ph-probe.ts';

const WATER = { ph: 6, dailySwing: 0, temperatureC: 25 };
const CLEAN = {
  zeroMv: -4,
  slope: 0.95,
  fastSeconds: 5,
  slowSeconds: 30,
  slowShare: 0.1,
  noiseMv: 0,
  sampleShiftMv: 0,
};

describe('the stand-in’s liquids', () => {
  it.each(['4.01', '7.00', '10.01'])(
    'cubic of %s stays within 0.012 pH of the printed table, where the demo works',
    (name) => {
      for (let t = 10; t <= 35; t += 2.5)
        expect(Math.abs(bufferPh(name, t) - valueAt(buffer(`technical-${name}`), t))).toBeLessThan(0.012);
    },
  );
});

describe('the stand-in’s pH probe', () => {
  it('rests where Nernst says: 59.159 mV a pH unit at 25 °C (Buck et al. 2002), times its slope', () => {
    expect(potentialAtRest(CLEAN, 4, 25) - potentialAtRest(CLEAN, 7, 25)).toBeCloseTo(3 * 59.159 * 0.95, 2);
  });

  it('answers a step with two exponentials of its own time constants', () => {
    const probe = new PhProbe({ ...CLEAN }, { ...WATER, temperatureC: 25 }, 1, 25);
    const from = probe.potentialMv();
    probe.moveTo('rinse', 0);
    probe.moveTo('cup-4.01', 0);
    probe.wiggle();
    // The wiggle's own jump dies with the fast constant; look when it has.
    for (let i = 0; i < 400; i++) probe.step(0.1, 0);
    const rest = potentialAtRest(CLEAN, bufferPh('4.01', 25), 25);
    const left = (rest - probe.potentialMv()) / (rest - from);
    expect(left).toBeCloseTo(0.9 * Math.exp(-40 / 5) + 0.1 * Math.exp(-40 / 30), 2);
  });

  it('carries the last cup over unless it is rinsed, and a wiggle mixes it in', () => {
    const pull = (rinse: boolean) => {
      const probe = new PhProbe({ ...CLEAN, fastSeconds: 0.1, slowSeconds: 0.1 }, WATER, 3, 25);
      probe.moveTo('cup-10.01', 0);
      probe.step(60, 0);
      if (rinse) probe.moveTo('rinse', 0);
      probe.moveTo('cup-4.01', 0);
      probe.wiggle();
      const clean = probe.rest(0);
      probe.moveTo('cup-10.01', 0);
      if (rinse) probe.moveTo('rinse', 0);
      probe.moveTo('cup-4.01', 0);
      return Math.abs(probe.rest(0) - clean);
    };
    expect(pull(false)).toBeGreaterThan(5);
    expect(pull(true)).toBeLessThan(pull(false));
  });

  it('is the same for the same seed, and not for another', () => {
    const run = (seed: number) => {
      const probe = new PhProbe({ ...CLEAN, noiseMv: 0.2 }, WATER, seed);
      return Array.from({ length: 20 }, () => (probe.step(0.5, 0), probe.potentialMv()));
    };
    expect(run(5)).toEqual(run(5));
    expect(run(5)).not.toEqual(run(6));
  });

  it('chance is uniform and normal enough (seed 12)', () => {
    const dice = chance(seedOf(12, 'dice'));
    const normals = Array.from({ length: 20_000 }, () => dice.normal());
    const mean = normals.reduce((s, v) => s + v, 0) / normals.length;
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(normals.reduce((s, v) => s + v * v, 0) / normals.length).toBeCloseTo(1, 1);
  });
});

describe('ageing', () => {
  it('a diluted reference shifts the zero by kT/e for each e-fold: −25.7 mV', () => {
    const life = { ...SOUND, wanderMv: 0, dilutionFromDay: 100, dilutionDays: 200 };
    expect(truthAt(life, 300, 1).zeroMv - truthAt(life, 100, 1).zeroMv).toBeCloseTo(-25.69, 1);
  });

  it('a blocked junction shows in samples and not in buffers; an aged glass loses slope and speed', () => {
    const blocked = truthAt({ ...SOUND, blockedFromDay: 10, blockedMvPerDay: 0.1 }, 110, 1);
    expect(blocked.sampleShiftMv).toBeCloseTo(10, 6);
    expect(blocked.slope).toBeCloseTo(truthAt(SOUND, 110, 1).slope, 9);
    const aged = truthAt({ ...SOUND, glassLossPerDay: 0.0003 }, 400, 1);
    expect(aged.slope).toBeLessThan(0.87);
    expect(aged.fastSeconds).toBeGreaterThan(SOUND.fastSeconds * 1.5);
  });
});

describe('the house’s history', () => {
  const today = Date.UTC(2026, 10, 23);
  const bundle = historyOf(today, 4870, { host: '127.0.0.1', port: 4881 });

  it('holds seven loops, and a year and a half of runs of all but the one never calibrated', () => {
    expect(bundle.loops).toHaveLength(7);
    const counts = Object.fromEntries(
      TIDEWATER.map((h) => [h.key, bundle.runs.filter((r) => r.loop === h.key).length]),
    );
    expect(counts['line-2']).toBe(0);
    for (const [key, count] of Object.entries(counts)) if (key !== 'line-2') expect(count, key).toBeGreaterThan(7);
    const first = Date.parse(bundle.runs[0]!.startedAt);
    expect((today - first) / 86_400_000).toBeGreaterThan(500);
  });

  it('is measured, not typed: traces of two minutes that end near the hidden truth, and no figure computed', () => {
    const run = bundle.runs.findLast((r) => r.loop === 'multi-probe')!;
    const samples = run.passes[0]![0]!.samples;
    expect(samples).toHaveLength(121);
    const house = TIDEWATER.find((h) => h.key === 'multi-probe')!;
    const truth = truthAt(house.life, house.ageDays - house.lastRunDaysAgo!, seedOf(4870, house.key));
    expect(
      Math.abs(samples.at(-1)![1] - potentialAtRest(truth, bufferPh('7.00', samples.at(-1)![2]), samples.at(-1)![2])),
    ).toBeLessThan(2);
    expect(JSON.stringify(bundle.runs[0])).not.toMatch(/slope|zero/i);
  });
});
