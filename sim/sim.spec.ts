import { describe, expect, it } from 'vitest';
import { fleetOf } from './fleets/fleet.ts';
import { historyOf } from './fleets/history.ts';
import { othersOf } from './fleets/others-history.ts';
import { OTHERS } from './fleets/others.ts';
import { houseBodies } from './fleets/bodies.ts';
import { TIDEWATER, truthOf } from './fleets/tidewater.ts';
import { Body } from './physics/body.ts';
import { potentialAtRest } from './physics/electrode.ts';
import { all, POURED } from './physics/liquids.ts';
import { shiftOf } from './physics/reference.ts';

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
    const { electrodes, reference } = truthOf(house, 4870, house.lastRunDaysAgo!);
    const [, lastMv, lastC] = samples.at(-1)!;
    const rest =
      potentialAtRest({ of: 'ph' }, electrodes['ph']!, all(POURED['7.00']!), lastC) - shiftOf(reference, lastC);
    expect(Math.abs(lastMv - rest)).toBeLessThan(2);
    expect(JSON.stringify(bundle.runs[0])).not.toMatch(/slope|zero/i);
  });
});

describe('readings of the other loops', () => {
  it('go on where the stand-ins take over: what was recorded has aged up to today', () => {
    const todayMs = Date.UTC(2026, 10, 23, 9);
    const stands = { host: '127.0.0.1', port: 1 };
    for (const loop of OTHERS.filter((l) => l.family === 'ion' || l.family === 'orp')) {
      const [last] = othersOf(todayMs, 4870, stands, [loop]).readings[0]!.values.slice(-1);
      const { senses, truth, process } = houseBodies(4870).find((b) => b.key === loop.body)!;
      const live = new Body({ senses, truth: () => truth, process, seed: 1, atMs: todayMs });
      for (let i = 0; i < 12; i++) live.step(600, todayMs - (12 - i) * 600_000);
      // Both are noisy, by a tenth or two; potassium drifts by a third of a millivolt a day.
      expect(Math.abs(last![0] - loop.signal(live.shown())), loop.key).toBeLessThan(0.6);
    }
  });
});

describe('a fleet of any size', () => {
  const today = Date.UTC(2026, 10, 23);
  const fleet = fleetOf(30, 11);
  const history = historyOf(today, 11, { host: '127.0.0.1', port: 4881 }, fleet);

  it('is the same for the same seed, has keys and names of its own, and all fates among it (seed 11)', () => {
    expect(fleetOf(30, 11)).toEqual(fleet);
    expect(fleetOf(30, 12)).not.toEqual(fleet);
    expect(new Set(fleet.map((h) => h.name)).size).toBe(30);
    expect(new Set(fleet.map((h) => h.truth))).toEqual(new Set(['sound', 'worn', 'diluted', 'blocked']));
  });

  it('has runs at its habit, readings of the last week, and its services', () => {
    for (const house of fleet) {
      const runs = history.runs.filter((r) => r.loop === house.key).length;
      const span = Math.min(548, house.ageDays) - house.lastRunDaysAgo!;
      expect(Math.abs(runs - span / house.habitDays), house.key).toBeLessThan(2 + 0.2 * runs);
    }
    const readings = history.readings!.find((r) => r.loop === fleet[0]!.key)!;
    expect(readings.values).toHaveLength(1008);
    expect(Date.parse(readings.from)).toBe(today - 7 * 86_400_000);
  });

  it('a refill is in the service log and in the probe: the zero comes back by what dilution had taken', () => {
    const house = TIDEWATER.find((h) => h.key === 'remineralised')!;
    const services = historyOf(today, 11, { host: '127.0.0.1', port: 4881 }).services!;
    expect(services.map((s) => [s.loop, s.kind])).toEqual([['remineralised', 'refilled']]);
    const daysAgo = (today - Date.parse(services[0]!.at)) / 86_400_000;
    const kcl = (ago: number) => truthOf(house, 11, ago).reference.kcl;
    expect(kcl(daysAgo + 1)).toBeCloseTo(3 * Math.exp(-329 / 2500), 2);
    expect(kcl(daysAgo - 1)).toBeCloseTo(3, 2);
  });
});

describe('the house’s bodies', () => {
  const bodies = houseBodies(4870);

  it('are the seven pH loops first, as the transmitter has them, and one of every other family', () => {
    expect(bodies.slice(0, 7).map((b) => b.key)).toEqual(TIDEWATER.map((h) => h.key));
    const has = (what: (b: (typeof bodies)[number]) => boolean) => bodies.some(what);
    for (const sense of ['ph', 'orp', 'nitrate', 'potassium', 'chloride'])
      expect(
        has((b) => Object.values(b.senses).some((s) => s.of === sense)),
        sense,
      ).toBe(true);
    for (const part of ['cell', 'chlorine', 'optics'] as const)
      expect(
        has((b) => b.truth[part] !== null),
        part,
      ).toBe(true);
    expect(new Set(bodies.map((b) => b.seed)).size).toBe(bodies.length);
  });

  it('the multi-probe has three electrodes and a cell on one reference, diluted as its pH history says', () => {
    const multi = bodies.find((b) => b.key === 'multi-probe')!;
    expect(Object.keys(multi.truth.electrodes)).toEqual(['ph', 'nitrate', 'potassium']);
    expect(multi.truth.reference.kcl).toBeLessThan(2);
    expect(multi.truth.cell).not.toBeNull();
  });
});
