import { Fragment, memo } from 'react';
import { ReferenceDot } from 'recharts';
import type { MarginState } from '@frustum/core';
import type { ConeView } from '@frustum/contract';
import { fixed } from '../format/numbers.ts';
import { conePoints } from './cone-data.ts';
import { BeyondShape, DueShape, FoundShape } from './found-mark.tsx';
import { AlongAxis, Band, Course, Here, Plot, Rails, Shaded, ValueAxis } from './marks.tsx';
import { timeAxis } from './tick.ts';

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

const NO_MARGIN = { top: 0, right: 0 };
const FULL_MARGIN = { right: 40, bottom: 4 };

/** The one picture: error over time as bands between the rails, found errors as marks, now as a line, due as a trapezoid. */
function ConeChart(props: ConeChartProps) {
  const { cone, tolerance, nowMs, fromMs, toMs, variant, digits = 2, shaded = NO_TIMES, label } = props;
  const full = variant === 'full';
  const reach = tolerance * HEADROOM[variant];
  return (
    <Plot
      label={label}
      className={full ? 'h-80' : 'h-[60px]'}
      size={{ width: 520, height: full ? 320 : 60 }}
      data={conePoints(cone, fromMs, toMs)}
      margin={full ? FULL_MARGIN : NO_MARGIN}
    >
      <AlongAxis dataKey="t" domain={[fromMs, toMs]} allowDataOverflow hide={!full} {...timeAxis(fromMs, toMs)} />
      <ValueAxis
        domain={[-reach, reach]}
        allowDataOverflow
        hide={!full}
        width={64}
        ticks={[-tolerance, 0, tolerance]}
        digits={digits}
      />
      {shaded.map((s) => (
        <Shaded key={s.fromMs} from={Math.max(s.fromMs, fromMs)} to={Math.min(s.toMs, toMs)} />
      ))}
      <Rails at={[tolerance, -tolerance]} />
      <Rails at={[0]} ink="quiet" />
      <Band of="wide" share={0.14} />
      <Band of="half" share={0.3} />
      {full && <Course of="mean" width={1.5} />}
      <Ways {...props} />
      <Here x={nowMs} label={full ? 'now' : ''} />
      <FoundMarks {...props} />
      <DueMark {...props} />
    </Plot>
  );
}

/** Where it is in one place or in another, each is drawn, the likelier the darker. */
function Ways({ cone: { apart = [] }, variant }: ConeChartProps) {
  return apart.map(({ name, chance }, i) => (
    <Fragment key={name ?? ''}>
      <Band of={`ways[${i}].band`} share={0.1 + 0.3 * chance} />
      <Course of={`ways[${i}].mean`} width={variant === 'full' ? 1.5 : 1} {...(i ? { dashes: '4 3' } : {})} />
    </Fragment>
  ));
}

/** Where a mark of Recharts stands on the screen. */
interface Placed {
  readonly cx?: number;
  readonly cy?: number;
}

/** What each run found, and where the cone is now when that lies beyond the picture. */
function FoundMarks({ cone, tolerance, nowMs, fromMs, toMs, variant, digits = 2 }: ConeChartProps) {
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
  return (
    <>
      {marks.map((m) => (
        <ReferenceDot
          key={m.atMs}
          x={m.atMs}
          y={isBeyond(m.error) ? edge(m.error) : m.error}
          r={4}
          shape={({ cx = 0, cy = 0 }: Placed) =>
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
          shape={({ cx = 0, cy = 0 }: Placed) => (
            <BeyondShape cx={cx} cy={cy} up={beyondNow > 0} figure={fixed(beyondNow, digits)} side="after" />
          )}
        />
      )}
    </>
  );
}

/** When the next run is due; at the end of the picture where that is later. */
function DueMark({ dueMs, nowMs, fromMs, toMs, state }: ConeChartProps) {
  if (dueMs === null || dueMs < fromMs) return null;
  const tone = state === 'outside' || dueMs < nowMs ? 'out' : state === 'near the edge' ? 'edge' : 'inside';
  return (
    <ReferenceDot
      x={Math.min(dueMs, toMs)}
      y={0}
      r={4}
      shape={({ cx = 0, cy = 0 }: Placed) => <DueShape cx={cx - (dueMs > toMs ? 9 : 0)} cy={cy} tone={tone} />}
    />
  );
}

/** Drawn anew only when what it shows has changed: pages are told of every change of the house. */
export default memo(ConeChart);
