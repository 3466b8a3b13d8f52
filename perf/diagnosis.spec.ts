import { describe, expect, it } from 'vitest';
import { seedOf } from '@frustum/sim';
import { alarmed, calibrationError, groupOf, saidAfter, saidOf, type Said } from './diagnosis-judged.ts';
import { featuresOf, oracleOf } from './diagnosis-oracle.ts';
import { BEFALLEN, caseOf } from './diagnosis-population.ts';

const SEED = 20261125;
const made = (what: string, each: number) =>
  BEFALLEN.flatMap((truth) =>
    Array.from({ length: each }, (_, i) => caseOf(truth, seedOf(SEED, `${what}/${truth}/${i}`))),
  );

describe(`diagnosis of simulated faults, a small version of the report (seed ${SEED})`, () => {
  const cases = made('small', 12);
  const said = [1, 3].map((tier) => cases.map((c) => saidOf(c, tier as 1 | 3)));
  const rightGroup = (s: Said) => s.group === groupOf(s.truth);
  const share = (all: readonly Said[], is: (s: Said) => boolean) => all.filter(is).length / all.length;

  it('with everything known: the action group right in nine of ten, and hardly ever silent', () => {
    expect(share(said[1]!, rightGroup)).toBeGreaterThan(0.9);
    expect(share(said[1]!, (s) => s.abstains)).toBeLessThan(0.2);
    expect(calibrationError(said[1]!)).toBeLessThan(0.1);
  });

  it('by calibrations alone nobody can see water that moved; a sample shows the junction', () => {
    const moved = said[0]!.filter((s) => s.truth === 'process-moved');
    expect(moved.every((s) => s.id === 'sound')).toBe(true);
    const blocked = cases.filter((c) => c.truth === 'junction-blocked');
    // The slow answer leads to the sample, and the sample to the junction.
    expect(
      share(
        blocked.map((c) => saidAfter(c, 1)),
        (s) => s.id === s.truth,
      ),
    ).toBeGreaterThan(0.9);
    expect(
      share(
        blocked.map((c) => saidAfter(c, 1)),
        (s) => s.chance > 0.9,
      ),
    ).toBeGreaterThan(
      share(
        blocked.map((c) => saidOf(c, 1)),
        (s) => s.chance > 0.9,
      ),
    );
  });

  it('an oracle that has seen the generator is no worse than chance and comes near: a check of the yardstick', () => {
    const oracle = oracleOf(made('learnt', 40), 3);
    const hits = cases.filter((c) => oracle(featuresOf(c.facts[3])) === c.truth).length;
    expect(hits / cases.length).toBeGreaterThan(0.8);
  });

  it('sound sensors: at most one of thirty is ever suspected over nine runs', () => {
    const sound = Array.from({ length: 30 }, (_, i) => caseOf('sound', seedOf(SEED, `watched/${i}`)));
    expect(sound.filter((c) => alarmed(c, 1)).length).toBeLessThanOrEqual(1);
  });

  it('the calibration error of one who always says nine tenths and is right in half is 0.4', () => {
    const one = { truth: 'sound', chance: 0.9, abstains: false, group: 'nothing', groupChance: 1 } as const;
    expect(
      calibrationError([
        { ...one, id: 'sound' },
        { ...one, id: 'glass-aged' },
      ]),
    ).toBeCloseTo(0.4, 12);
  });
});
