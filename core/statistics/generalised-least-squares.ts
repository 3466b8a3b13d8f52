import { inverse, Matrix } from 'ml-matrix';

/** Estimates with their covariance, and how far the data are from the model. */
export interface Estimate {
  readonly values: readonly number[];
  /** covariance of the estimates, same order as `values` */
  readonly covariance: readonly (readonly number[])[];
  readonly residuals: readonly number[];
  /** Σ rᵀ V⁻¹ r: follows χ² with `degreesOfFreedom` when the stated uncertainties are right */
  readonly chiSquare: number;
  readonly degreesOfFreedom: number;
}

/**
 * Generalised least squares: the best estimate of b in y = X b + e, where e has covariance V.
 *
 * V carries the *input* uncertainties, correlations included; the covariance that comes back does not depend on
 * the residuals (JCGM 100:2008, F.1.2 and H.3 by way of the Gauss-Markov theorem).
 *
 * @param design X, one row a measurement
 * @param observed y
 * @param inputCovariance V, symmetric and positive definite
 * @example generalisedLeastSquares([[1, 0], [1, 1]], [1, 3], [[1, 0], [0, 1]]).values // [1, 2]
 */
export function generalisedLeastSquares(
  design: readonly (readonly number[])[],
  observed: readonly number[],
  inputCovariance: readonly (readonly number[])[],
): Estimate {
  const x = new Matrix(design.map((row) => [...row]));
  const y = Matrix.columnVector([...observed]);
  const weight = inverse(new Matrix(inputCovariance.map((row) => [...row])));
  const normal = x.transpose().mmul(weight).mmul(x);
  const covariance = inverse(normal);
  const b = covariance.mmul(x.transpose()).mmul(weight).mmul(y);
  const residuals = Matrix.sub(y, x.mmul(b));
  return {
    values: b.to1DArray(),
    covariance: covariance.to2DArray(),
    residuals: residuals.to1DArray(),
    chiSquare: Math.max(0, residuals.transpose().mmul(weight).mmul(residuals).get(0, 0)),
    degreesOfFreedom: design.length - (design[0]?.length ?? 0),
  };
}
