import { format } from 'date-fns';
import { Bar, ComposedChart, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

/** Runs as bars about what was expected of them, and their weighted average between its limits. */
export default function ControlChart({
  points,
  limit,
  label,
}: {
  points: readonly { readonly t: number; readonly value: number; readonly average: number }[];
  limit: number;
  label: string;
}) {
  const far = Math.max(3, ...points.map((p) => Math.abs(p.value)));
  return (
    <div className="h-48" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 500, height: 192 }}>
        <ComposedChart data={[...points]} margin={{ top: 8, right: 30, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="t"
            tickFormatter={(t: number) => format(t, 'd MMM yy')}
            tick={TICK}
            stroke="var(--color-base-300)"
            minTickGap={50}
          />
          <YAxis
            domain={[-far, far]}
            ticks={[-3, 0, 3]}
            tickFormatter={(v: number) => fixed(v, 0)}
            tick={TICK}
            stroke="var(--color-base-300)"
            width={40}
          />
          <ReferenceLine y={0} stroke="var(--color-base-300)" />
          {[-limit, limit].map((y) => (
            <ReferenceLine key={y} y={y} stroke="var(--color-secondary)" />
          ))}
          <Bar
            dataKey="value"
            fill="var(--color-primary)"
            fillOpacity={0.35}
            maxBarSize={14}
            isAnimationActive={false}
          />
          <Line
            dataKey="average"
            type="linear"
            stroke="var(--color-base-content)"
            strokeWidth={2}
            dot={{ r: 2.5, fill: 'var(--color-base-content)', stroke: 'none' }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
