import { Area, ComposedChart, Line, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { LookBack } from '@frustum/core';
import type { ReadingsView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { roundTicks, TICK, timeAxis } from './tick.ts';

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

/** What a channel showed: its mean as a line, its spread as a band, the bench thin and broken. */
export default function ReadingsChart({
  view,
  lookBacks = [],
  digits,
  label,
}: {
  view: ReadingsView;
  lookBacks?: readonly LookBack[];
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
    <div className="h-52" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 900, height: 208 }}>
        <ComposedChart data={points} margin={{ top: 8, right: 30, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis dataKey="t" domain={[view.fromMs, view.toMs]} {...timeAxis(view.fromMs, view.toMs)} />
          <YAxis
            domain={[low - pad, high + pad]}
            ticks={roundTicks(low - pad, high + pad)}
            allowDataOverflow
            tickFormatter={(v: number) => fixed(v, digits)}
            tick={TICK}
            stroke="var(--color-base-300)"
            width={64}
          />
          <Area
            dataKey="spread"
            stroke="none"
            fill="var(--color-primary)"
            fillOpacity={0.25}
            isAnimationActive={false}
          />
          <Area dataKey="sure" stroke="none" fill="var(--color-warning)" fillOpacity={0.18} isAnimationActive={false} />
          <Line
            dataKey="corrected"
            stroke="var(--color-warning)"
            strokeWidth={1.5}
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
          />
          <Line dataKey="mean" stroke="var(--color-primary)" strokeWidth={1.5} dot={false} isAnimationActive={false} />
          <Line
            dataKey="bench"
            stroke="var(--color-secondary)"
            strokeWidth={1}
            strokeDasharray="2 4"
            dot={false}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
