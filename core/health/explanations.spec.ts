import { describe, expect, it } from 'vitest';
import { familyOf } from '../families/registry.ts';
import type { PastRun } from '../drift/past.ts';
import type { Cause } from '../sensor/befalls.ts';
import { seededChance } from '../statistics/chance.ts';
import { diagnose } from './diagnose.ts';
import { healthFacts } from './evidence.ts';
import { expectedBy, suspicionsOf } from './explanations.ts';

const GLASS = familyOf('ph').befalls!;
const cause = (id: string): Cause => GLASS.causes.find((c) => c.id === id)!;
const SEED = 20_261_204;

const past = (zeros: readonly number[], slopes: readonly number[]): PastRun[] =>
  zeros.map((zero, i) => {
    const known = { zero, zeroSd: 0.6, sensitivity: slopes[i]!, sensitivitySd: 0.004 };
    return { atMs: i * 3e9, found: known, known, standardised: [0, 0], jumped: 0 };
  });
const timed = (...seconds: readonly number[]) => seconds.map((t90) => ({ t90, temperatureC: 25 }));

describe(`two causes at once (seed ${SEED})`, () => {
  it('each alone and each pair, with shares that add up to those of the causes; pairs as often as said', () => {
    const all = suspicionsOf({ causes: GLASS.causes, pairs: 0.3 });
    const n = GLASS.causes.length;
    // What takes what fits none of the others is never beside one of them.
    expect(all).toHaveLength(n + ((n - 1) * (n - 2)) / 2);
    const total = GLASS.causes.reduce((sum, c) => sum + c.prior, 0);
    expect(all.reduce((sum, s) => sum + s.prior, 0)).toBeCloseTo(total, 12);
    const two = all.filter((s) => s.causes.length === 2);
    expect(two.reduce((sum, s) => sum + s.prior, 0)).toBeCloseTo(0.3 * total, 12);
    // Pairs of what is frequent are frequent: 0.024 and 0.02 against 0.002 and 0.006.
    const share = (a: string, b: string) => two.find((s) => s.causes.every((c) => [a, b].includes(c.id)))!.prior;
    expect(share('electrolyte-diluted', 'junction-blocked') / share('glass-cracked', 'connector-moist')).toBeCloseTo(
      (0.024 * 0.02) / (0.002 * 0.006),
      9,
    );
    expect(suspicionsOf({ causes: [cause('glass-aged')], pairs: 0.3 })).toMatchObject([{ prior: 0.012 }]);
  });

  it('what two of them make of a figure is what drawing one after the other makes', () => {
    const [diluted, foreign] = [cause('electrolyte-diluted'), cause('reference-contaminated')];
    const sound = GLASS.sound.zeroMoved;
    const made = expectedBy([diluted, foreign], 'zeroMoved', sound)!;
    const dice = seededChance(SEED);
    // A sound sensor scatters once; a fault moves it by its mean, and by what its own scatter exceeds that of a sound one.
    const by = ({ mean, sd }: { mean: number; sd: number }) =>
      mean + Math.sqrt(sd ** 2 - sound.sd ** 2) * dice.normal();
    const drawn = Array.from({ length: 60_000 }, (_, i) => {
      const way = i % 2 ? 1 : -1;
      const { mean, sd } = foreign.expects.zeroMoved!;
      return sound.sd * dice.normal() + by(diluted.expects.zeroMoved!) + by({ mean: way * mean, sd });
    });
    const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;
    for (const [k, density] of made.entries()) {
      const mine = drawn.filter((_, i) => i % 2 === 1 - k);
      expect(Math.abs(mean(mine) - density.mean)).toBeLessThan(0.3);
      expect(Math.sqrt(mean(mine.map((v) => (v - density.mean) ** 2))) / density.sd).toBeCloseTo(1, 1);
    }
    expect(expectedBy([diluted, cause('glass-aged')], 'zeroMoved', sound)).toEqual([{ mean: -20, sd: 9 }]);
    expect(expectedBy([cause('glass-aged')], 'zeroMoved', sound)).toBeNull();
  });

  it('a zero that has fallen and a slope that went with the response: both are named, and the other stands beside the first', () => {
    const runs = past([-1, -6, -14, -22], [0.97, 0.94, 0.91, 0.88]);
    const made = diagnose(healthFacts(runs, timed(40, 60, 105), { membraneMohm: 400 }), GLASS);
    expect([made.named!.id, made.beside!.id].sort()).toEqual(['electrolyte-diluted', 'glass-aged']);
    expect(made.explanations[0]!.causes).toHaveLength(2);
    expect(made.sound + made.explanations.reduce((sum, e) => sum + e.chance, 0)).toBeCloseTo(1, 9);
    // One alone: the other is not put beside it.
    const one = diagnose(healthFacts(past([-1, -6, -14, -22], [0.97, 0.969, 0.968, 0.968]), timed(40, 42, 41)), GLASS);
    expect([one.named!.id, one.beside]).toEqual(['electrolyte-diluted', null]);
  });

  it('weighs a pair by Bayes: the odds against one of the two are those of the figures, by hand', () => {
    const two = [cause('electrolyte-diluted'), cause('connector-moist')].map((c) => ({ ...c, prior: 0.1 }));
    const facts = { ...healthFacts(past([0, -6, -14, -22], [1, 1, 1, 0.88])), sensitivity: null, lastJumped: 0 };
    const made = diagnose(facts, { ...GLASS, causes: two, pairs: 0.25 });
    const chance = (...ids: string[]) =>
      made.explanations.find((e) => e.causes.map((c) => c.id).join() === ids.join())!.chance;
    const normal = (x: number, mean: number, sd: number) => Math.exp(-0.5 * ((x - mean) / sd) ** 2) / sd;
    // Zero −22 ± 0.849: the pair and the electrolyte say the same of it. Slope lost 12 ± 0.4√2: moisture 12 ± 8, sound 0.7 ± 1.2.
    const slope = [
      normal(12, 12, Math.hypot(8, 0.4 * Math.SQRT2)),
      normal(12, 0.7, Math.hypot(1.2, 0.4 * Math.SQRT2)),
    ] as const;
    // A quarter of 0.2 is the pair's, 0.75 · 0.1 that of one alone.
    const odds = ((0.25 * 0.2) / (0.75 * 0.1)) * (slope[0] / slope[1]);
    expect(chance('electrolyte-diluted', 'connector-moist') / chance('electrolyte-diluted') / odds).toBeCloseTo(1, 2);
  });

  it('what another cause has done to this sensor it has not done to those on the same reference', () => {
    const runs = past([0, -8, -16, -24], [0.97, 0.969, 0.968, 0.968]);
    const siblings = [-12, -11].map((value) => ({ value, sd: 1 }));
    const { explanations } = diagnose(healthFacts(runs, [], { siblings }), { ...GLASS, pairs: 0.5 });
    const pair = explanations.find((e) => e.causes.length === 2 && e.causes.every((c) => ['electrolyte-diluted', 'standard-wrong'].includes(c.id))); // prettier-ignore
    const one = explanations.find((e) => e.causes.length === 1 && e.causes[0]!.id === 'electrolyte-diluted');
    const alike = diagnose(healthFacts(runs, [], { siblings: siblings.map((s) => ({ ...s, value: -24 })) }), { ...GLASS, pairs: 0.5 }).explanations; // prettier-ignore
    const same = (e: typeof pair) => alike.find((a) => a.causes.map((c) => c.id).join() === e!.causes.map((c) => c.id).join())!.chance; // prettier-ignore
    // Others that went only half as far speak for a second cause.
    expect(pair!.chance / one!.chance).toBeGreaterThan(3 * (same(pair) / same(one)));
  });
});
