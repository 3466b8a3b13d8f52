import { Refusal, requireFinite, requireWithin } from '../quantities/refusal.ts';

/** Larger than anything that a transmitter shows, in any unit. */
const MOST = 1e12;

/** One simulated point: what was applied, and what the transmitter showed before and after adjusting. */
export interface SpanPoint {
  readonly label: string;
  /** may this point be adjusted, or is it only looked at? */
  readonly use: 'adjust' | 'verify';
  readonly applied: number;
  readonly asFound: number | null;
  readonly asLeft: number | null;
}

interface SpanError {
  /** shown − applied, in the unit of the span */
  readonly error: number;
  readonly percentOfSpan: number;
  readonly inside: boolean;
}

export interface SpanRow extends SpanPoint {
  readonly found: SpanError | null;
  readonly left: SpanError | null;
}

export interface SpanTable {
  readonly rows: readonly SpanRow[];
  /** largest error of either look, % of span; null when nothing was read yet */
  readonly worstFound: number | null;
  readonly worstLeft: number | null;
}

/**
 * As found and as left at each simulated point, in % of span.
 *
 * @param span width of the transmitter's range in the unit of the points, not 0
 * @param limitPercent what the plan allows, % of span, above 0
 * @throws Refusal `no-span`, `limit-not-positive`, `not-a-number`
 * @example spanTable([{ label: 'low', use: 'adjust', applied: 2, asFound: 2.1, asLeft: 2 }], 20, 1).worstFound // 0.5
 */
export function spanTable(points: readonly SpanPoint[], span: number, limitPercent: number): SpanTable {
  requireFinite(span, 'span');
  requireFinite(limitPercent, 'limit');
  requireWithin(Math.abs(span), 0, MOST, 'span', '', 'Enter the width of the range.');
  if (Math.abs(span) < 1 / MOST)
    throw new Refusal('no-span', 'A span of 0 has no percent. Enter the width of the range.', { span });
  if (!(limitPercent > 0)) {
    throw new Refusal('limit-not-positive', `A limit of ${limitPercent} % lets nothing pass. Enter one above 0.`, {
      value: limitPercent,
    });
  }
  const width = Math.abs(span);
  const errorOf = (point: SpanPoint, shown: number | null): SpanError | null => {
    if (shown === null) return null;
    const within = (value: number, what: string) =>
      requireWithin(value, -MOST, MOST, what, '', 'Check figure and unit.');
    const error = within(shown, `reading at ${point.label}`) - within(point.applied, point.label);
    const percentOfSpan = (100 * error) / width;
    // A limit that is met exactly is met: 0.1 + 0.2 must not fail a point.
    return { error, percentOfSpan, inside: Math.abs(percentOfSpan) <= limitPercent * (1 + 1e-9) };
  };
  const rows = points.map((p) => ({ ...p, found: errorOf(p, p.asFound), left: errorOf(p, p.asLeft) }));
  return { rows, worstFound: worst(rows.map((r) => r.found)), worstLeft: worst(rows.map((r) => r.left)) };
}

function worst(errors: readonly (SpanError | null)[]): number | null {
  const read = errors.filter((e) => e !== null);
  if (read.length === 0) return null;
  return read.reduce((a, e) => (Math.abs(e.percentOfSpan) > Math.abs(a) ? e.percentOfSpan : a), 0);
}
