import type { ConeView } from '@frustum/contract';

/** One place on the cone as Recharts takes it; null bands make the gap between two segments. */
interface ConePoint {
  readonly t: number;
  readonly wide: readonly [number, number] | null;
  readonly half: readonly [number, number] | null;
  readonly mean: number | null;
  /** of the ways that stand apart, the likeliest first */
  readonly ways?: readonly { readonly mean: number; readonly band: readonly [number, number] }[];
}

const waysAt = (apart: NonNullable<ConeView['apart']>, i: number) =>
  apart.flatMap(({ points }) => {
    const at = points[i];
    return at ? [{ mean: at[1], band: [at[1] - at[2], at[1] + at[2]] as const }] : [];
  });

/** Segments in a row, cut to a time window, with a gap wherever a run narrowed the cone. */
export function conePoints(cone: ConeView, fromMs: number, toMs: number): ConePoint[] {
  const { apart = [] } = cone;
  const last = cone.segments.at(-1);
  return cone.segments
    .filter((s) => s.toMs >= fromMs && s.fromMs <= toMs)
    .flatMap((segment) => [
      ...segment.points.map(([t, mean, half50, half95], i): ConePoint => {
        const ways = segment === last ? waysAt(apart, i) : [];
        return {
          t,
          // Between two places it is least of all.
          mean: ways.length ? null : mean,
          wide: [mean - half95, mean + half95],
          half: ways.length ? null : [mean - half50, mean + half50],
          ...(ways.length ? { ways } : {}),
        };
      }),
      { t: segment.toMs, mean: null, wide: null, half: null },
    ]);
}
