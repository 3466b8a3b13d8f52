import { format } from 'date-fns';
import { Bar, Line, XAxis } from 'recharts';
import { Plot, Rails, ValueAxis } from './marks.tsx';
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
    <Plot label={label} className="h-48" size={{ width: 500, height: 192 }} data={points}>
      <XAxis
        dataKey="t"
        tickFormatter={(t: number) => format(t, 'd MMM yy')}
        tick={TICK}
        stroke="var(--color-base-300)"
        minTickGap={50}
      />
      <ValueAxis domain={[-far, far]} ticks={[-3, 0, 3]} width={40} />
      <Rails at={[0]} ink="quiet" />
      <Rails at={[-limit, limit]} />
      <Bar dataKey="value" fill="var(--color-primary)" fillOpacity={0.35} maxBarSize={14} isAnimationActive={false} />
      <Line
        dataKey="average"
        type="linear"
        stroke="var(--color-base-content)"
        strokeWidth={2}
        dot={{ r: 2.5, fill: 'var(--color-base-content)', stroke: 'none' }}
        isAnimationActive={false}
      />
    </Plot>
  );
}
