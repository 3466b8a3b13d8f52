import type { ConeView } from '@frustum/contract';

type Kind = ConeView['marks'][number]['kind'];

/** A found error: a calibration, a verification and a grab sample differ in shape. */
export function FoundShape({ cx, cy, kind, size = 4 }: { cx: number; cy: number; kind: Kind; size?: number }) {
  if (kind === 'calibration') return <circle cx={cx} cy={cy} r={size} fill="var(--color-base-content)" />;
  if (kind === 'verification') {
    return (
      <circle
        cx={cx}
        cy={cy}
        r={size - 0.4}
        fill="var(--color-base-100)"
        stroke="var(--color-base-content)"
        strokeWidth={1.8}
      />
    );
  }
  const d = size + 1;
  return (
    <path
      d={`M${cx} ${cy - d}l${d} ${d}-${d} ${d}-${d}-${d}z`}
      fill="var(--color-base-100)"
      stroke="var(--color-base-content)"
      strokeWidth={1.6}
    />
  );
}

/** An error beyond the picture: an arrow the way it lies, with its figure. */
export function BeyondShape({
  cx,
  cy,
  up,
  figure,
  side = 'before',
}: {
  cx: number;
  cy: number;
  up: boolean;
  figure: string;
  /** where the figure stands: before the arrow, or after it, where nothing has been found yet */
  side?: 'before' | 'after';
}) {
  const way = up ? -1 : 1;
  return (
    <>
      <path d={`M${cx - 5} ${cy - 3 * way}h10l-5 ${8 * way}z`} fill="var(--color-base-content)" />
      {figure && (
        <text
          x={side === 'before' ? cx - 8 : cx + 8}
          y={cy + 4}
          textAnchor={side === 'before' ? 'end' : 'start'}
          fontSize={12}
          fill="var(--color-base-content)"
          className="fig"
        >
          {figure}
        </text>
      )}
    </>
  );
}

/** Where the next run is due: a small trapezoid, its narrow side toward the past. */
export function DueShape({
  cx,
  cy,
  tone,
  size = 9,
}: {
  cx: number;
  cy: number;
  tone: 'inside' | 'edge' | 'out';
  size?: number;
}) {
  const fill = { inside: 'var(--color-primary)', edge: 'var(--color-warning)', out: 'var(--color-error)' }[tone];
  return <path d={`M${cx} ${cy - size / 3}v${(size * 2) / 3}l${size} ${size / 3}v-${(size * 4) / 3}z`} fill={fill} />;
}
