import { describe, expect, it } from 'vitest';
import { GLASS_TAIL } from '../families/ph/limits.ts';
import { settle, settleIn, STATISTICAL, type Response } from './settle.ts';
import type { Sample } from './trace.ts';

/** A step that is approached with two time constants, with seeded noise. Closed form, nothing of the code under test. */
function step(options: {
  from: number;
  to: number;
  fast: number;
  slow: number;
  share: number;
  noise: number;
  seconds: number;
  seed: number;
}): Sample[] {
  let state = options.seed * 7919 + 17;
  const uniform = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const normal = () => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  const { from, to, fast, slow, share, noise } = options;
  return Array.from({ length: options.seconds * 2 }, (_, i) => {
    const t = i / 2;
    const left = (1 - share) * Math.exp(-t / fast) + share * Math.exp(-t / slow);
    return { t, signal: to + (from - to) * left + noise * normal(), temperatureC: 25 };
  });
}

/** Glass of the family, whose liquid does not move with temperature. */
const GLASS: Response = { step: 0.59, perC: 0, tail: GLASS_TAIL };
const glassOf = (step: number) => ({ ...GLASS, step });

const worn = { from: 0, to: -170, fast: 5, slow: 30, share: 0.15, noise: 0.15 };

describe('settling, statistical school', () => {
  it('has no temperature before the first sample, and that of the newest one from then on', () => {
    expect(settle([], STATISTICAL, 0.1).temperatureC).toBeNull();
    const one = settle([{ t: 0, signal: -3, temperatureC: 21.4 }], STATISTICAL, 0.1);
    expect([one.state, one.temperatureC]).toEqual(['waiting', 21.4]);
  });

  it('captures within the step limit in at least 49 of 50 probes, and never before 20 s (seeds 1 to 50)', () => {
    let within = 0;
    const times: number[] = [];
    for (let seed = 1; seed <= 50; seed++) {
      const trace = step({ ...worn, seconds: 400, seed, fast: 3 + (seed % 7), slow: 15 + (seed % 11) * 5 });
      let checked;
      for (let n = 12; n <= trace.length; n += 4) {
        const s = settle(trace.slice(0, n), STATISTICAL, 0.1, undefined, checked);
        checked = s.checked;
        if (s.state !== 'ready') continue;
        expect(s.disturbed).toBe(false);
        if (Math.abs(s.level - worn.to) < 0.59) within++;
        times.push(s.seconds);
        break;
      }
    }
    expect(times.length).toBe(50);
    expect(Math.min(...times)).toBeGreaterThanOrEqual(20);
    expect(within).toBeGreaterThanOrEqual(49);
  });

  it('forecasts: the time to ready lies in the interval for at least 15 of 20 probes, asked after 40 s (seeds 201 to 220)', () => {
    let held = 0;
    const log: string[] = [];
    for (let seed = 201; seed <= 220; seed++) {
      const trace = step({ ...worn, seconds: 400, seed, slow: 20 + (seed % 9) * 5 });
      const early = settleIn(GLASS, trace.slice(0, 80), STATISTICAL, 0.1);
      expect(early.state).toBe('settling');
      expect(early.bound).toBeGreaterThan(0.59);
      let n = 80;
      let checked = early.checked;
      for (; n < trace.length; n += 4) {
        const s = settleIn(GLASS, trace.slice(0, n), STATISTICAL, 0.1, undefined, checked);
        checked = s.checked;
        if (s.state === 'ready') break;
      }
      const took = (n - 80) / 2;
      const { low, high } = early.toGo!;
      if (low - 5 <= took && took <= high + 5) held++;
      log.push(`${took.toFixed(0)} in ${low.toFixed(0)}..${high.toFixed(0)}`);
    }
    expect(held, log.join('; ')).toBeGreaterThanOrEqual(15);
  });

  it('measures t90 of a single exponential: ln 10 times its time constant', () => {
    const s = settle(
      step({ from: 100, to: 0, fast: 10, slow: 10, share: 0, noise: 0.1, seconds: 120, seed: 3 }),
      STATISTICAL,
      0.1,
    );
    expect(s.t90).toBeCloseTo(10 * Math.LN10, 0);
  });

  it('starts over at a wiggle, by itself or when told, and keeps the run', () => {
    const before = step({ ...worn, seconds: 120, seed: 9 });
    const after = step({ from: -158, to: -170, fast: 5, slow: 5, share: 0, noise: 0.15, seconds: 60, seed: 10 }).map(
      (s) => ({ ...s, t: s.t + 120 }),
    );
    const noticed = settle([...before, ...after.slice(0, 20)], STATISTICAL, 0.1);
    expect(noticed.disturbed).toBe(true);
    expect(noticed.windowFrom).toBeGreaterThanOrEqual(236);
    expect(noticed.windowFrom).toBeLessThan(248);
    expect(noticed.state).toBe('settling');
    const told = settle(before, STATISTICAL, 0.1, 100);
    expect(told.seconds).toBeLessThan(20);
  });

  it('notices a wiggle wherever it falls among the samples: a short dip at 1 Hz', () => {
    for (let shift = 0; shift < 6; shift++) {
      const trace = Array.from({ length: 60 }, (_, i) => {
        const since = i - 25 - shift;
        const dip = since < 0 ? 0 : 6.5 * Math.exp(-since / 2.5);
        return { t: i, signal: -6.5 + dip + 0.1 * Math.sin(i * 12.9898), temperatureC: 20 };
      });
      const s = settle(trace, STATISTICAL, 0.1);
      expect(s.disturbed, `shift ${shift}`).toBe(true);
      expect(s.windowFrom).toBeGreaterThanOrEqual(25 + shift);
    }
  });

  it('does not take the noise of a quiet probe for a disturbance in 30 long traces (seeds 1 to 30)', () => {
    for (let seed = 1; seed <= 30; seed++)
      expect(settle(step({ ...worn, seconds: 300, seed }), STATISTICAL, 0.1).disturbed, `seed ${seed}`).toBe(false);
  });

  it('waits for the temperature, says so, and reads it again afterwards', () => {
    const trace = step({ ...worn, seconds: 200, seed: 2 }).map((s) => ({ ...s, temperatureC: 20 + s.t / 100 }));
    const moving = settle(trace, STATISTICAL, 0.1);
    expect(moving.state).toBe('temperature-moving');
    expect(moving.temperaturePerMinute).toBeCloseTo(0.6, 2);
  });

  it('fixed time: ready by the clock, with what is still to come in the uncertainty', () => {
    const slow = step({ from: 0, to: -170, fast: 5, slow: 120, share: 0.3, noise: 0.15, seconds: 121, seed: 4 });
    const s = settle(slow, { kind: 'fixed-time', seconds: 120 }, 0.1);
    expect(s.state).toBe('ready');
    expect(s.levelUncertainty).toBeGreaterThan(5);
  });

  it('says nothing on nothing: no sample, one sample, all at one time', () => {
    expect(settle([], STATISTICAL, 0.1).state).toBe('waiting');
    expect(settle([{ t: 0, signal: 1, temperatureC: 25 }], STATISTICAL, 0.1).toGo).toBeNull();
    const still = Array.from({ length: 9 }, () => ({ t: 5, signal: 1, temperatureC: 25 }));
    expect(settle(still, STATISTICAL, 0.1).state).toBe('waiting');
  });

  it('a tail of a minute that is small from the start is not called steady while it moves: 0.05 of the step is 14 limits', () => {
    const trace = step({ ...worn, fast: 5, slow: 60, share: 0.05, seconds: 300, seed: 63 });
    let checked;
    for (let n = 40; n <= trace.length; n += 2) {
      const s = settleIn(GLASS, trace.slice(0, n), STATISTICAL, 0.1, undefined, checked);
      checked = s.checked;
      if (s.state !== 'ready') continue;
      expect(Math.abs(s.level - worn.to), `after ${n / 2} s`).toBeLessThan(0.59);
      return;
    }
    expect.unreachable('never ready');
  });

  it('a cell that warms is read at the temperature it has: 2 % a degree is no approach', () => {
    // 1413 µS at 25 °C by 2 % a degree, from 20 to 25 °C with a time constant of 25 s.
    const trace = Array.from({ length: 200 }, (_, i) => {
      const t = i / 2;
      const temperatureC = 25 - 5 * Math.exp(-t / 25);
      return { t, signal: 1413 * (1 + 0.02 * (temperatureC - 25)), temperatureC };
    });
    const cell = { ...GLASS, step: 4.239 };
    const known = settleIn({ ...cell, perC: 28.26 }, trace.slice(0, 80), STATISTICAL, 0.1);
    const here = trace[79]!;
    expect(known.level).toBeCloseTo(here.signal, 0);
    expect(known.bound).toBeLessThan(4.239);
    expect(known.state).toBe('temperature-moving');
    expect(settleIn({ ...cell, perC: 0 }, trace.slice(0, 80), STATISTICAL, 0.1).bound).toBeGreaterThan(4.239);
  });

  it('a channel of whole millivolts is not asked for less than it shows, and its rounding stays in the ±', () => {
    const trace = Array.from({ length: 300 }, (_, i) => ({ t: i / 2, signal: 430, temperatureC: 25 }));
    const s = settleIn({ ...GLASS, step: 0.5 }, trace, STATISTICAL, 1);
    expect(s.state).toBe('ready');
    expect(s.limit).toBeCloseTo(1, 9);
    // One over the root of twelve: however long it stands there.
    expect(s.levelUncertainty).toBeGreaterThan(0.288);
  });

  it('a display of whole tenths that does not move becomes ready', () => {
    const flat = Array.from({ length: 80 }, (_, i) => ({ t: i / 2, signal: -12.3, temperatureC: 25 }));
    expect(settle(flat, STATISTICAL, 0.1).state).toBe('ready');
  });
});

