import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { density, density68, salinityOfGravity, specificGravity } from './density.ts';
import { conductivityOfSeawater, salinity, salinityFromRatio, t68 } from './practical-salinity.ts';
import { trisPh } from './tris.ts';

const SEED = 20263;
const scale = fc.double({ min: 2, max: 42, noNaN: true });
const sea = fc.double({ min: -2, max: 35, noNaN: true });

describe('practical salinity: UNESCO Technical Papers in Marine Science 44 (1983), check values at t68', () => {
  it.each([
    [1, 15, 0, 35],
    [1.2, 20, 2000, 37.245628],
    [0.65, 5, 1500, 27.995347],
  ])('R %s, %s °C, %s dbar → S %s', (r, t, p, s) => expect(salinityFromRatio(r, t, p)).toBeCloseTo(s, 6));

  it.each([
    [53.065, 35.0],
    [53.0, 34.952],
    [50.0, 32.738],
  ])('%s mS/cm at 25 °C (t68) → %s, recomputed', (ms, s) =>
    expect(salinityFromRatio(ms / 42.914, 25)).toBeCloseTo(s, 3),
  );

  it('53.065 mS/cm at 25.000 °C on today’s scale is 34.9955: the temperature scales differ by 6 mK there', () => {
    expect(salinity({ conductivityUsPerCm: 53_065, temperatureC: 25 })).toBeCloseTo(34.9955, 4);
    expect(t68(25) - 25).toBeCloseTo(0.006, 6);
  });

  it(`S to κ and back to 1e-9, with pressure and without (seed ${SEED})`, () => {
    fc.assert(
      fc.property(scale, sea, fc.constantFrom(0, 10, 1000), (s, t, p) => {
        const us = conductivityOfSeawater(s, t, p);
        const clear = s > 2.001 && s < 41.999;
        if (clear) expect(salinity({ conductivityUsPerCm: us, temperatureC: t, pressureDbar: p })).toBeCloseTo(s, 8);
      }),
      { seed: SEED },
    );
  });

  it(`κ rises with salt and with warmth (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 41, noNaN: true }), fc.double({ min: -2, max: 34, noNaN: true }), (s, t) => {
        expect(conductivityOfSeawater(s + 1, t)).toBeGreaterThan(conductivityOfSeawater(s, t));
        expect(conductivityOfSeawater(s, t + 1)).toBeGreaterThan(conductivityOfSeawater(s, t));
      }),
      { seed: SEED },
    );
  });

  it('refuses outside 0 to 42 and −2 to 35 °C, and figures that are not finite', () => {
    expect(() => salinity({ conductivityUsPerCm: 70_000, temperatureC: 20 })).toThrow(/outside the scale \(0 to 42\)/);
    expect(() => salinity({ conductivityUsPerCm: 53_000, temperatureC: 40 })).toThrow(/−2 to 35 °C/);
    expect(() => salinity({ conductivityUsPerCm: 0, temperatureC: 25 })).toThrow(/dry cell reads 0/);
    expect(() => salinity({ conductivityUsPerCm: NaN, temperatureC: 25 })).toThrow(/not a number/);
    expect(() => conductivityOfSeawater(-0.1, 20)).toThrow(/0 to 42/);
    expect(conductivityOfSeawater(0, 20)).toBe(0);
    expect(() => salinityFromRatio(1e9, 20)).toThrow(/What this reads is outside the scale/);
  });
});

describe('density: EOS-80 at atmospheric pressure, UNESCO 44, check values at t68', () => {
  it.each([
    [0, 5, 999.96675],
    [0, 25, 997.04796],
    [35, 5, 1027.67547],
    [35, 25, 1023.34306],
  ])('S %s, %s °C → %s kg/m³', (s, t, rho) => expect(density68(s, t)).toBeCloseTo(rho, 5));

  it('specific gravity is a ratio at stated temperatures: S 35 → 1.02637 (25/25) and 1.02660 (20/20), recomputed', () => {
    expect(specificGravity(35, 25)).toBeCloseTo(1.02637, 5);
    expect(specificGravity(35, 20)).toBeCloseTo(1.0266, 5);
  });

  it(`gravity to salinity and back (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 42, noNaN: true }), fc.constantFrom(20 as const, 25 as const), (s, at) => {
        expect(salinityOfGravity(specificGravity(s, at), at)).toBeCloseTo(s, 6);
      }),
      { seed: SEED },
    );
    expect(() => salinityOfGravity(0.99, 25)).toThrow(/outside 1 to 1\.03.*which two temperatures/);
    expect(() => salinityOfGravity(NaN, 25)).toThrow(/outside 1/);
    expect(() => density(43, 20)).toThrow(/0 to 42/);
  });
});

