import { requireFinite, requireWithin } from '../quantities/refusal.ts';

/** Larger than any figure of a chart. */
const MOST = 1e12;

/** One point of a control chart. */
export interface Charted {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  readonly out: boolean;
}

/**
 * Exponentially weighted moving average with its limits in the long run.
 *
 * @param series independent figures of one kind, such as standardised innovations
 * @param start average before the first one
 * @param sd standard deviation of a single figure
 * @param lambda weight of the newest, above 0, at most 1
 * @param k limits, in standard deviations of the average
 * @throws Refusal `out-of-range`
 * @example ewma([1, 1], 0, 1, 0.5)[1].value // 0.75
 * @see NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.4
 */
export function ewma(series: readonly number[], start: number, sd: number, lambda = 0.3, k = 3): readonly Charted[] {
  requireWithin(lambda, 1e-6, 1, 'weight of the newest', '', 'About 0.2 to 0.3 is usual.');
  requireWithin(sd, 0, 1e12, 'standard deviation', '', 'Give that of a single figure.');
  requireWithin(k, 0, 100, 'limit', 'standard deviations', 'Three are usual.');
  const half = k * sd * Math.sqrt(lambda / (2 - lambda));
  let value = requireFinite(start, 'average before the first one');
  return series.map((x) => {
    value =
      lambda * requireWithin(x, -MOST, MOST, 'figure of the series', '', 'A chart is made of figures.') +
      (1 - lambda) * value;
    return { value, low: start - half, high: start + half, out: Math.abs(value - start) > half };
  });
}

/** Sums of a CUSUM chart after one figure. */
export interface Summed {
  readonly upper: number;
  readonly lower: number;
  readonly out: boolean;
}

/**
 * Tabular CUSUM: what has gathered above and below a target beyond the slack.
 *
 * @param k slack, in the unit of the series: half of the shift that matters
 * @param h a sum above it signals
 * @throws Refusal `not-a-number`, `out-of-range`
 * @example cusum([1, 1, 1], 0, 0.5, 1)[2].upper // 1.5
 * @see NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.3
 */
export function cusum(series: readonly number[], target: number, k: number, h: number): readonly Summed[] {
  for (const [what, figure] of [['target', target], ['slack', k], ['bound', h]] as const) requireFinite(figure, what); // prettier-ignore
  let upper = 0;
  let lower = 0;
  return series.map((given) => {
    const x = requireWithin(given, -MOST, MOST, 'figure of the series', '', 'A chart is made of figures.');
    upper = Math.max(0, upper + x - target - k);
    lower = Math.max(0, lower + target - k - x);
    return { upper, lower, out: upper > h || lower > h };
  });
}
