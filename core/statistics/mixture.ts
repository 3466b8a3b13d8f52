import { chanceOutside, normalCdf } from './normal.ts';

/** A mixture of normal distributions. */
export interface Mixture {
  /** of the whole mixture */
  readonly mean: number;
  readonly pieces: readonly MixturePiece[];
}

export interface MixturePiece {
  readonly chance: number;
  readonly mean: number;
  readonly sd: number;
}

/** A mixture from its pieces. @param pieces chances that add up to 1 */
export const mixtureOf = (pieces: readonly MixturePiece[]): Mixture => ({
  mean: pieces.reduce((sum, p) => sum + p.chance * p.mean, 0),
  pieces,
});

/** Standard deviation of the whole mixture. */
export const sdOf = ({ mean, pieces }: Mixture): number =>
  Math.sqrt(pieces.reduce((sum, p) => sum + p.chance * (p.sd ** 2 + (p.mean - mean) ** 2), 0));

/**
 * Chance that it lies outside ±limit.
 *
 * @example chanceBeyond(mixtureOf([{ chance: 1, mean: 0, sd: 1 }]), 1.959964) // 0.05
 */
export const chanceBeyond = ({ pieces }: Mixture, limit: number): number =>
  pieces.reduce((sum, p) => sum + p.chance * chanceOutside(p.mean, p.sd, limit), 0);

const SQRT_2PI = Math.sqrt(2 * Math.PI);
/** The bound is found to within this share of itself. */
const CLOSE = 1e-5;
/** Newton's steps from the normal answer: the rest of the way is below a thousandth after these. */
const STEPS = 8;

/**
 * Half width of the band about the mean that holds a share of the chance.
 *
 * @param share 0 to 1, both excluded
 * @param z half width of that band for a standard normal
 * @example halfWidth(mixtureOf([{ chance: 1, mean: 3, sd: 2 }]), 0.95, 1.959964) // 3.92
 */
export function halfWidth(spread: Mixture, share: number, z: number): number {
  const sd = sdOf(spread);
  const [only] = spread.pieces;
  if (spread.pieces.length === 1) return z * only!.sd;
  if (!(sd > 0)) return 0;
  let low = 0;
  let high = 4 * z * Math.max(...spread.pieces.map((p) => p.sd + Math.abs(p.mean - spread.mean)));
  let half = z * sd;
  for (let i = 0; i < STEPS; i++) {
    let held = 0;
    let density = 0;
    for (const { chance, mean, sd: s } of spread.pieces) {
      const off = Math.abs(mean - spread.mean);
      if (!(s > 0)) {
        if (off <= half) held += chance;
        continue;
      }
      const [near, far] = [(half - off) / s, (half + off) / s];
      held += chance * (normalCdf(near) + normalCdf(far) - 1);
      density += (chance * (Math.exp(-0.5 * near * near) + Math.exp(-0.5 * far * far))) / (SQRT_2PI * s);
    }
    if (held < share) low = half;
    else high = half;
    const newton = half + (share - held) / density;
    const next = newton > low && newton < high ? newton : (low + high) / 2;
    const moved = Math.abs(next - half);
    half = next;
    if (moved < CLOSE * half) break;
  }
  return half;
}