describe('tris buffer, total scale: DelValls & Dickson 1998 / SOP 6a, recomputed', () => {
  it('S 35: 8.0935 at 25 °C, 8.2517 at 20 °C', () => {
    expect(trisPh(35, 25)).toBeCloseTo(8.0935, 4);
    expect(trisPh(35, 20)).toBeCloseTo(8.2517, 3);
    expect(() => trisPh(10, 25)).toThrow(/20 to 40/);
  });
});

/** Debian's python3-gsw, TEOS-10's own library: there after `npm test` on Debian, otherwise skipped with a message. */
const PYTHON = '/usr/bin/python3';
const gsw = spawnSync(PYTHON, ['-c', 'import gsw; print(gsw.__version__)'], { encoding: 'utf8' });
const there = gsw.status === 0;
if (!there) {
  process.stdout.write('Skipped: no python3-gsw here (apt-get install python3-gsw), so no comparison with TEOS-10.\n');
}

describe.skipIf(!there)(`against python3-gsw ${there ? gsw.stdout.trim() : ''}`, () => {
  const grid = [2.5, 5, 10, 20, 30, 35, 38, 41.5].flatMap((s) =>
    [-1.9, 0, 5, 10, 15, 20, 25, 30, 34.9].map((t) => [s, t] as const),
  );
  const ask = (body: string, rows: readonly (readonly number[])[]): number[][] => {
    const code = `import sys, json, gsw\nrows = json.load(sys.stdin)\nprint(json.dumps([${body} for r in rows]))`;
    const { stdout, status, stderr } = spawnSync(PYTHON, ['-c', code], {
      input: JSON.stringify(rows),
      encoding: 'utf8',
    });
    if (status !== 0) throw new Error(stderr);
    return JSON.parse(stdout) as number[][];
  };

  it('practical salinity from conductivity agrees to 1e-6 over 72 points and three pressures', () => {
    let worst = 0;
    for (const p of [0, 100, 2000]) {
      const rows = grid.map(([s, t]) => [conductivityOfSeawater(s, t, p) / 1000, t, p]);
      // gsw takes t90 and makes t68 of it with the same 1.00024; mS/cm in, practical salinity out.
      const theirs = ask('[gsw.SP_from_C(*r)]', rows);
      rows.forEach(([ms, t], i) => {
        const ours = salinity({ conductivityUsPerCm: ms! * 1000, temperatureC: t!, pressureDbar: p });
        worst = Math.max(worst, Math.abs(ours - theirs[i]![0]!));
      });
    }
    process.stdout.write(`practical salinity, largest difference from gsw: ${worst.toExponential(1)}\n`);
    expect(worst).toBeLessThan(1e-6);
  });

  it('below 2 the extension agrees with theirs, both meet the scale at 2 without a step: within 1e-6', () => {
    const weak = [0.02, 0.1, 0.3, 0.7, 1.2, 1.9].flatMap((s) => [0, 5, 15, 25, 34].map((t) => [s, t] as const));
    const rows = weak.map(([s, t]) => [conductivityOfSeawater(s, t) / 1000, t, 0]);
    const theirs = ask('[gsw.SP_from_C(*r)]', rows);
    weak.forEach(([s, t], i) => {
      expect(Math.abs(theirs[i]![0]! - s), `${s} at ${t} °C`).toBeLessThan(1e-6);
      // There and back again, where the curve bends most.
      expect(salinity({ conductivityUsPerCm: rows[i]![0]! * 1000, temperatureC: t })).toBeCloseTo(s, 10);
    });
  });

  it('conductivity from salinity agrees to 1e-6 mS/cm', () => {
    const theirs = ask(
      '[gsw.C_from_SP(r[0], r[1], 0)]',
      grid.map((r) => [...r]),
    );
    grid.forEach(([s, t], i) =>
      expect(Math.abs(conductivityOfSeawater(s, t) / 1000 - theirs[i]![0]!)).toBeLessThan(1e-6),
    );
  });

  it('EOS-80 and TEOS-10 density differ by −0.0083 to +0.0112 kg/m³ over the whole scale at the surface', () => {
    const grid = Array.from({ length: 43 }, (_, i) => i).flatMap((s) =>
      Array.from({ length: 43 }, (_, i) => [s, i - 2] as const),
    );
    // Standard-composition seawater: SA = SP · 35.16504/35, no regional anomaly.
    const theirs = ask(
      '[gsw.rho_t_exact(gsw.SR_from_SP(r[0]), r[1], 0)]',
      grid.map((r) => [...r]),
    );
    const differences = grid.map(([s, t], i) => density(s, t) - theirs[i]![0]!);
    const low = Math.min(...differences);
    const high = Math.max(...differences);
    process.stdout.write(`EOS-80 − TEOS-10 density: ${low.toFixed(4)} to ${high.toFixed(4)} kg/m³\n`);
    expect(low).toBeCloseTo(-0.0083, 4);
    expect(high).toBeCloseTo(0.0112, 4);
  });
});
