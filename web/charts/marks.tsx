// What charts are composed of: the plot itself, its axes, and the few marks that mean the same everywhere.
import type { ComponentProps, ReactNode } from 'react';
import { Area, ComposedChart, Line, ReferenceArea, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { fixed } from '../format/numbers.ts';
import { TICK } from './tick.ts';

/** Colours by what they say. */
const INK = {
  sensor: 'var(--color-primary)',
  fact: 'var(--color-base-content)',
  rail: 'var(--color-secondary)',
  quiet: 'var(--color-base-300)',
  doubt: 'var(--color-warning)',
} as const;
type Ink = keyof typeof INK;

interface PlotProps {
  /** says in words what the picture shows */
  readonly label: string;
  /** its height */
  readonly className: string;
  /** px, before it is measured */
  readonly size: { readonly width: number; readonly height: number };
  readonly data?: readonly object[];
  /** px beyond the axes; the strip has none */
  readonly margin?: Partial<Record<'top' | 'right' | 'bottom' | 'left', number>>;
  readonly children: ReactNode;
}

const USUAL_MARGIN = { top: 8, right: 30, bottom: 0, left: 0 };

/** A picture with words for those who do not see it. */
export const Plot = ({ label, className, size, data, margin, children }: PlotProps) => (
  <div className={className} role="img" aria-label={label}>
    <ResponsiveContainer width="100%" height="100%" initialDimension={size}>
      <ComposedChart
        {...(data ? { data: [...data] } : {})}
        margin={{ ...USUAL_MARGIN, ...margin }}
        accessibilityLayer={false}
      >
        {children}
      </ComposedChart>
    </ResponsiveContainer>
  </div>
);

/** The axis of values, with so many digits. */
export const ValueAxis = ({ digits = 0, ...rest }: { digits?: number } & ComponentProps<typeof YAxis>) => (
  <YAxis type="number" tickFormatter={(v: number) => fixed(v, digits)} tick={TICK} stroke={INK.quiet} {...rest} />
);

/** The axis along the bottom; of moments with `timeAxis`. */
export const AlongAxis = (props: ComponentProps<typeof XAxis>) => (
  <XAxis type="number" tick={TICK} stroke={INK.quiet} {...props} />
);

/** A band between two figures of each point. */
export const Band = ({ of, share, ink = 'sensor' }: { of: string; share: number; ink?: Ink }) => (
  <Area
    dataKey={of}
    type="linear"
    stroke="none"
    fill={INK[ink]}
    fillOpacity={share}
    isAnimationActive={false}
    activeDot={false}
  />
);

/** A line through a figure of each point. */
export const Course = ({
  of,
  ink = 'sensor',
  width = 1,
  dashes,
  data,
}: {
  of: string;
  ink?: Ink;
  width?: number;
  dashes?: string;
  data?: readonly object[];
}) => (
  <Line
    {...(data ? { data: [...data] } : {})}
    dataKey={of}
    type="linear"
    stroke={INK[ink]}
    strokeWidth={width}
    strokeDasharray={dashes ?? '0'}
    dot={false}
    isAnimationActive={false}
    activeDot={false}
  />
);

/** Rails: lines that a value should keep between. */
export const Rails = ({ at, ink = 'rail' }: { at: readonly number[]; ink?: Ink }) =>
  at.map((y) => <ReferenceLine key={y} y={y} stroke={INK[ink]} strokeWidth={1} ifOverflow="hidden" />);

/** A moment or a value of the axis along the bottom: now, or where something stands. */
export const Here = ({ x, label }: { x: number; label?: string }) => (
  <ReferenceLine
    x={x}
    stroke={INK.fact}
    strokeDasharray="2 3"
    label={label ? { value: label, position: 'insideTopRight', fill: INK.rail, fontSize: 13 } : undefined}
  />
);

/** Times that are marked from top to bottom. */
export const Shaded = ({ from, to }: { from: number; to: number }) => (
  <ReferenceArea x1={from} x2={to} fill={INK.doubt} fillOpacity={0.16} stroke="none" />
);
