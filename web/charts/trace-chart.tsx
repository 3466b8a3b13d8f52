import { ReferenceArea } from 'recharts';
import { clock } from '../format/numbers.ts';
import { AlongAxis, Band, Course, Here, Plot, ValueAxis } from './marks.tsx';

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
    <Plot
      label={label}
      className="h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px]"
      size={{ width: 600, height: 250 }}
      data={points}
      margin={{ right: 22 }}
    >
      <AlongAxis dataKey="t" domain={[0, end]} ticks={timeTicks(end)} tickFormatter={clock} />
      <ValueAxis domain={[low, high]} allowDataOverflow ticks={ticks} digits={digits} width={64} />
      {band && (
        <ReferenceArea y1={band[0]} y2={band[1]} fill="var(--color-secondary)" fillOpacity={0.12} ifOverflow="hidden" />
      )}
      <Band of="wide" share={0.14} />
      <Band of="half" share={0.3} />
      <Course of="mean" dashes="4 4" />
      <Course of="value" ink="fact" width={2} />
      <Here x={now} />
    </Plot>
  );
}
