import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Seeded chance: the same seed gives the same draws, on every machine. */
export interface Chance {
  /** 0 ≤ u < 1 */
  uniform(): number;
  /** standard normal */
  normal(): number;
  /** rectangular with mean 0 and standard deviation 1 */
  rectangular(): number;
}

/**
 * A stream of draws.
 *
 * @param seed whole number
 * @see xoroshiro128+ of pure-rand; Box & Muller, Ann. Math. Stat. 29 (1958) 610
 * @example seededChance(4).uniform() === seededChance(4).uniform() // 'true'
 */
export function seededChance(seed: number): Chance {
  const rng = xoroshiro128plus(seed);
  const uniform = () => uniformFloat64(rng);
  let spare: number | null = null;
  return {
    uniform,
    normal() {
      if (spare !== null) {
        const kept = spare;
        spare = null;
        return kept;
      }
      // 1 − u is never 0, so the logarithm is finite.
      const radius = Math.sqrt(-2 * Math.log(1 - uniform()));
      const angle = 2 * Math.PI * uniform();
      spare = radius * Math.sin(angle);
      return radius * Math.cos(angle);
    },
    rectangular: () => Math.sqrt(12) * (uniform() - 0.5),
  };
}
