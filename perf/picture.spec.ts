import { describe, expect, it } from 'vitest';
import { seedOf } from '@frustum/sim';
import { BEFALLEN, caseOf } from './diagnosis-population.ts';
import { brier, holds, shownOf } from './picture-judged.ts';

const SEED = Number(process.env['FRUSTUM_PICTURE_SEED'] ?? 20_261_201);
const EACH = 14;

describe(`the error over all explanations, ${EACH} histories of each fault, seed ${SEED}`, () => {
  const cases = BEFALLEN.flatMap((truth) =>
    Array.from({ length: EACH }, (_, i) => caseOf(truth, seedOf(SEED, `picture/${truth}/${i}`))),
  );

  it.each([2, 3] as const)(
    'is foretold far better than by runs alone, and its band holds what is hidden: tier %d',
    (tier) => {
      const shown = cases.map((c) => shownOf(c, tier));
      const faulty = shown.filter((s) => s.truth !== 'sound');
      expect(brier(faulty, (s) => s.chance)).toBeLessThan(0.4 * brier(faulty, (s) => s.chanceAlone));
      expect(shown.filter(holds).length / shown.length).toBeGreaterThan(0.98);
      // Of sound ones hardly more is feared than the runs alone do.
      const sound = shown.filter((s) => s.truth === 'sound');
      expect(brier(sound, (s) => s.chance)).toBeLessThan(0.01);
      // The runs alone do not see a blocked junction, nor a bottle that they were adjusted in.
      const blocked = shown.filter((s) => s.truth === 'junction-blocked');
      const mean = (of: (s: (typeof shown)[number]) => number) => blocked.reduce((sum, s) => sum + of(s), 0) / EACH;
      expect([mean((s) => s.chance) > 0.9, mean((s) => s.chanceAlone) < 0.05]).toEqual([true, true]);
    },
  );
});
