import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { describe, expect, it } from 'vitest';
import * as core from './index.ts';

const at = (id: string, signal: number): core.StandardPoint => ({
  standard: core.buffer(id),
  lotId: '',
  temperatureC: 24.6,
  signal,
  signalUncertainty: 0.2,
});
const atSeven = at('technical-7.00', -8.4);
const atTen = at('technical-10.01', -176.9);

/** A calibration that finds this zero on a day, and is put in force. */
const run = (day: number, zero: number): core.Observation => ({
  atMs: day * core.MS_PER_DAY,
  kind: 'calibration',
  found: { zero, sensitivity: 0.97 },
  covariance: [
    [0.25, 0],
    [0, 9e-6],
  ],
  inForceAfter: { zero, sensitivity: 0.97 },
  cleaned: false,
});

/** Names that the examples in the docblocks may use besides what their own file exports. */
const CAST = {
  phPrior: core.PH_PRIOR,
  atWork: { model: core.modelOf(core.familyOf('ph')), value: 6, temperatureC: 25 },
  /** a probe whose zero falls by 8 mV a month */
  falling: [run(0, -1), run(30, -9), run(60, -17)],
  day: core.MS_PER_DAY,
  kcl1413: core.CONDUCTIVITY_STANDARDS[0]!,
  atSeven,
  atTen,
  phFit: core.fitSensor(core.familyOf('ph'), core.modelOf(core.familyOf('ph')), [atSeven, atTen]),
  at7: {
    standard: core.buffer('technical-7.00'),
    lotId: '',
    temperatureC: 25,
    signal: -5,
    signalUncertainty: 0.2,
  },
  at4: {
    standard: core.buffer('technical-4.01'),
    lotId: '',
    temperatureC: 25,
    signal: 165,
    signalUncertainty: 0.2,
  },
};

const more = {
  /** the same probe, as one of several in the same water */
  coLocated: { prior: core.PH_PRIOR, working: CAST.atWork, step: 0.59, history: CAST.falling, services: [] },
};

const root = import.meta.dirname;
const files = readdirSync(root, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.spec.ts') && !f.includes('node_modules') && f !== 'index.ts')
  .map((f) => join(root, f));

const examples = files.flatMap((file) =>
  [...readFileSync(file, 'utf8').matchAll(/@example (.+?) \/\/ (.+?)(?: \*\/)?$/gm)].map(([, code, answer]) => ({
    file,
    where: relative(root, file),
    code: code!,
    answer: answer!,
  })),
);

describe('every docblock example runs and gives the answer printed beside it', () => {
  it('finds the examples', () => expect(examples.length).toBeGreaterThan(20));

  for (const { file, where, code, answer } of examples) {
    it(`${where}: ${code}`, async () => {
      const scope: Record<string, unknown> = { ...core, ...CAST, ...more, ...((await import(file)) as object) };

      const value: unknown = new Function(...Object.keys(scope), `return ${code}`)(...Object.values(scope));
      const number = Number(answer);
      if (Number.isFinite(number)) {
        const digits = /\.(\d+)/.exec(answer)?.[1]?.length ?? 0;
        expect(Math.abs((value as number) - number)).toBeLessThanOrEqual(0.5001 * 10 ** -digits);
      } else if (/^'.*'$/.test(answer)) {
        expect(`'${String(value)}'`).toBe(answer);
      } else if (answer.includes('{') || answer.startsWith('[')) {
        for (const [, figure] of answer.matchAll(/(-?\d+(?:\.\d+)?)/g)) {
          const digits = /\.(\d+)/.exec(figure!)?.[1]?.length ?? 0;
          const flat =
            JSON.stringify(value)
              .match(/-?\d+(?:\.\d+)?(?:e-?\d+)?/g)
              ?.map(Number) ?? [];
          expect(
            flat.some((f) => Math.abs(f - Number(figure)) <= 0.5001 * 10 ** -digits),
            `${figure} in ${JSON.stringify(value)}`,
          ).toBe(true);
        }
      } else expect(value).toBeDefined();
    });
  }
});
