import { format } from 'date-fns';
import { Area, ComposedChart, Line, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { ReadingsView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

const DAY_MS = 86_400_000;

interface Point {
  readonly t: number;
  readonly mean: number | null;
  readonly spread: readonly [number, number] | null;
  readonly bench: number | null;
}

/** Buckets with a break wherever nothing was read for a while, so that no line is drawn across a silence. */
export function pointsOf({ buckets, widthMs }: ReadingsView): Point[] {
  const points: Point[] = [];
  // Imported readings may lie wider apart than a bucket: a break is more than thrice the usual distance.
  const gaps = buckets.slice(1).map((b, i) => b.atMs - buckets[i]!.atMs);
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1] ?? widthMs;
  buckets.forEach((b, i) => {
    const before = buckets[i - 1];
    if (before && b.atMs - before.atMs > 3 * Math.max(usual, widthMs))
      points.push({ t: before.atMs + widthMs, mean: null, spread: null, bench: null });
    points.push({
      t: b.atMs,
      mean: b.onBench ? null : b.mean,
      spread: b.onBench ? null : [b.low, b.high],
      bench: b.onBench ? b.mean : null,
    });
  });
  return points;
}

/** What a channel showed: its mean as a line, its spread as a band, the bench thin and broken. */
export default function ReadingsChart({ view, digits, label }: { view: ReadingsView; digits: number; label: string }) {
  const points = pointsOf(view);
  const shown = view.buckets.filter((b) => !b.onBench);
  const scale = shown.length ? shown : view.buckets;
  const [low, high] = [Math.min(...scale.map((b) => b.low)), Math.max(...scale.map((b) => b.high))];
  const pad = Math.max(2 * 10 ** -digits, (high - low) * 0.1);
  const long = view.toMs - view.fromMs > 2 * DAY_MS;
  return (
    <div className="h-52" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 900, height: 208 }}>
        <ComposedChart data={points} margin={{ top: 8, right: 30, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="t"
            type="number"
            domain={[view.fromMs, view.toMs]}
            tickFormatter={(t: number) => format(t, long ? 'd MMM' : 'HH:mm')}
            tick={TICK}
            stroke="var(--color-base-300)"
            minTickGap={50}
          />
          <YAxis
            domain={[low - pad, high + pad]}
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
