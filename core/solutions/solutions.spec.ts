import { Matrix, solve } from 'ml-matrix';
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

  it('every row of the five primary buffers: Buck et al. 2002, from memory of the table; and none off its cubic by more than 0.004', () => {
    const rows: Record<string, number[]> = {
      'primary-phthalate': [4.0, 3.998, 3.997, 3.998, 4.0, 4.005, 4.011, 4.018, 4.027, 4.05],
      'primary-phosphate': [6.984, 6.951, 6.923, 6.9, 6.881, 6.865, 6.853, 6.844, 6.838, 6.833],
      'primary-phosphate-7.4': [7.534, 7.5, 7.472, 7.448, 7.429, 7.413, 7.4, 7.389, 7.38, 7.367],
      'primary-borax': [9.464, 9.395, 9.332, 9.276, 9.225, 9.18, 9.139, 9.102, 9.068, 9.011],
      'primary-carbonate': [10.317, 10.245, 10.179, 10.118, 10.062, 10.012, 9.966, 9.926, 9.889, 9.828],
    };
    const celsius = [0, 5, 10, 15, 20, 25, 30, 35, 40, 50];
    for (const [id, values] of Object.entries(rows)) {
      celsius.forEach((t, i) => expect(valueAt(buffer(id), t), `${id} ${t}`).toBe(values[i]));
    }
    for (const b of BUFFERS) {
      const x = new Matrix(b.table.map(([t]) => [1, t / 25, (t / 25) ** 2, (t / 25) ** 3]));
      const cubic = solve(x, Matrix.columnVector(b.table.map(([, v]) => v)));
      const worst = Math.max(
        ...b.table.map(([t, v], i) => Math.abs(x.getRowVector(i).mmul(cubic).get(0, 0) - v) + 0 * t),
      );
      expect(worst, b.name).toBeLessThan(b.tableStep > 0.001 ? 0.012 : 0.004);
    }
  });

  it('technical buffers, 0 to 50 °C: typical rows from memory (a lot’s own table wins)', () => {
    const by5 = [0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50];
    const rows = (id: string, temperatures: number[]) => temperatures.map((t) => valueAt(buffer(id), t));
    expect(rows('technical-7.00', by5)).toEqual([7.12, 7.09, 7.06, 7.04, 7.02, 7.0, 6.99, 6.98, 6.97, 6.97, 6.97]);
    expect(rows('technical-10.01', by5)).toEqual([
      10.32, 10.25, 10.18, 10.12, 10.06, 10.01, 9.97, 9.93, 9.89, 9.86, 9.83,
    ]);
    // The 9.00 of 20 °C and the one of 25 °C are two products; its 45 °C row is not printed.
    expect(
      rows(
        'technical-9.00',
        by5.filter((t) => t !== 45),
      ),
    ).toEqual([9.24, 9.16, 9.11, 9.05, 9.0, 8.95, 8.91, 8.88, 8.85, 8.79]);
    expect(buffer('technical-9.00').nominalAtC).toBe(20);
    expect(rows('technical-4.01', [5, 10, 15, 20, 25, 30, 35, 40, 50])).toEqual([
      4.0, 4.0, 4.0, 4.0, 4.01, 4.02, 4.02, 4.03, 4.06,
    ]);
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
