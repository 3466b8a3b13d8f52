import type { LookBack } from '@frustum/core';
import type { ReadingsView } from '@frustum/contract';
import { AlongAxis, Band, Course, Here, Plot, ValueAxis } from './marks.tsx';
import { roundTicks, timeAxis } from './tick.ts';

interface Point {
  readonly t: number;
  readonly mean: number | null;
  readonly spread: readonly [number, number] | null;
  readonly bench: number | null;
  /** what it probably was, where the sensor was probably outside, and how sure that is */
  readonly corrected: number | null;
  readonly sure: readonly [number, number] | null;
}

const Z95 = 1.96;

/** The provisional correction at a moment: the error that was shown then, by linear interpolation; null where there is none. */
export function correctionAt(lookBacks: readonly LookBack[], ms: number): { mean: number; half: number } | null {
  const course = lookBacks.find((l) => ms >= l.fromMs && ms <= l.toMs)?.course ?? [];
  const after = course.findIndex((c) => c.atMs >= ms);
  if (after < 0) return null;
  const [a, b] = [course[Math.max(0, after - 1)]!, course[after]!];
  const share = b.atMs > a.atMs ? (ms - a.atMs) / (b.atMs - a.atMs) : 0;
  const at = (of: 'mean' | 'sd') => a[of] + share * (b[of] - a[of]);
  return { mean: at('mean'), half: Z95 * at('sd') };
}

/** Buckets with a break wherever nothing was read for a while, so that no line is drawn across a silence. */
export function pointsOf({ buckets, widthMs }: ReadingsView, lookBacks: readonly LookBack[] = []): Point[] {
  const points: Point[] = [];
  // Imported readings may lie wider apart than a bucket: a break is more than thrice the usual distance.
  const gaps = buckets.slice(1).map((b, i) => b.atMs - buckets[i]!.atMs);
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? widthMs;
  buckets.forEach((b, i) => {
    const before = buckets[i - 1];
    if (before && b.atMs - before.atMs > 3 * Math.max(usual, widthMs))
      points.push({ t: before.atMs + widthMs, mean: null, spread: null, bench: null, corrected: null, sure: null });
    const off = b.onBench ? null : correctionAt(lookBacks, b.atMs);
    const corrected = off && b.mean - off.mean;
    points.push({
      t: b.atMs,
      mean: b.onBench ? null : b.mean,
      spread: b.onBench ? null : [b.low, b.high],
      bench: b.onBench ? b.mean : null,
      corrected,
      sure: off && [corrected! - off.half, corrected! + off.half],
    });
  });
  return points;
}

/** Readings of a channel: the mean as a line, the spread as a band, readings at the bench thin and broken. */
export default function ReadingsChart({
  view,
  lookBacks = [],
  befell = [],
  digits,
  label,
}: {
  view: ReadingsView;
  lookBacks?: readonly LookBack[];
  /** what was noted, at its moment */
  befell?: readonly { readonly atMs: number; readonly text: string }[];
  digits: number;
  label: string;
}) {
  const points = pointsOf(view, lookBacks);
  const shown = view.buckets.filter((b) => !b.onBench);
  const scale = shown.length ? shown : view.buckets;
  const probably = points.flatMap((p) => p.sure ?? []);
  const [low, high] = [
    Math.min(...scale.map((b) => b.low), ...probably),
    Math.max(...scale.map((b) => b.high), ...probably),
  ];
  const pad = Math.max(2 * 10 ** -digits, (high - low) * 0.1);
  return (
    <Plot label={label} className="h-52" size={{ width: 900, height: 208 }} data={points}>
      <AlongAxis dataKey="t" domain={[view.fromMs, view.toMs]} {...timeAxis(view.fromMs, view.toMs)} />
      <ValueAxis
        domain={[low - pad, high + pad]}
        ticks={roundTicks(low - pad, high + pad)}
        allowDataOverflow
        digits={digits}
        width={64}
      />
      <Band of="spread" share={0.25} />
      <Band of="sure" share={0.18} ink="doubt" />
      <Course of="corrected" ink="doubt" width={1.5} dashes="6 4" />
      <Course of="mean" width={1.5} />
      <Course of="bench" ink="rail" dashes="2 4" />
      {befell.map((b) => (
        <Here key={`${b.atMs} ${b.text}`} x={b.atMs} label={b.text} />
      ))}
    </Plot>
  );
}
