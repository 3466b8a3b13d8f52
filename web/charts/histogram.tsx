import { Area, YAxis } from 'recharts';
import { shown, type MonteCarlo } from '@frustum/core';
import { AlongAxis, Here, Plot } from './marks.tsx';

/** Where the draws fell: counts as steps, the middle 95 % between two lines. */
export default function Histogram({
  result,
  unit,
  as,
}: {
  result: MonteCarlo;
  unit: string;
  /** a value in that unit */
  as: (value: number) => number;
}) {
  const { from, width, counts } = result.histogram;
  const data = counts.map((count, i) => ({ x: as(from + (i + 0.5) * width), count }));
  const [mean, ...ends] = [result.mean, result.low, result.high].map(as) as [number, number, number];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const digits = Math.max(0, 1 - Math.floor(Math.log10(high - low || 1)));
  const label = `${result.draws} draws: 95 % between ${shown(low, digits)} and ${shown(high, digits)} ${unit}`;
  return (
    <Plot
      label={label}
      className="h-28"
      size={{ width: 520, height: 112 }}
      data={data}
      margin={{ top: 4, right: 16, left: 16 }}
    >
      <AlongAxis
        dataKey="x"
        domain={['dataMin', 'dataMax']}
        ticks={[low, mean, high]}
        tickFormatter={(v: number) => shown(v, digits)}
        stroke="var(--color-secondary)"
      />
      <YAxis hide domain={[0, 'dataMax']} />
      <Area
        dataKey="count"
        type="step"
        stroke="var(--color-primary)"
        fill="var(--color-primary)"
        fillOpacity={0.25}
        isAnimationActive={false}
      />
      <Here x={low} />
      <Here x={high} />
    </Plot>
  );
}
