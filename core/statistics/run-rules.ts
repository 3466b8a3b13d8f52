/** A rule by which a run of points speaks, though none of them is beyond the limits. */
export interface RunRule {
  readonly id: 'one beyond 3' | '2 of 3 beyond 2' | '4 of 5 beyond 1' | '8 on one side';
  /** in standard deviations */
  readonly beyond: number;
  readonly of: number;
  readonly atLeast: number;
}

/** Western Electric (1956), as in NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2. */
export const RUN_RULES: readonly RunRule[] = [
  { id: 'one beyond 3', beyond: 3, of: 1, atLeast: 1 },
  { id: '2 of 3 beyond 2', beyond: 2, of: 3, atLeast: 2 },
  { id: '4 of 5 beyond 1', beyond: 1, of: 5, atLeast: 4 },
  { id: '8 on one side', beyond: 0, of: 8, atLeast: 8 },
];

/**
 * Which rules speak at each figure of a series: the figure itself, and those before it, on one side of nothing.
 *
 * @param series independent figures with standard deviation 1, such as standardised innovations
 * @returns for each figure the ids of the rules that it completes
 * @example runRules([2.1, 0.3, 2.4])[2][0] // '2 of 3 beyond 2'
 * @see NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2
 */
export const runRules = (series: readonly number[]): readonly (readonly RunRule['id'][])[] =>
  series.map((_, i) =>
    RUN_RULES.filter(({ beyond, of, atLeast }) => {
      const last = series.slice(Math.max(0, i - of + 1), i + 1);
      const here = series[i]!;
      return [1, -1].some((side) => side * here > beyond && last.filter((x) => side * x > beyond).length >= atLeast);
    }).map(({ id }) => id),
  );
