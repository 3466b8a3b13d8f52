import { Area, YAxis } from 'recharts';
import { shown, type MonteCarlo } from '@frustum/core';
import { AlongAxis, Here, Plot } from './marks.tsx';

/** Where the draws fell: counts as steps, the middle 95 % between two lines. */
export default function Histogram({ result, unit }: { result: MonteCarlo; unit: string }) {
  const { from, width, counts } = result.histogram;
  const data = counts.map((count, i) => ({ x: from + (i + 0.5) * width, count }));
  const digits = Math.max(0, 1 - Math.floor(Math.log10(result.high - result.low || 1)));
  const label = `${result.draws} draws: 95 % between ${shown(result.low, digits)} and ${shown(result.high, digits)} ${unit}`;
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
        ticks={[result.low, result.mean, result.high]}
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
      <Here x={result.low} />
      <Here x={result.high} />
    </Plot>
  );
}
