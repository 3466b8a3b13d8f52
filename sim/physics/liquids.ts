/**
 * What can be in a cup. The figures for the technical buffers are the same printed table as the core's (there is no
 * other source for them), but they reach a value by another route: a least-squares cubic in temperature, not an
 * interpolation. Its worst distance from the table is asserted in liquids.spec.ts.
 */
const TECHNICAL: Readonly<Record<string, readonly (readonly [number, number])[]>> = {
  '4.01': [
    [5, 4.0],
    [10, 4.0],
    [15, 4.0],
    [20, 4.0],
    [25, 4.01],
    [30, 4.02],
    [35, 4.02],
    [40, 4.03],
    [50, 4.06],
  ],
  '7.00': [
    [0, 7.12],
    [5, 7.09],
    [10, 7.06],
    [15, 7.04],
    [20, 7.02],
    [25, 7.0],
    [30, 6.99],
    [35, 6.98],
    [40, 6.97],
    [50, 6.97],
  ],
  '10.01': [
    [0, 10.32],
    [5, 10.25],
    [10, 10.18],
    [15, 10.12],
    [20, 10.06],
    [25, 10.01],
    [30, 9.97],
    [35, 9.93],
    [40, 9.89],
    [50, 9.83],
  ],
};

export type Liquid = 'cup-4.01' | 'cup-7.00' | 'cup-10.01' | 'rinse' | 'air' | 'process';
export const LIQUIDS: readonly Liquid[] = ['process', 'cup-7.00', 'cup-4.01', 'cup-10.01', 'rinse', 'air'];

/** Coefficients of a cubic through a table, by normal equations about 25 °C. */
function cubicThrough(rows: readonly (readonly [number, number])[]): number[] {
  const size = 4;
  const a = Array.from({ length: size }, () => new Array<number>(size + 1).fill(0));
  for (const [t, y] of rows) {
    const x = (t - 25) / 25;
    for (let i = 0; i < size; i++) {
      for (let j = 0; j < size; j++) a[i]![j]! += x ** (i + j);
      a[i]![size]! += y * x ** i;
    }
  }
  for (let k = 0; k < size; k++) {
    for (let i = 0; i < size; i++) {
      if (i === k) continue;
      const f = a[i]![k]! / a[k]![k]!;
      for (let j = k; j <= size; j++) a[i]![j]! -= f * a[k]![j]!;
    }
  }
  return a.map((row, i) => row[size]! / row[i]!);
}

const CUBICS = new Map(Object.entries(TECHNICAL).map(([name, rows]) => [name, cubicThrough(rows)]));

/**
 * pH of a buffer in the cup.
 *
 * @param name '4.01', '7.00' or '10.01'
 */
export function bufferPh(name: string, temperatureC: number): number {
  const cubic = CUBICS.get(name);
  if (!cubic) throw new Error(`the stand-in has no buffer ${name}`);
  const x = (temperatureC - 25) / 25;
  return cubic.reduce((s, c, i) => s + c * x ** i, 0);
}

/** The process that the probe hangs in: a day's rhythm about a set point. */
export interface Process {
  readonly ph: number;
  readonly dailySwing: number;
  readonly temperatureC: number;
}

/** pH of the process at a moment, highest in the late afternoon as light takes the CO2. */
export function processPh(process: Process, atMs: number): number {
  const dayFraction = (atMs / 86_400_000) % 1;
  return process.ph + process.dailySwing * Math.sin(2 * Math.PI * (dayFraction - 0.45));
}