describe('a signal of any size', () => {
  /** An approach with two time constants and a little noise, in steps that count. */
  const trace = (unit: number): Sample[] =>
    Array.from({ length: 160 }, (_, t) => ({
      t,
      signal: unit * (200 + 80 * Math.exp(-t / 6) + 8 * Math.exp(-t / 30) + 0.05 * Math.sin(7.3 * t)),
      temperatureC: 25,
    }));

  it('is judged in steps that count for it: the same trace in µS and in mV is steady at the same moment', () => {
    const glass = trace(1);
    // A cell in which 4.2 µS count as 0.59 mV do for glass.
    const cell = trace(4.2 / 0.59);
    for (const end of [30, 60, 100, 160]) {
      const [a, b] = [
        settleIn(glassOf(0.59), glass.slice(0, end), STATISTICAL, 0.1),
        settleIn(glassOf(4.2), cell.slice(0, end), STATISTICAL, (0.1 * 4.2) / 0.59),
      ];
      expect(b.state).toBe(a.state);
      expect(b.level / a.level).toBeCloseTo(4.2 / 0.59, 6);
      expect(b.bound / a.bound).toBeCloseTo(4.2 / 0.59, 4);
      expect(b.toGo?.mid ?? null).toEqual(a.toGo?.mid === undefined ? null : expect.closeTo(a.toGo.mid, 4));
    }
  });

  it('for glass it is the judgement itself, and its limit is the step in the signal’s own unit', () => {
    const { checked: _, ...plain } = settle(trace(1), STATISTICAL, 0.1, undefined, undefined, GLASS);
    const { checked: __, ...stepped } = settleIn(glassOf(0.59), trace(1), STATISTICAL, 0.1);
    expect(stepped).toEqual(plain);
    expect(settleIn(glassOf(4.2), trace(7), STATISTICAL, 0.7).limit).toBeCloseTo(4.2, 9);
  });
});
