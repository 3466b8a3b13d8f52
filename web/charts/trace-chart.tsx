import { Area, ComposedChart, Line, ReferenceArea, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { clock, fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

export interface TracePoint {
  /** seconds since the step began */
  readonly t: number;
  readonly value?: number;
  readonly wide?: readonly [number, number];
  readonly half?: readonly [number, number];
  readonly mean?: number;
}

/** Ticks on whole, half or quarter minutes, five or so. */
function timeTicks(end: number): number[] {
  const step = [15, 30, 60, 120, 300, 600].find((s) => end / s <= 6) ?? 1800;
  return Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
}

/**
 * Round steps around the values, four to seven of them.
 *
 * @param least smallest step that the figures are worth
 */
export function valueScale(from: number, to: number, least: number): { low: number; high: number; ticks: number[] } {
  const span = Math.max(4 * least, to - from);
  const power = 10 ** Math.floor(Math.log10(span / 5));
  const step = [1, 2, 5, 10].map((s) => s * power).find((s) => span / s <= 5.0001) ?? 10 * power;
  const low = Math.floor(from / step) * step;
  const high = Math.ceil(to / step) * step + (from === to ? step : 0);
  return { low, high, ticks: Array.from({ length: Math.round((high - low) / step) + 1 }, (_, i) => low + i * step) };
}

/** The live trace: signal, what is expected of it, and the band within which it may be captured. */
export default function TraceChart({
  points,
  now,
  band,
  step,
  digits,
  label,
}: {
  points: readonly TracePoint[];
  now: number;
  band: readonly [number, number] | null;
  /** smallest step worth an axis tick, and the digits of the axis */
  step: number;
  digits: number;
  label: string;
}) {
  const values = points
    .flatMap((p) => [p.value, p.half?.[0], p.half?.[1]])
    .filter((v): v is number => v !== undefined && Number.isFinite(v));
  const { low, high, ticks } = valueScale(Math.min(...values), Math.max(...values), step);
  const end = Math.max(60, points.at(-1)?.t ?? 0);
  return (
    <div className="h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px]" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 600, height: 250 }}>
        <ComposedChart data={[...points]} margin={{ top: 8, right: 22, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="t"
            type="number"
            domain={[0, end]}
            ticks={timeTicks(end)}
            tickFormatter={clock}
            tick={TICK}
            stroke="var(--color-base-300)"
          />
          <YAxis
            domain={[low, high]}
            allowDataOverflow
            ticks={ticks}
            tickFormatter={(v: number) => fixed(v, digits)}
            tick={TICK}
            stroke="var(--color-base-300)"
            width={64}
          />
          {band && (
            <ReferenceArea
              y1={band[0]}
              y2={band[1]}
              fill="var(--color-secondary)"
              fillOpacity={0.12}
              ifOverflow="hidden"
            />
          )}
          <Area
            dataKey="wide"
            type="linear"
            stroke="none"
            fill="var(--color-primary)"
            fillOpacity={0.14}
            isAnimationActive={false}
          />
          <Area
            dataKey="half"
            type="linear"
            stroke="none"
            fill="var(--color-primary)"
            fillOpacity={0.3}
            isAnimationActive={false}
          />
          <Line
            dataKey="mean"
            type="linear"
            stroke="var(--color-primary)"
            strokeDasharray="4 4"
            dot={false}
            isAnimationActive={false}
          />
          <Line
            dataKey="value"
            type="linear"
            stroke="var(--color-base-content)"
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
          <ReferenceLine x={now} stroke="var(--color-base-content)" strokeDasharray="2 3" />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
