import { ComposedChart, Line, ReferenceDot, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { inWords, shown, type SumCurve, type SumField } from '@frustum/core';
import { roundTicks, TICK } from './tick.ts';

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
      <div className="h-44" role="img" aria-label={label}>
        <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 560, height: 176 }}>
          <ComposedChart
            data={[...curve.points]}
            margin={{ top: 8, right: 12, bottom: 0, left: 0 }}
            accessibilityLayer={false}
          >
            <XAxis
              dataKey="x"
              type="number"
              domain={[x0, x1]}
              ticks={roundTicks(x0, x1)}
              tickFormatter={(v: number) => shown(v)}
              tick={TICK}
              stroke="var(--color-base-300)"
            />
            <YAxis
              domain={[low - pad, high + pad]}
              ticks={roundTicks(low - pad, high + pad)}
              tickFormatter={(v: number) => shown(v)}
              tick={TICK}
              stroke="var(--color-base-300)"
              width={62}
            />
            <Line
              dataKey="y"
              type="linear"
              stroke="var(--color-primary)"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
            {!outside && <ReferenceLine x={curve.here.x} stroke="var(--color-base-content)" strokeDasharray="2 3" />}
            {!outside && (
              <ReferenceDot x={curve.here.x} y={curve.here.y} r={6} fill="var(--color-base-content)" stroke="none" />
            )}
          </ComposedChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
