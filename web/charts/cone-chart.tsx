import { memo } from 'react';
import {
  Area,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { MarginState } from '@frustum/core';
import type { ConeView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { conePoints } from './cone-data.ts';
import { BeyondShape, DueShape, FoundShape } from './found-mark.tsx';
import { TICK, timeAxis } from './tick.ts';

interface ConeChartProps {
  readonly cone: ConeView;
  readonly tolerance: number;
  readonly nowMs: number;
  readonly dueMs: number | null;
  readonly state: MarginState;
  readonly fromMs: number;
  readonly toMs: number;
  /** strip: a row's thin picture without axes; full: with axes and the middle line */
  readonly variant: 'strip' | 'full';
  /** digits of the axis, and of what lies beyond it */
  readonly digits?: number;
  /** times in which it was probably outside */
  readonly shaded?: readonly { readonly fromMs: number; readonly toMs: number }[];
  /** says in words what the picture shows */
  readonly label: string;
}

const NO_TIMES: NonNullable<ConeChartProps['shaded']> = [];

/** Room beyond the rails, as a share of the tolerance. */
const HEADROOM = { strip: 1.55, full: 1.8 };

/** The one picture: error over time as bands between the rails, found errors as marks, now as a line, due as a trapezoid. */
function ConeChart({
  cone,
  tolerance,
  nowMs,
  dueMs,
  state,
  fromMs,
  toMs,
  variant,
  digits = 2,
  shaded = NO_TIMES,
  label,
}: ConeChartProps) {
  const full = variant === 'full';
  const reach = tolerance * HEADROOM[variant];
  const marks = cone.marks.filter((m) => m.atMs >= fromMs && m.atMs <= toMs);
  // What lies beyond the picture is an arrow near its edge, with its figure.
  const isBeyond = (error: number) => Math.abs(error) > reach;
  const edge = (error: number) => Math.sign(error) * reach * (full ? 0.94 : 0.78);
  const current = cone.segments.findLast((s) => s.fromMs <= nowMs)?.points.findLast(([ms]) => ms <= nowMs);
  const beyondNow = current && isBeyond(current[1]) ? current[1] : null;
  const last = marks.findLast((m) => isBeyond(m.error));
  const figureOf = (m: (typeof marks)[number]) =>
    full || (m === last && beyondNow === null) ? fixed(m.error, digits) : '';
  const tone =
    state === 'outside' || (dueMs !== null && dueMs < nowMs) ? 'out' : state === 'near the edge' ? 'edge' : 'inside';
  const rail = { stroke: 'var(--color-secondary)', strokeWidth: 1, ifOverflow: 'hidden' as const };
  return (
    <div className={full ? 'h-80' : 'h-[60px]'} role="img" aria-label={label}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 520, height: full ? 320 : 60 }}>
        <ComposedChart
          data={conePoints(cone, fromMs, toMs)}
          margin={full ? { top: 8, right: 40, bottom: 4, left: 0 } : { top: 0, right: 0, bottom: 0, left: 0 }}
          accessibilityLayer={false}
        >
          <XAxis dataKey="t" domain={[fromMs, toMs]} allowDataOverflow hide={!full} {...timeAxis(fromMs, toMs)} />
          <YAxis
            type="number"
            domain={[-reach, reach]}
            allowDataOverflow
            hide={!full}
            width={64}
            ticks={[-tolerance, 0, tolerance]}
            tickFormatter={(v: number) => fixed(v, digits)}
            tick={TICK}
            stroke="var(--color-base-300)"
          />
          {shaded.map((s) => (
            <ReferenceArea
              key={s.fromMs}
              x1={Math.max(s.fromMs, fromMs)}
              x2={Math.min(s.toMs, toMs)}
              fill="var(--color-warning)"
              fillOpacity={0.16}
              stroke="none"
            />
          ))}
          <ReferenceLine y={tolerance} {...rail} />
          <ReferenceLine y={-tolerance} {...rail} />
          <ReferenceLine y={0} {...rail} stroke="var(--color-base-300)" />
          <Area
            dataKey="wide"
            type="linear"
            stroke="none"
            fill="var(--color-primary)"
            fillOpacity={0.14}
            isAnimationActive={false}
            activeDot={false}
          />
          <Area
            dataKey="half"
            type="linear"
            stroke="none"
            fill="var(--color-primary)"
            fillOpacity={0.3}
            isAnimationActive={false}
            activeDot={false}
          />
          {full && (
            <Line
              dataKey="mean"
              type="linear"
              stroke="var(--color-primary)"
              strokeWidth={1.5}
              dot={false}
              isAnimationActive={false}
              activeDot={false}
            />
          )}
          <ReferenceLine
            x={nowMs}
            stroke="var(--color-base-content)"
            strokeDasharray="2 3"
            label={
              full
                ? { value: 'now', position: 'insideTopRight', fill: 'var(--color-secondary)', fontSize: 13 }
                : undefined
            }
          />
          {marks.map((m) => (
            <ReferenceDot
              key={m.atMs}
              x={m.atMs}
              y={isBeyond(m.error) ? edge(m.error) : m.error}
              r={4}
              shape={({ cx = 0, cy = 0 }: { cx?: number; cy?: number }) =>
                isBeyond(m.error) ? (
                  <BeyondShape cx={cx} cy={cy} up={m.error > 0} figure={figureOf(m)} />
                ) : (
                  <FoundShape cx={cx} cy={cy} kind={m.kind} size={full ? 5 : 4} />
                )
              }
            />
          ))}
          {beyondNow !== null && (
            <ReferenceDot
              x={nowMs}
              y={edge(beyondNow)}
              r={4}
              shape={({ cx = 0, cy = 0 }: { cx?: number; cy?: number }) => (
                <BeyondShape cx={cx} cy={cy} up={beyondNow > 0} figure={fixed(beyondNow, digits)} side="after" />
              )}
            />
          )}
          {dueMs !== null && dueMs >= fromMs && (
            <ReferenceDot
              x={Math.min(dueMs, toMs)}
              y={0}
              r={4}
              shape={({ cx = 0, cy = 0 }: { cx?: number; cy?: number }) => (
                <DueShape cx={cx - (dueMs > toMs ? 9 : 0)} cy={cy} tone={tone} />
              )}
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}

/** Drawn anew only when what it shows has changed: pages are told of every change of the house. */
export default memo(ConeChart);
