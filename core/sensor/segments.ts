import type { Conditions } from './conditions.ts';
import type { Family, Model } from './family.ts';
import type { NoCalibration } from './calibration.ts';
import { expectedIn, shownValue, signalOf } from './sensor.ts';
import type { Coefficients } from './coefficients.ts';
import type { StandardPoint } from './standard-point.ts';

/** One straight piece between two neighbouring standards. */
export interface Segment {
  readonly fromValue: number;
  readonly toValue: number;
  readonly coefficients: Coefficients;
}

/**
 * Bracketing: a piece of line through each two neighbouring standards, instead of one line through all.
 *
 * The other school beside `fitSensor`: it hides no residual, and shows none.
 *
 * @param points two or more, with distinct values
 * @returns the pieces, rising in value; or the reason why there are none
 * @example bracket(familyOf('ph'), modelOf(familyOf('ph')), [atSeven, atTen]).length // 1
 */
export function bracket(
  family: Family,
  model: Model,
  points: readonly StandardPoint[],
): readonly Segment[] | NoCalibration {
  const rising = points.map((p) => ({ ...p, value: expectedIn(model, p) })).sort((a, b) => a.value - b.value);
  if (rising.length < 2) {
    const message = `${rising.length} standard captured; a bracket needs two. Capture another standard.`;
    return { ok: false, reason: 'too-few-standards', message };
  }
  const segments: Segment[] = [];
  for (let k = 1; k < rising.length; k++) {
    const a = rising[k - 1]!;
    const b = rising[k]!;
    const close = family.tooClose([a.value, b.value]);
    if (close !== null) return { ok: false, reason: 'standards-not-distinct', message: close };
    const idealA = model.ideal(a.value, a);
    const sensitivity = (b.signal - a.signal) / (model.ideal(b.value, b) - idealA);
    const coefficients = { zero: a.signal - model.origin - sensitivity * idealA, sensitivity };
    segments.push({ fromValue: a.value, toValue: b.value, coefficients });
  }
  return segments;
}

/**
 * Value by bracketing: the piece that holds the signal; beyond the outer standards the nearest piece goes on.
 *
 * @param segments at least one, as `bracket` gives them
 * @throws Refusal as `shownValue`
 */
export function bracketedValue(model: Model, segments: readonly Segment[], signal: number, at: Conditions): number {
  const rises = (s: Segment) =>
    signalOf(model, s.toValue, at, s.coefficients) >= signalOf(model, s.fromValue, at, s.coefficients);
  const chosen =
    segments.find((s) => {
      const end = signalOf(model, s.toValue, at, s.coefficients);
      return rises(s) ? signal <= end : signal >= end;
    }) ?? segments.at(-1)!;
  return shownValue(model, signal, at, chosen.coefficients);
}
