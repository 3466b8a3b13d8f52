import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Seeded chance: the same seed gives the same plant. */
export interface Chance {
  /** 0 ≤ u < 1 */
  uniform(): number;
  /** standard normal */
  normal(): number;
}

/** Hash of a word, so that every probe has its own stream from one seed. FNV-1a, 32 bit. */
export function seedOf(seed: number, word: string): number {
  let hash = 0x811c9dc5 ^ seed;
  for (const c of word) hash = Math.imul(hash ^ c.charCodeAt(0), 0x01000193);
  return hash >>> 0;
}

/** figures thrown away before the first is used */
const WARM_UP = 32;

export function chance(seed: number): Chance {
  const rng = xoroshiro128plus(seed);
  const uniform = () => uniformFloat64(rng);
  // A small seed leaves the generator's state mostly zeros, and its first figures near an end (five sigma as normals).
  for (let i = 0; i < WARM_UP; i++) uniform();
  return {
    uniform,
    // Box and Muller, Ann. Math. Stat. 29 (1958) 610.
    normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()),
  };
}
