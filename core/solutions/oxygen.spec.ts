import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { oxygenPressure, oxygenSaturation } from './oxygen.ts';
import { density } from './seawater/density.ts';

describe('oxygen in water under air', () => {
  // By arithmetic from the equation as printed in APHA 4500-O, whose coefficients are from memory.
  it.each([
    [0, 0, 101.325, 14.621],
    [20, 0, 101.325, 9.092],
    [25, 0, 101.325, 8.263],
    [25, 35, 101.325, 6.772],
    [10, 20, 101.325, 9.933],
    [25, 0, 0.9 * 101.325, 7.411],
    [20, 0, 95, 8.512],
  ])('%s °C, salinity %s, %s kPa → %s mg/L', (temperatureC, salinity, pressureKPa, mgPerL) =>
    expect(oxygenSaturation({ temperatureC, salinity, pressureKPa })).toBeCloseTo(mgPerL, 3),
  );

  it('a fifth of the air, without what the vapour takes: 3.17 kPa at 25 °C', () => {
    // Vapour pressure of water at 25 °C: 3.1690 kPa, NIST and IAPWS, from memory.
    expect(oxygenPressure({ temperatureC: 25 })).toBeCloseTo(0.20946 * (101.325 - 3.169), 2);
    expect(oxygenPressure({ temperatureC: 25, pressureKPa: 80 })).toBeCloseTo(0.20946 * (80 - 3.169), 2);
  });

  it.each([
    [{ temperatureC: 41 }, /0 to 40 °C/],
    [{ temperatureC: 20, salinity: 41 }, /0 to 40/],
    [{ temperatureC: 20, pressureKPa: 1013.25 }, /not brought to sea level/],
  ])('%o is refused', (water, words) => expect(() => oxygenSaturation(water)).toThrow(words));
});

/** Debian's python3-gsw: there after `npm test` on Debian, otherwise skipped. Garcia and Gordon's fit to the same measurements. */
const PYTHON = '/usr/bin/python3';
const there = spawnSync(PYTHON, ['-c', 'import gsw']).status === 0;

it.skipIf(!there)(
  'agrees with python3-gsw, which has another fit, within 0.1 % from 0 to 36 °C and to salinity 40',
  () => {
    const rows = [0, 10, 20, 35, 40].flatMap((s) => [0.5, 5, 10, 15, 20, 25, 30, 36].map((t) => [s, t] as const));
    const code = `import sys, json, gsw\nrows = json.load(sys.stdin)\nprint(json.dumps([float(gsw.O2sol_SP_pt(*r)) for r in rows]))`;
    const { stdout, stderr } = spawnSync(PYTHON, ['-c', code], { input: JSON.stringify(rows), encoding: 'utf8' });
    expect(stderr).toBe('');
    const theirs = JSON.parse(stdout) as number[];
    let worst = 0;
    rows.forEach(([s, t], i) => {
      // µmol/kg; 31.9988 g/mol (IUPAC), and kg/m³ of the water.
      const mgPerL = (theirs[i]! * 31.9988 * density(s, t)) / 1e6;
      worst = Math.max(worst, Math.abs(oxygenSaturation({ temperatureC: t, salinity: s }) / mgPerL - 1));
    });
    process.stdout.write(`oxygen, largest difference from gsw: ${(100 * worst).toFixed(2)} %\n`);
    expect(worst).toBeLessThan(0.001);
  },
);
