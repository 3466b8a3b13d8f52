import { ErrorBar, Line, ReferenceLine } from 'recharts';
import { AlongAxis, Band, Plot, Rails, ValueAxis } from './marks.tsx';
import { timeAxis } from './tick.ts';

/** One parameter as a run found it, with its ±, and where all runs together place it. */
export interface TrendPoint {
  readonly t: number;
  readonly value: number;
  readonly spread: number;
  readonly band: readonly [number, number];
}

/**
 * One parameter of a sensor over all runs, each with its ±, on the band in which all runs together place it, between the
 * limits of practice. What was done to the sensor is a line across.
 */
export default function TrendChart({
  points,
  limits,
  digits,
  marks,
  label,
}: {
  points: readonly TrendPoint[];
  /** null where practice has none */
  limits: readonly [number, number] | null;
  digits: number;
  /** services and jumps */
  marks: readonly { readonly t: number; readonly dashed: boolean }[];
  label: string;
}) {
  const values = points.flatMap((p) => [p.value, ...p.band]);
  const low = Math.min(...(limits ?? []), ...values);
  const high = Math.max(...(limits ?? []), ...values);
  const pad = (high - low) * 0.08 || 1;
  // One standard alone hardly says which of the two it was: such a ± ends at the edge, and does not flatten all else.
  const whisker = ({ value, spread }: TrendPoint): [number, number] => [
    Math.max(0, Math.min(spread, value - low + pad)),
    Math.max(0, Math.min(spread, high + pad - value)),
  ];
  const drawn = points.map((p) => ({ ...p, whisker: whisker(p) }));
  return (
    <Plot label={label} className="h-52" size={{ width: 500, height: 208 }} data={drawn}>
      <AlongAxis
        dataKey="t"
        domain={['dataMin', 'dataMax']}
        padding={{ left: 8, right: 8 }}
        {...timeAxis(points[0]!.t, points.at(-1)!.t)}
      />
      <ValueAxis
        domain={[low - pad, high + pad]}
        ticks={limits ? [limits[0], (limits[0] + limits[1]) / 2, limits[1]] : [low, high]}
        digits={digits}
        width={52}
      />
      <Rails at={limits ?? []} />
      {marks.map((m) => (
        <ReferenceLine
          key={`${m.t}/${String(m.dashed)}`}
          x={m.t}
          stroke="var(--color-base-content)"
          strokeOpacity={0.45}
          strokeDasharray={m.dashed ? '3 3' : undefined}
          ifOverflow="hidden"
        />
      ))}
      <Band of="band" share={0.22} />
      <Line
        dataKey="value"
        type="linear"
        stroke="none"
        dot={{ r: 3, fill: 'var(--color-base-content)', stroke: 'none' }}
        isAnimationActive={false}
      >
        <ErrorBar dataKey="whisker" width={0} stroke="var(--color-primary)" strokeOpacity={0.5} />
      </Line>
    </Plot>
  );
}
