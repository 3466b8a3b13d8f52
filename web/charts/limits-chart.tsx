import { AlongAxis, Band, Course, Plot, ValueAxis } from './marks.tsx';
import { roundTicks, timeAxis } from './tick.ts';

/** A stretch of readings, with the limits that held at its hour. */
export interface LimitPoint {
  readonly t: number;
  readonly spread: readonly [number, number];
  readonly mean: number;
  readonly warnLow: number | null;
  readonly warnHigh: number | null;
  readonly actLow: number | null;
  readonly actHigh: number | null;
}

/** Two weeks of readings between the lines that would call somebody: thin to warn, broad to act. */
export default function LimitsChart({
  points,
  digits,
  label,
}: {
  points: readonly LimitPoint[];
  digits: number;
  label: string;
}) {
  const all = points.flatMap((p) =>
    [...p.spread, p.warnLow, p.warnHigh, p.actLow, p.actHigh].filter((v): v is number => v !== null),
  );
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const pad = Math.max(2 * 10 ** -digits, (high - low) * 0.12);
  const domain = [points[0]!.t, points.at(-1)!.t];
  return (
    <Plot label={label} className="h-40" size={{ width: 640, height: 160 }} data={points}>
      <AlongAxis dataKey="t" domain={domain} {...timeAxis(domain[0]!, domain[1]!)} />
      <ValueAxis
        domain={[low - pad, high + pad]}
        ticks={roundTicks(low - pad, high + pad)}
        allowDataOverflow
        digits={digits}
        width={64}
      />
      <Band of="spread" share={0.25} />
      <Course of="mean" width={1.5} />
      <Course of="warnLow" ink="doubt" width={1.5} dashes="6 4" />
      <Course of="warnHigh" ink="doubt" width={1.5} dashes="6 4" />
      <Course of="actLow" ink="fact" width={2} />
      <Course of="actHigh" ink="fact" width={2} />
    </Plot>
  );
}
