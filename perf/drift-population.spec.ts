import { NO_FLEET } from '@frustum/core';
import { seedOf } from '@frustum/sim';
import { describe, expect, it } from 'vitest';
import { houseOf, predicted } from './drift-population.ts';
import { KINDS } from './drift-truths.ts';

/** Small versions of `npm run report:drift`. */
const SEED = 20;

describe(`cones against courses that are not the engine's own (seed ${SEED})`, () => {
  it.each(KINDS)('%s: the bands hold what they say, and beat the last value with its spread', (kind) => {
    const house = houseOf('ph', kind, 20, seedOf(SEED, kind));
    const all = [1, 3, 10].flatMap((runs) =>
      Array.from({ length: 80 }, (_, i) => predicted(house, runs, seedOf(SEED, `${kind}/${runs}/${i}`), i < 10)),
    );
    const share = (is: (p: (typeof all)[number]) => boolean) => all.filter(is).length / all.length;
    // 240 predictions: three standard errors are 4 and 10 in a hundred.
    expect(share((p) => Math.abs(p.off) <= p.half95)).toBeGreaterThan(0.89);
    expect(share((p) => Math.abs(p.off) <= p.half50)).toBeGreaterThan(0.38);
    expect(share((p) => Math.abs(p.off) <= p.half50)).toBeLessThan(0.68);
    const mean = (of: (p: (typeof all)[number]) => number) => all.reduce((s, p) => s + of(p), 0) / all.length;
    expect(mean((p) => p.score)).toBeLessThan(mean((p) => p.naive));
    // The oracle, too, holds what it says: it is one to be measured by.
    const asked = all.filter((p) => p.oracleHeld !== null);
    expect(asked.filter((p) => p.oracleHeld).length / asked.length).toBeGreaterThan(0.8);
  });

  it('two siblings teach little: bands after ten runs hold what they say, and are no worse than without', () => {
    const houses = KINDS.flatMap((kind) => [0, 1].map((h) => houseOf('ph', kind, 2, seedOf(SEED, `two/${kind}/${h}`))));
    const of = (fleet?: typeof NO_FLEET) =>
      houses.flatMap(
        (house, h) =>
        Array.from({ length: 40 }, (_, i) => predicted({ ...house, ...(fleet ? { fleet } : {}) }, 10, seedOf(SEED, `two/${h}/${i}`), false)), // prettier-ignore
      );
    const [taught, untaught] = [of(), of(NO_FLEET)];
    const held = taught.filter((p) => Math.abs(p.off) <= p.half95).length / taught.length;
    // 240 predictions; before what is taught was shrunk it was 75 of 100.
    expect(held).toBeGreaterThan(0.92);
    const score = (list: typeof taught) => list.reduce((sum, p) => sum + p.score, 0);
    expect(score(taught)).toBeLessThan(1.02 * score(untaught));
  });
});
