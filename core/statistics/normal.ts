/**
 * Standard normal cumulative distribution, by the complementary error function
 * of Press et al., Numerical Recipes (2nd ed., 6.2: relative error below 1.2e-7).
 *
 * @example normalCdf(1.959964) // 0.975
 */
export function normalCdf(z: number): number {
  const x = Math.abs(z) / Math.SQRT2;
  const t = 1 / (1 + x / 2);
  const poly =
    -1.26551223 +
    t *
      (1.00002368 +
        t *
          (0.37409196 +
            t *
              (0.09678418 +
                t *
                  (-0.18628806 +
                    t * (0.27886807 + t * (-1.13520398 + t * (1.48851587 + t * (-0.82215223 + t * 0.17087277))))))));
  const erfc = t * Math.exp(-x * x + poly);
  return z >= 0 ? 1 - erfc / 2 : erfc / 2;
}

/** Two-sided 95 % and 50 % points of the standard normal distribution. */
export const Z95 = 1.959964;
export const Z50 = 0.67449;

/**
 * Chance that a normal quantity lies outside ±limit.
 *
 * @param mean centre, @param sd spread above 0, @param limit half width above 0, one unit for all three
 * @example chanceOutside(0, 1, 1.959964) // 0.05
 */
export function chanceOutside(mean: number, sd: number, limit: number): number {
  if (sd <= 0) return Math.abs(mean) > limit ? 1 : 0;
  return 1 - normalCdf((limit - mean) / sd) + normalCdf((-limit - mean) / sd);
}
