import type { ConeView, LookBackView, ReadingsView } from '@frustum/contract';
import type { InFamily } from './in-family.ts';

/** A cone in the scale in which its loop is written: what was given where that is the family's own. */
export function coneAsWritten(cone: ConeView, { written, plottedOff }: InFamily): ConeView {
  if (written.own) return cone;
  return {
    segments: cone.segments.map((s) => ({
      ...s,
      points: s.points.map(([ms, mean, half50, half95]) => [ms, plottedOff(mean), written.size(half50), written.size(half95)] as const), // prettier-ignore
    })),
    marks: cone.marks.map((m) => ({ ...m, error: plottedOff(m.error), sd: written.size(m.sd) })),
    ...(cone.apart
      ? {
          apart: cone.apart.map((a) => ({
            ...a,
            points: a.points.map(([ms, mean, half95]) => [ms, plottedOff(mean), written.size(half95)] as const),
          })),
        }
      : {}),
  };
}

/** Readings in the scale in which their loop is written; a stretch for which that scale has no value is left out. */
export function readingsAsWritten(view: ReadingsView, { written, plotted }: InFamily): ReadingsView {
  if (written.own) return view;
  const buckets = view.buckets.flatMap((b) => {
    const [mean, one, other] = [b.mean, b.low, b.high].map(plotted) as [number, number, number];
    const known = [mean, one, other].every(Number.isFinite);
    return known ? [{ ...b, mean, low: Math.min(one, other), high: Math.max(one, other) }] : [];
  });
  return { ...view, buckets };
}

/** Times in which a sensor was wrong, by how much as its loop is written. */
export function lookBacksAsWritten(lookBacks: readonly LookBackView[], figures: InFamily): readonly LookBackView[] {
  const { written, plottedOff } = figures;
  if (written.own) return lookBacks;
  return lookBacks.map((l) => ({
    ...l,
    course: l.course.map((c) => ({ ...c, mean: plottedOff(c.mean), sd: written.size(c.sd) })),
  }));
}
