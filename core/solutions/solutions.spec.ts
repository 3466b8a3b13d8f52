import { describe, expect, it } from 'vitest';
import { buffer, BUFFERS } from './buffers.ts';
import { temperatureSlope, valueAt } from './standard.ts';

describe('buffers over temperature', () => {
  it('primary: Buck et al., Pure Appl. Chem. 74 (2002) 2169, rows from memory of the table', () => {
    expect(valueAt(buffer('primary-phthalate'), 25)).toBe(4.005);
    expect(valueAt(buffer('primary-phosphate'), 37.5)).toBeGreaterThan(6.838);
    expect(valueAt(buffer('primary-borax'), 10)).toBe(9.332);
    expect(valueAt(buffer('primary-carbonate'), 50)).toBe(9.828);
  });

  it('interpolates without overshoot: phthalate keeps its minimum near 10 °C', () => {
    const phthalate = buffer('primary-phthalate');
    for (let t = 0; t <= 50; t += 0.25) expect(valueAt(phthalate, t)).toBeGreaterThanOrEqual(3.997 - 1e-12);
  });

  it('technical 7.00 at 23.8 °C reads 7.00 to 7.01, as at the bench', () => {
    expect(valueAt(buffer('technical-7.00'), 23.8)).toBeCloseTo(7.004, 2);
  });

  it.each(BUFFERS.map((b) => [b.name, b] as const))(
    '%s refuses outside its table, and says how to go on',
    (_, standard) => {
      expect(() => valueAt(standard, 60)).toThrow(/outside the table of .* Bring the cup/);
      expect(Number.isFinite(temperatureSlope(standard, 25))).toBe(true);
      expect(valueAt(standard, standard.nominalAtC)).toBeCloseTo(standard.nominal, 2);
    },
  );
});
