import { chancesOf } from '../statistics/chances.ts';
import type { MixturePiece } from '../statistics/mixture.ts';
import type { Expected } from '../sensor/befalls.ts';
import type { Observation } from './history.ts';

/** So much more uncertain that a finding says nothing. */
const NOTHING = 1e8;

/**
 * A history in which some runs are known to have happened, and say nothing of the sensor: their bottle was wrong, or they
 * saw the water. What the channel reckons with since is as it was set.
 *
 * @example withoutEvidence(falling, (o) => o.atMs === 0)[0].covariance[0][0] > 1e6 // true
 */
export const withoutEvidence = (
  history: readonly Observation[],
  says: (observation: Observation, i: number) => boolean,
): Observation[] =>
  history.map((o, i) => {
    if (!says(o, i)) return o;
    const [[zz, zs], [sz, ss]] = o.covariance;
    return {
      ...o,
      covariance: [
        [NOTHING * zz, NOTHING * zs],
        [NOTHING * sz, NOTHING * ss],
      ],
    };
  });

/**
 * What a figure is, of which a cause says how large it mostly is, and which may have been measured.
 *
 * @param expected where the cause is the matter
 * @param measured null where nobody has looked
 * @param scatter of the measurement beyond its own, standard deviation
 * @returns one piece, or two where it may go either way; chances add up to 1
 * @example weighedSize({ mean: 25, sd: 14, either: true }, null, 3).map((p) => p.mean) // [25, -25]
 * @example weighedSize({ mean: 25, sd: 14, either: true }, { value: 20, sd: 4 }, 3)[0].mean // 20.57
 */
export function weighedSize(
  { mean, sd, either }: Expected,
  measured: { readonly value: number; readonly sd: number } | null,
  scatter: number,
): readonly MixturePiece[] {
  const means = either ? [mean, -mean] : [mean];
  if (!measured) return means.map((of) => ({ chance: 1 / means.length, mean: of, sd }));
  const seen = Math.hypot(measured.sd, scatter);
  const share = sd ** 2 / (sd ** 2 + seen ** 2);
  const { chances } = chancesOf(means.map((of) => -0.5 * ((measured.value - of) / Math.hypot(sd, seen)) ** 2));
  return means.map((of, i) => ({
    chance: chances[i]!,
    mean: of + share * (measured.value - of),
    sd: sd * Math.sqrt(1 - share),
  }));
}
