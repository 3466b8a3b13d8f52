import { ComposedChart, Line, ReferenceDot, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

export interface LinePoint {
  readonly ph: number;
  /** null: still to come */
  readonly mv: number | null;
}

/** The line growing point by point: what the channel believes (broad), what was found (dashed), the points. */
export default function LineChart({
  points,
  inForce,
  found,
}: {
  points: readonly LinePoint[];
  inForce: (ph: number) => number;
  found: ((ph: number) => number) | null;
}) {
  const phs = points.map((p) => p.ph);
  const low = Math.min(...phs) - 0.6;
  const high = Math.max(...phs) + 0.6;
  const data = [low, high].map((ph) => ({ ph, believed: inForce(ph), fitted: found?.(ph) }));
  const label = `Potential over pH: ${points.map((p) => `${fixed(p.ph, 2)} ${p.mv === null ? 'to come' : `${fixed(p.mv, 1)} mV`}`).join(', ')}`;
  return (
    <div className="h-[180px]" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 282, height: 180 }}>
        <ComposedChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="ph"
            type="number"
            domain={[low, high]}
            ticks={[...phs].sort((a, b) => a - b)}
            tickFormatter={(v: number) => fixed(v, 2)}
            tick={TICK}
            stroke="var(--color-secondary)"
          />
          <YAxis
            tickFormatter={(v: number) => fixed(v, 0)}
            tick={TICK}
            stroke="var(--color-secondary)"
            width={46}
            unit=""
            tickCount={4}
            domain={['auto', 'auto']}
          />
          <Line
            dataKey="believed"
            type="linear"
            stroke="var(--color-base-300)"
            strokeWidth={6}
            dot={false}
            isAnimationActive={false}
          />
          {found && (
            <Line
              dataKey="fitted"
              type="linear"
              stroke="var(--color-primary)"
              strokeDasharray="4 4"
              dot={false}
              isAnimationActive={false}
            />
          )}
          {points.map((p) =>
            p.mv === null ? (
              <ReferenceDot
                key={p.ph}
                x={p.ph}
                y={inForce(p.ph)}
                r={6}
                fill="none"
                stroke="var(--color-secondary)"
                strokeDasharray="3 2"
              />
            ) : (
              <ReferenceDot key={p.ph} x={p.ph} y={p.mv} r={5} fill="var(--color-base-content)" stroke="none" />
            ),
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
