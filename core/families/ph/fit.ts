import { temperatureSlope, valueAt, type Standard } from '../../solutions/standard.ts';
import { generalisedLeastSquares } from '../../statistics/generalised-least-squares.ts';
import type { Coefficients } from './electrode.ts';
import { nernstSlope } from './nernst-slope.ts';

/** One capture as the fit sees it: a potential in a known standard. */
export interface CalibrationPoint {
  readonly standard: Standard;
  /** id of the lot; two points from one lot share its error. '' = not noted */
  readonly lotId: string;
  readonly temperatureC: number;
  readonly potentialMv: number;
  /** standard uncertainty of the potential: settling, repeatability, resolution, mV */
  readonly potentialUncertaintyMv: number;
}

/** 2×2 covariance in the order zero (mV), slope (fraction). */
export type Covariance2 = readonly [readonly [number, number], readonly [number, number]];

export interface Calibration {
  readonly ok: true;
  readonly coefficients: Coefficients;
  readonly covariance: Covariance2;
  /** measured − fitted at each point, mV; zeros for two points */
  readonly residualsMv: readonly number[];
  readonly chiSquare: number;
  readonly degreesOfFreedom: number;
}

export type CalibrationResult =
  | Calibration
  | { readonly ok: false; readonly reason: 'too-few-standards' | 'standards-not-distinct'; readonly message: string };

/** Standard uncertainty of the thermometer in the cup, common to all points, °C. Common practice, no source. */
export const THERMOMETER_UNCERTAINTY_C = 0.2;

/** Standards closer than this give a slope that is mostly noise, pH. Common practice, no source. */
const LEAST_SPAN_PH = 1;

/**
 * Zero and slope of an electrode from two to five standards, with the covariance that the *inputs* give.
 *
 * With two standards there is no residual, with three one degree of freedom: so nothing is estimated from residuals.
 * Lots are independent of each other, points of one lot share its error, and the thermometer is common to all.
 *
 * @returns coefficients and covariance, or a typed reason; never NaN
 * @throws Refusal `standard-outside-table` when a cup is outside its standard's table
 * @example fitCalibration([at7, at4]) // zero and slope through both
 */
export function fitCalibration(points: readonly CalibrationPoint[]): CalibrationResult {
  const values = points.map((p) => valueAt(p.standard, p.temperatureC));
  const span = values.length ? Math.max(...values) - Math.min(...values) : 0;
  if (points.length < 2) {
    return {
      ok: false,
      reason: 'too-few-standards',
      message: `${points.length} standard captured; a slope needs two. Capture another standard.`,
    };
  }
  if (span < LEAST_SPAN_PH) {
    return {
      ok: false,
      reason: 'standards-not-distinct',
      message: `The standards lie ${span.toFixed(2)} pH apart; a slope needs at least ${LEAST_SPAN_PH}. Use two that differ more.`,
    };
  }
  const estimate = generalisedLeastSquares(
    points.map((p, i) => [1, -nernstSlope(p.temperatureC) * (values[i]! - 7)]),
    points.map((p) => p.potentialMv),
    inputCovariance(points, values),
  );
  const [zeroMv, slope] = estimate.values as [number, number];
  const c = estimate.covariance;
  return {
    ok: true,
    coefficients: { zeroMv, slope },
    covariance: [
      [c[0]![0]!, c[0]![1]!],
      [c[1]![0]!, c[1]![1]!],
    ],
    residualsMv: estimate.residuals,
    chiSquare: estimate.chiSquare,
    degreesOfFreedom: estimate.degreesOfFreedom,
  };
}

/** Covariance of the points, everything carried over to mV. A slope of 1 is near enough for uncertainties. */
function inputCovariance(points: readonly CalibrationPoint[], values: readonly number[]): number[][] {
  const perPh = points.map((p) => -nernstSlope(p.temperatureC));
  const perDegree = points.map((p, i) => {
    const kPerDegree = nernstSlope(p.temperatureC) / (p.temperatureC + 273.15);
    return perPh[i]! * temperatureSlope(p.standard, p.temperatureC) - kPerDegree * (values[i]! - 7);
  });
  return points.map((p, i) =>
    points.map((q, j) => {
      const thermometer = perDegree[i]! * perDegree[j]! * THERMOMETER_UNCERTAINTY_C ** 2;
      const sameLot = i === j || (p.lotId !== '' && p.lotId === q.lotId);
      const lot = sameLot ? perPh[i]! * perPh[j]! * p.standard.uncertainty * q.standard.uncertainty : 0;
      const own = i === j ? p.potentialUncertaintyMv ** 2 + (perPh[i]! * p.standard.tableStep) ** 2 / 12 : 0;
      return thermometer + lot + own;
    }),
  );
}
