import { ComposedChart, Line, ReferenceDot, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

export interface LinePoint {
  readonly value: number;
  /** null: still to come */
  readonly signal: number | null;
}

/** The line growing point by point: what the channel believes (broad), what was found (dashed), the points. */
export default function LineChart({
  points,
  inForce,
  found,
  signalUnit,
}: {
  points: readonly LinePoint[];
  inForce: (value: number) => number;
  found: ((value: number) => number) | null;
  signalUnit: string;
}) {
  const values = points.map((p) => p.value);
  // A fifth of the span beyond both ends: 0.6 pH for 7 and 4.
  const pad = 0.2 * (Math.max(...values) - Math.min(...values)) || 0.6;
  const low = Math.min(...values) - pad;
  const high = Math.max(...values) + pad;
  const data = [low, high].map((value) => ({ value, believed: inForce(value), fitted: found?.(value) }));
  const label = `Signal over value: ${points.map((p) => `${fixed(p.value, 2)} ${p.signal === null ? 'to come' : `${fixed(p.signal, 1)} ${signalUnit}`}`).join(', ')}`;
  return (
    <div className="h-[180px]" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 282, height: 180 }}>
        <ComposedChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="value"
            type="number"
            domain={[low, high]}
            ticks={[...values].sort((a, b) => a - b)}
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
            p.signal === null ? (
              <ReferenceDot
                key={p.value}
                x={p.value}
                y={inForce(p.value)}
                r={6}
                fill="none"
                stroke="var(--color-secondary)"
                strokeDasharray="3 2"
              />
            ) : (
              <ReferenceDot
                key={p.value}
                x={p.value}
                y={p.signal}
                r={5}
                fill="var(--color-base-content)"
                stroke="none"
              />
            ),
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
