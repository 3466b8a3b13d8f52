/**
 * The two numbers that make one sensor differ from the ideal one, whatever its family:
 * signal = origin + zero + sensitivity · ideal(value, T).
 */
export interface Coefficients {
  /** in the unit of the signal; for glass the potential in pH 7, mV */
  readonly zero: number;
  /** share of the ideal sensor's response, 1 = ideal; shown as % */
  readonly sensitivity: number;
  /** how both move with temperature beyond what the ideal sensor does; absent = not at all */
  readonly course?: { readonly atC: number; readonly zeroPerC: number; readonly sensitivityPerC: number };
}

/** The ideal sensor: what a channel believes that nobody has calibrated yet. */
export const IDEAL_SENSOR: Coefficients = { zero: 0, sensitivity: 1 };

/**
 * Both coefficients at a temperature.
 *
 * @example coefficientsAt({ zero: 2, sensitivity: 1, course: { atC: 20, zeroPerC: 0.5, sensitivityPerC: 0 } }, 24) // { zero: 4 }
 */
export function coefficientsAt(
  { zero, sensitivity, course }: Coefficients,
  temperatureC: number,
): { zero: number; sensitivity: number } {
  if (!course) return { zero, sensitivity };
  const d = temperatureC - course.atC;
  return { zero: zero + course.zeroPerC * d, sensitivity: sensitivity + course.sensitivityPerC * d };
}
