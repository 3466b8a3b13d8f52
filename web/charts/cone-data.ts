import type { ConeView } from '@frustum/contract';

/** One place on the cone as Recharts takes it; null bands make the gap between two segments. */
interface ConePoint {
  readonly t: number;
  readonly wide: readonly [number, number] | null;
  readonly half: readonly [number, number] | null;
  readonly mean: number | null;
}

/** Segments in a row, cut to a time window, with a gap wherever a run narrowed the cone. */
export function conePoints(cone: ConeView, fromMs: number, toMs: number): ConePoint[] {
  return cone.segments
    .filter((s) => s.toMs >= fromMs && s.fromMs <= toMs)
    .flatMap((segment) => [
      ...segment.points.map(([t, mean, half50, half95]): ConePoint => ({
        t,
        mean,
        wide: [mean - half95, mean + half95],
        half: [mean - half50, mean + half50],
      })),
      { t: segment.toMs, mean: null, wide: null, half: null },
    ]);
}
