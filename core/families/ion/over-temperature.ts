import { nernstSlope } from '../../solutions/nernst-slope.ts';
import type { Family, Model } from '../../sensor/family.ts';
import { fitSensor, type NoCalibration, type SensorCalibration } from '../../sensor/fit.ts';
import { expectedIn } from '../../sensor/sensor.ts';
import { coefficientsAt, type Coefficients } from '../../sensor/coefficients.ts';
import type { StandardPoint } from '../../sensor/standard-point.ts';

/** The two standards of a pair may differ by this much in temperature, °C. Common practice, no source. */
export const PAIR_LIMIT_C = 0.5;

/** Two temperatures nearer than this say nothing about a course, °C. Common practice, no source. */
const MIN_APART_C = 3;

/** Gap between low and high that practice accepts, as a share of the ideal one: 40 to 55 of 49.64 mV. Common practice, no source. */
export const GAP_LIMITS = { low: 0.81, high: 1.11 } as const;

export type IonCalibration =
  | { readonly ok: true; readonly coefficients: Coefficients; readonly atRoom: SensorCalibration }
  | NoCalibration
  | { readonly ok: false; readonly reason: 'pair-apart' | 'temperatures-alike'; readonly message: string };

/**
 * An ion sensor from two, three or four points: a low and a high standard at room temperature, then a high one, then a
 * low one, near the temperature of the sample.
 *
 * Two points give zero and slope; a third adds how the zero moves with temperature, the slope following k(T); a fourth
 * adds how the slope moves.
 *
 * @param room low and high at room temperature, in any order
 * @param warm none, the high one, or high and low near the sample's temperature
 * @returns coefficients with their course over temperature, or the reason why there are none
 * @throws Refusal as `fitSensor`
 */
export function fitIon(
  family: Family,
  model: Model,
  room: readonly StandardPoint[],
  warm: readonly StandardPoint[] = [],
): IonCalibration {
  const apart = pairTrouble(room, 'room') ?? pairTrouble(warm, 'sample');
  if (apart) return apart;
  const atRoom = fitSensor(family, model, room);
  if (!atRoom.ok || warm.length === 0)
    return atRoom.ok ? { ok: true, coefficients: atRoom.coefficients, atRoom } : atRoom;
  const roomC = mean(room.map((p) => p.temperatureC));
  const warmC = mean(warm.map((p) => p.temperatureC));
  if (Math.abs(warmC - roomC) < MIN_APART_C) {
    const message = `The two temperatures are ${Math.abs(warmC - roomC).toFixed(1)} °C apart; a course over temperature needs ${MIN_APART_C} or more. Leave the third and fourth point out, or bring them nearer to the sample.`;
    return { ok: false, reason: 'temperatures-alike', message };
  }
  const warmFit = fitSensor(family, model, warm, {
    free: warm.length > 1 ? 'both' : 'zero',
    held: atRoom.coefficients,
  });
  if (!warmFit.ok && warm.length > 1) return warmFit;
  const second = warmFit.ok ? warmFit.coefficients : zeroOnly(model, warm[0]!, atRoom.coefficients);
  const { zero, sensitivity } = atRoom.coefficients;
  const course = {
    atC: roomC,
    zeroPerC: (second.zero - zero) / (warmC - roomC),
    sensitivityPerC: (second.sensitivity - sensitivity) / (warmC - roomC),
  };
  return { ok: true, coefficients: { zero, sensitivity, course }, atRoom };
}

/** One point cannot be fitted by a family that takes two: its zero follows with the slope held. */
function zeroOnly(model: Model, point: StandardPoint, held: Coefficients): Coefficients {
  const ideal = model.ideal(expectedIn(model, point), point);
  return { zero: point.signal - held.sensitivity * ideal, sensitivity: held.sensitivity };
}

function pairTrouble(pair: readonly StandardPoint[], where: string): IonCalibration | null {
  if (pair.length < 2) return null;
  const temperatures = pair.map((p) => p.temperatureC);
  const apart = Math.max(...temperatures) - Math.min(...temperatures);
  if (apart <= PAIR_LIMIT_C + 1e-9) return null;
  const message = `The pair at ${where} temperature is ${apart.toFixed(1)} °C apart; the limit is ${PAIR_LIMIT_C}. Bring both cups to one temperature and measure them again.`;
  return { ok: false, reason: 'pair-apart', message };
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;

/**
 * Ideal gap between two activities: k(T)/z · log10(high/low), as a size.
 *
 * @returns mV
 * @example idealGap(46.2, 319, -1, 25) // 49.64
 */
export function idealGap(low: number, high: number, charge: number, temperatureC: number): number {
  return Math.abs((nernstSlope(temperatureC) / charge) * Math.log10(high / low));
}

/**
 * An ion tip from a pair at room temperature and a third and fourth point near the sample's: how its zero and slope move
 * between the two is fitted, and what holds at the water's temperature is taken.
 *
 * @returns null where there is no second pair, or both are equally warm: then all points are one line
 */
export function ionAtWork(
  family: Family,
  model: Model,
  points: readonly StandardPoint[],
  workingC: number,
): Coefficients | null {
  if (points.length < 3) return null;
  const made = fitIon(family, model, points.slice(0, 2), points.slice(2));
  if (!made.ok) return null;
  const { zero, sensitivity } = coefficientsAt(made.coefficients, workingC);
  return { zero, sensitivity };
}
