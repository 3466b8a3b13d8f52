import { ReferenceDot } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { AlongAxis, Course, Plot, ValueAxis } from './marks.tsx';

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
    <Plot label={label} className="h-[180px]" size={{ width: 282, height: 180 }} data={data} margin={{ right: 8 }}>
      <AlongAxis
        dataKey="value"
        domain={[low, high]}
        scale={log ? 'log' : 'linear'}
        ticks={[...values].sort((a, b) => a - b)}
        tickFormatter={print}
        stroke="var(--color-secondary)"
      />
      <ValueAxis
        stroke="var(--color-secondary)"
        width={Math.max(46, 10 + 9 * widest)}
        unit=""
        tickCount={4}
        domain={['auto', 'auto']}
      />
      <Course of="believed" ink="quiet" width={6} />
      {found && <Course of="fitted" dashes="4 4" />}
      {points.map((p) => (
        <ReferenceDot
          key={p.value}
          x={p.value}
          y={p.signal ?? inForce(p.value)}
          {...(p.signal === null ? TO_COME : HAD)}
        />
      ))}
    </Plot>
  );
}

const HAD = { r: 5, fill: 'var(--color-base-content)', stroke: 'none' };
const TO_COME = { r: 6, fill: 'none', stroke: 'var(--color-secondary)', strokeDasharray: '3 2' };
