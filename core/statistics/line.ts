/** A straight line y = intercept + slope·x with what is known about it. */
export interface Line {
  readonly ok: true;
  readonly intercept: number;
  readonly slope: number;
  /** standard uncertainties and covariance of intercept and slope, from the residuals */
  readonly interceptSe: number;
  readonly slopeSe: number;
  readonly covariance: number;
  /** residual standard deviation, n − 2 degrees of freedom */
  readonly residualSd: number;
}

export type LineResult = Line | { readonly ok: false; readonly reason: 'points-not-distinct' | 'too-few-points' };

/**
 * Least-squares straight line through (x, y); sums are taken about the means.
 *
 * With two points the line is exact and says nothing about its own spread: the standard errors are 0 then, and the
 * uncertainty of a calibration must come from its inputs (see `fitCalibration`).
 *
 * @returns the line, or the reason why there is none
 * @see NIST StRD, Norris (checked in line.spec.ts)
 * @example fitLine([[0, 1], [1, 3], [2, 5]]) // { ok: true, intercept: 1, slope: 2, … }
 */
export function fitLine(points: readonly (readonly [number, number])[]): LineResult {
  const n = points.length;
  if (n < 2) return { ok: false, reason: 'too-few-points' };
  let sumX = 0;
  let sumY = 0;
  for (let i = 0; i < n; i++) {
    sumX += points[i]![0];
    sumY += points[i]![1];
  }
  const meanX = sumX / n;
  const meanY = sumY / n;
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i++) {
    const dx = points[i]![0] - meanX;
    sxx += dx * dx;
    sxy += dx * (points[i]![1] - meanY);
  }
  if (!(sxx > 0)) return { ok: false, reason: 'points-not-distinct' };
  const slope = sxy / sxx;
  const intercept = meanY - slope * meanX;
  let ss = 0;
  for (let i = 0; i < n; i++) ss += (points[i]![1] - intercept - slope * points[i]![0]) ** 2;
  const residualSd = n > 2 ? Math.sqrt(ss / (n - 2)) : 0;
  const slopeSe = residualSd / Math.sqrt(sxx);
  return {
    ok: true,
    intercept,
    slope,
    residualSd,
    slopeSe,
    interceptSe: residualSd * Math.sqrt(1 / n + meanX ** 2 / sxx),
    covariance: -meanX * slopeSe ** 2,
  };
}
