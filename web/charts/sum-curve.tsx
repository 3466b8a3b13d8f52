import { ReferenceDot } from 'recharts';
import { inWords, shown, type SumCurve, type SumField } from '@frustum/core';
import { AlongAxis, Course, Here, Plot, ValueAxis } from './marks.tsx';
import { roundTicks } from './tick.ts';

/** "temperature, °C"; the name alone where it is the unit already. */
const axisName = ({ name, unit }: SumField) => {
  const word = name.startsWith('pH') ? name : name.charAt(0).toLowerCase() + name.slice(1);
  return unit && unit !== name ? `${word}, ${unit}` : word;
};

/** A sum over its whole validity: the curve ends where the sum refuses; the point is where it stands now. */
export default function SumCurveChart({ curve }: { curve: SumCurve }) {
  const ys = curve.points.flatMap((p) => (p.y === null ? [] : [p.y]));
  const low = Math.min(...ys, curve.here.y);
  const high = Math.max(...ys, curve.here.y);
  const pad = (high - low || Math.abs(high) || 1) * 0.08;
  const x0 = curve.points[0]!.x;
  const x1 = curve.points.at(-1)!.x;
  const label = `${curve.of.name} over ${axisName({ ...curve.along, unit: '' })}, ${shown(x0)} to ${inWords({ ...curve.along, decimals: undefined }, x1)}; here ${inWords(curve.of, curve.here.y)} at ${inWords(curve.along, curve.here.x)}`;
  const outside = curve.here.x < x0 || curve.here.x > x1;
  return (
    <figure>
      <figcaption className="sub text-sm flex justify-between">
        <span>{axisName(curve.of)}</span>
        <span>over {axisName(curve.along)}</span>
      </figcaption>
      <Plot
        label={label}
        className="h-44"
        size={{ width: 560, height: 176 }}
        data={curve.points}
        margin={{ right: 12 }}
      >
        <AlongAxis dataKey="x" domain={[x0, x1]} ticks={roundTicks(x0, x1)} tickFormatter={(v: number) => shown(v)} />
        <ValueAxis
          domain={[low - pad, high + pad]}
          ticks={roundTicks(low - pad, high + pad)}
          tickFormatter={(v: number) => shown(v)}
          width={62}
        />
        <Course of="y" width={2} />
        {!outside && <Here x={curve.here.x} />}
        {!outside && (
          <ReferenceDot x={curve.here.x} y={curve.here.y} r={6} fill="var(--color-base-content)" stroke="none" />
        )}
      </Plot>
    </figure>
  );
}
