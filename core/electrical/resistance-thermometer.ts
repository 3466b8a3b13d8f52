import { requireWithin } from '../quantities/refusal.ts';

const A = 3.9083e-3;
const B = -5.775e-7;
const C = -4.183e-12;

/** Where the standard's equation holds, °C. */
const RTD_RANGE = { low: -200, high: 850 } as const;

/** How an element is made: decides where its class holds. */
export type Winding = 'wire' | 'film';

/** Where class A holds, °C: IEC 60751:2008, from memory. Narrower than the equation. */
export const CLASS_A_C: Readonly<Record<Winding, { readonly low: number; readonly high: number }>> = {
  wire: { low: -100, high: 450 },
  film: { low: -30, high: 300 },
};

/**
 * Allowed departure of a class A element, ± (0.15 + 0.002·|t|) °C: IEC 60751.
 *
 * @returns °C, k = 2 by common practice; null where the class does not hold
 * @example classA(100) // 0.35
 * @example classA(850) === null // 'true'
 */
export function classA(temperatureC: number, winding: Winding = 'wire'): number | null {
  const { low, high } = CLASS_A_C[winding];
  return temperatureC >= low && temperatureC <= high ? 0.15 + 0.002 * Math.abs(temperatureC) : null;
}

/** Resistance at 0 °C, Ω: 100 for a Pt100, 1000 for a Pt1000. */
export type NominalOhms = 100 | 1000;

/**
 * Resistance of a platinum thermometer.
 *
 * @param temperatureC −200 to 850 °C
 * @returns Ω
 * @throws Refusal `out-of-range`
 * @see IEC 60751:2008, Callendar-Van Dusen
 * @example rtdResistance(35, 100) // 113.608
 */
export function rtdResistance(temperatureC: number, nominal: NominalOhms): number {
  const { low, high } = RTD_RANGE;
  const t = requireWithin(temperatureC, low, high, 'temperature', '°C', 'IEC 60751 holds in that range.');
  return nominal * (1 + A * t + B * t * t + (t < 0 ? C * (t - 100) * t * t * t : 0));
}

/**
 * What a degree adds to a platinum thermometer's resistance.
 *
 * @returns Ω/°C
 * @throws Refusal `out-of-range`
 * @example rtdSlope(0, 100) // 0.39083
 */
export function rtdSlope(temperatureC: number, nominal: NominalOhms): number {
  const { low, high } = RTD_RANGE;
  const t = requireWithin(temperatureC, low, high, 'temperature', '°C', 'IEC 60751 holds in that range.');
  return nominal * (A + 2 * B * t + (t < 0 ? C * (4 * t ** 3 - 300 * t * t) : 0));
}

/**
 * Temperature of a platinum thermometer of this resistance: closed form above 0 °C, Newton below.
 *
 * @param ohms 18.52 to 390.48 Ω for a Pt100, ten times that for a Pt1000
 * @throws Refusal `out-of-range`
 * @example rtdTemperature(100.391, 100) // 1.00
 */
export function rtdTemperature(ohms: number, nominal: NominalOhms): number {
  const low = rtdResistance(RTD_RANGE.low, nominal);
  const high = rtdResistance(RTD_RANGE.high, nominal);
  const remedy = 'Check the element (Pt100 or Pt1000), its leads, and an open or shorted terminal.';
  requireWithin(ohms, Math.floor(low * 100) / 100, Math.ceil(high * 100) / 100, 'resistance', 'Ω', remedy);
  const r = ohms / nominal;
  let t = (-A + Math.sqrt(Math.max(0, A * A - 4 * B * (1 - r)))) / (2 * B);
  if (r < 1) {
    for (let i = 0; i < 20; i++) {
      const f = 1 + A * t + B * t * t + C * (t - 100) * t ** 3 - r;
      const slope = A + 2 * B * t + C * (4 * t ** 3 - 300 * t * t);
      t -= f / slope;
    }
  }
  return Math.min(RTD_RANGE.high, Math.max(RTD_RANGE.low, t));
}
