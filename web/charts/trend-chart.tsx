import { format } from 'date-fns';
import { ComposedChart, ErrorBar, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

/** One electrode parameter over all runs, each with its ±, between the limits of practice. */
export default function TrendChart({
  points,
  limits,
  digits,
  label,
}: {
  points: readonly { t: number; value: number; spread: number }[];
  /** null where practice has none */
  limits: readonly [number, number] | null;
  digits: number;
  label: string;
}) {
  const values = points.flatMap((p) => [p.value - p.spread, p.value + p.spread]);
  const low = Math.min(...(limits ?? []), ...values);
  const high = Math.max(...(limits ?? []), ...values);
  const pad = (high - low) * 0.08 || 1;
  return (
    <div className="h-52" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 500, height: 208 }}>
        <ComposedChart data={[...points]} margin={{ top: 8, right: 30, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="t"
            type="number"
            domain={['dataMin', 'dataMax']}
            padding={{ left: 8, right: 8 }}
            tickFormatter={(t: number) => format(t, 'MMM yy')}
            tick={TICK}
            stroke="var(--color-base-300)"
            minTickGap={50}
          />
          <YAxis
            domain={[low - pad, high + pad]}
            ticks={limits ? [limits[0], (limits[0] + limits[1]) / 2, limits[1]] : [low, high]}
            tickFormatter={(v: number) => fixed(v, digits)}
            tick={TICK}
            stroke="var(--color-base-300)"
            width={52}
          />
          {limits?.map((y) => (
            <ReferenceLine key={y} y={y} stroke="var(--color-secondary)" />
          ))}
          <Line
            dataKey="value"
            type="linear"
            stroke="var(--color-primary)"
            strokeWidth={1.5}
            dot={{ r: 3, fill: 'var(--color-base-content)', stroke: 'none' }}
            isAnimationActive={false}
          >
            <ErrorBar dataKey="spread" width={0} stroke="var(--color-primary)" strokeOpacity={0.5} />
          </Line>
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
