import { ComposedChart, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { ConeView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { TICK, timeAxis } from './tick.ts';

export interface Compared {
  readonly name: string;
  readonly cone: ConeView;
  readonly tolerance: number;
}

/** Expected error of one sensor, percent of its tolerance, with a break at each run. */
export function courseOf({ cone, tolerance }: Compared, fromMs: number): { t: number; share: number | null }[] {
  return cone.segments
    .filter((s) => s.toMs >= fromMs)
    .flatMap((s) => [
      ...s.points
        .filter(([ms]) => ms >= fromMs)
        .map(([t, mean]): { t: number; share: number | null } => ({ t, share: (100 * mean) / tolerance })),
      { t: s.toMs, share: null },
    ]);
}

/** Two sensors on one axis of time, each in percent of its own tolerance: this one drawn through, the other one broken. */
export default function CompareChart({
  mine,
  other,
  fromMs,
  nowMs,
  label,
}: {
  mine: Compared;
  other: Compared;
  fromMs: number;
  nowMs: number;
  label: string;
}) {
  const lines = [mine, other].map((c) => courseOf(c, fromMs));
  const far = Math.max(110, ...lines.flat().map((p) => Math.abs(p.share ?? 0)));
  return (
    <div className="h-52" role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 900, height: 208 }}>
        <ComposedChart margin={{ top: 8, right: 44, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis dataKey="t" domain={[fromMs, nowMs]} allowDataOverflow {...timeAxis(fromMs, nowMs)} />
          <YAxis
            domain={[-far, far]}
            ticks={[-100, 0, 100]}
            tickFormatter={(v: number) => `${fixed(v, 0)} %`}
            tick={TICK}
            stroke="var(--color-base-300)"
            width={64}
          />
          {[-100, 100].map((y) => (
            <ReferenceLine key={y} y={y} stroke="var(--color-secondary)" />
          ))}
          <ReferenceLine y={0} stroke="var(--color-base-300)" />
          {lines.map((data, i) => (
            <Line
              key={i}
              data={data}
              dataKey="share"
              type="linear"
              stroke={i ? 'var(--color-base-content)' : 'var(--color-primary)'}
              strokeWidth={2}
              strokeDasharray={i ? '5 4' : '0'}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
