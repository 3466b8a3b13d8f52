import { ComposedChart, Line, ReferenceDot, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

interface LinePoint {
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
  print,
  log = false,
}: {
  points: readonly LinePoint[];
  inForce: (value: number) => number;
  found: ((value: number) => number) | null;
  signalUnit: string;
  /** a value as it is written elsewhere */
  print: (value: number) => string;
  /** values by their decades, as for ions: the line is straight there */
  log?: boolean;
}) {
  const values = points.map((p) => p.value);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  // A fifth of the span beyond both ends: 0.6 pH for 7 and 4.
  const pad = 0.2 * (most - least) || 0.1 * Math.abs(least) || 0.6;
  const low = log ? least / 1.6 : least - pad;
  const high = log ? most * 1.6 : most + pad;
  const data = [low, high].map((value) => ({ value, believed: inForce(value), fitted: found?.(value) }));
  const widest = Math.max(...data.map((d) => fixed(1.2 * Math.max(Math.abs(d.believed), 1), 0).length));
  const label = `Signal over value: ${points.map((p) => `${print(p.value)} ${p.signal === null ? 'to come' : `${fixed(p.signal, 1)} ${signalUnit}`}`).join(', ')}`;
  return (
    <div className="h-[180px]" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 282, height: 180 }}>
        <ComposedChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="value"
            type="number"
            domain={[low, high]}
            scale={log ? 'log' : 'linear'}
            ticks={[...values].sort((a, b) => a - b)}
            tickFormatter={print}
            tick={TICK}
            stroke="var(--color-secondary)"
          />
          <YAxis
            tickFormatter={(v: number) => fixed(v, 0)}
            tick={TICK}
            stroke="var(--color-secondary)"
            width={Math.max(46, 10 + 9 * widest)}
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
