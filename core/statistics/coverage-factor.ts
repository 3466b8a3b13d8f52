/** Coverage factors for 95.45 % by degrees of freedom: JCGM 100:2008, table G.2. */
const TABLE: readonly (readonly [dof: number, k: number])[] = [
  [1, 13.97],
  [2, 4.53],
  [3, 3.31],
  [4, 2.87],
  [5, 2.65],
  [6, 2.52],
  [7, 2.43],
  [8, 2.37],
  [9, 2.32],
  [10, 2.28],
  [11, 2.25],
  [12, 2.23],
  [13, 2.21],
  [14, 2.2],
  [15, 2.18],
  [16, 2.17],
  [17, 2.16],
  [18, 2.15],
  [19, 2.14],
  [20, 2.13],
  [25, 2.11],
  [30, 2.09],
  [35, 2.07],
  [40, 2.06],
  [45, 2.06],
  [50, 2.05],
  [100, 2.025],
];

/**
 * Factor that turns a combined standard uncertainty into one that covers about 95 %.
 *
 * @param degreesOfFreedom effective, above 0; not tabulated ones take the next lower row (JCGM 100, G.4.1)
 * @example coverageFactor(Infinity) // 2
 * @example coverageFactor(4.9) // 2.87
 */
export function coverageFactor(degreesOfFreedom: number): number {
  if (degreesOfFreedom === Infinity || !(degreesOfFreedom <= 1e6)) return 2;
  let k = TABLE[0]![1];
  for (const [dof, factor] of TABLE) if (degreesOfFreedom >= dof) k = factor;
  return k;
}

/**
 * Effective degrees of freedom of a sum of contributions: Welch and Satterthwaite, JCGM 100:2008, G.2b.
 *
 * @param rows each contribution u_i and its degrees of freedom, Infinity for one that is known well
 * @returns Infinity when none of them is limited
 * @example effectiveFreedom([{ uncertainty: 1, degreesOfFreedom: 4 }, { uncertainty: 1, degreesOfFreedom: Infinity }]) // 16
 */
export function effectiveFreedom(
  rows: readonly { readonly uncertainty: number; readonly degreesOfFreedom: number }[],
): number {
  const variance = rows.reduce((s, r) => s + r.uncertainty ** 2, 0);
  // What adds nothing limits nothing, whatever it rests on.
  const below = rows.reduce((s, r) => s + (r.uncertainty === 0 ? 0 : r.uncertainty ** 4 / r.degreesOfFreedom), 0);
  return below > 0 ? variance ** 2 / below : Infinity;
}
