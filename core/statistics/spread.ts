import { chanceOutside, normalCdf } from './normal.ts';

/** A quantity about one mean, spread as one of several normal ones: with so much chance, by a standard deviation. */
export interface Spread {
  readonly mean: number;
  readonly pieces: readonly { readonly chance: number; readonly sd: number }[];
}

/** Standard deviation of all pieces together. */
export const sdOf = ({ pieces }: Spread): number => Math.sqrt(pieces.reduce((sum, p) => sum + p.chance * p.sd ** 2, 0));

/**
 * Chance that it lies outside ±limit.
 *
 * @example chanceBeyond({ mean: 0, pieces: [{ chance: 1, sd: 1 }] }, 1.959964) // 0.05
 */
export const chanceBeyond = ({ mean, pieces }: Spread, limit: number): number =>
  pieces.reduce((sum, p) => sum + p.chance * chanceOutside(mean, p.sd, limit), 0);

/** Newton's steps from the normal answer: the rest of the way is below a thousandth after these. */
const STEPS = 8;

/**
 * Half width of the band about the mean that holds a share of the chance.
 *
 * @param share 0 to 1, both excluded
 * @param z half width of that band for a standard normal
 * @example halfWidth({ mean: 3, pieces: [{ chance: 1, sd: 2 }] }, 0.95, 1.959964) // 3.92
 */
export function halfWidth(spread: Spread, share: number, z: number): number {
  const sd = sdOf(spread);
  const [only] = spread.pieces;
  if (spread.pieces.length === 1) return z * only!.sd;
  if (!(sd > 0)) return 0;
  let low = 0;
  let high = z * 4 * Math.max(...spread.pieces.map((p) => p.sd));
  let half = z * sd;
  for (let i = 0; i < STEPS; i++) {
    let held = 0;
    let density = 0;
    for (const { chance, sd: s } of spread.pieces) {
      if (!(s > 0)) {
        held += chance;
        continue;
      }
      const u = half / s;
      held += chance * (2 * normalCdf(u) - 1);
      density += (chance * 2 * Math.exp(-0.5 * u * u)) / (Math.sqrt(2 * Math.PI) * s);
    }
    if (held < share) low = half;
    else high = half;
    const next = half + (share - held) / density;
    half = next > low && next < high ? next : (low + high) / 2;
  }
  return half;
}
