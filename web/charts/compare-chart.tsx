import type { ConeView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { AlongAxis, Course, Plot, Rails, ValueAxis } from './marks.tsx';
import { timeAxis } from './tick.ts';

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
    <Plot label={label} className="h-52" size={{ width: 900, height: 208 }} margin={{ right: 44 }}>
      <AlongAxis dataKey="t" domain={[fromMs, nowMs]} allowDataOverflow {...timeAxis(fromMs, nowMs)} />
      <ValueAxis
        domain={[-far, far]}
        ticks={[-100, 0, 100]}
        tickFormatter={(v: number) => `${fixed(v, 0)} %`}
        width={64}
      />
      <Rails at={[-100, 100]} />
      <Rails at={[0]} ink="quiet" />
      <Course of="share" data={lines[0]} width={2} />
      <Course of="share" data={lines[1]} width={2} ink="fact" dashes="5 4" />
    </Plot>
  );
}
