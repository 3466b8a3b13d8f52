import { Refusal } from '../../quantities/refusal.ts';
import { nernstSlope } from '../../solutions/nernst-slope.ts';
import type { Family, Model } from '../../sensor/family.ts';
import type { NoCalibration, SensorCalibration } from '../../sensor/calibration.ts';
import { determined, fitSensor, idealsOf, inputsOf } from '../../sensor/fit.ts';
import type { FitInputs } from '../../sensor/calibration.ts';
import { sourcesOf } from '../../sensor/sources.ts';
import { coefficientsAt, type Coefficients } from '../../sensor/coefficients.ts';
import type { StandardPoint } from '../../sensor/standard-point.ts';

/** The two standards of a pair may differ by this much in temperature, °C. Common practice, no source. */
export const PAIR_LIMIT_C = 0.5;

/** Two temperatures nearer than this say nothing about a course, °C. Common practice, no source. */
const MIN_APART_C = 3;

/** Gap between low and high that practice accepts, as a share of the ideal one: 40 to 55 of 49.64 mV. Common practice, no source. */
export const GAP_LIMITS = { low: 0.81, high: 1.11 } as const;

/**
 * A course over two temperatures is followed beyond them by as much as they are apart: further out, its own uncertainty
 * is all there is. Common practice, no source.
 */
const MOST_BEYOND_SPANS = 1;

export type IonCalibration =
  | {
      readonly ok: true;
      readonly coefficients: Coefficients;
      readonly atRoom: SensorCalibration;
      /** what holds at a temperature, with every source that both pairs have; refused far beyond them */
      readonly at: (temperatureC: number) => SensorCalibration | NoCalibration;
    }
  | NoCalibration;

/** Places of a pair among all points. */
interface Pair {
  readonly points: readonly StandardPoint[];
  readonly from: number;
}

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
  if (!atRoom.ok) return atRoom;
  if (warm.length === 0) return { ok: true, coefficients: atRoom.coefficients, atRoom, at: () => atRoom };
  const roomC = mean(room.map((p) => p.temperatureC));
  const warmC = mean(warm.map((p) => p.temperatureC));
  if (Math.abs(warmC - roomC) < MIN_APART_C) {
    const message = `The two temperatures are ${Math.abs(warmC - roomC).toFixed(1)} °C apart; a course over temperature needs ${MIN_APART_C} or more. Leave the third and fourth point out, or bring them nearer to the sample.`;
    return { ok: false, reason: 'temperatures-alike', message };
  }
  const atWarm = warm.length > 1 ? fitSensor(family, model, warm) : null;
  if (atWarm && !atWarm.ok) return atWarm;
  const points = [...room, ...warm];
  const [cold, hot]: [Pair, Pair] = [
    { points: room, from: 0 },
    { points: warm, from: room.length },
  ];
  /** Zero, slope and their course from inputs, moved or not. */
  const courseOf = (inputs: FitInputs): Coefficients => {
    const [coldIn, hotIn] = [partOf(inputs, cold), partOf(inputs, hot)];
    const first = atRoom.refit(coldIn);
    const second = atWarm ? atWarm.refit(hotIn) : zeroOnly(model, hot.points, hotIn, first);
    const [fromC, toC] = [mean(coldIn.temperaturesC), mean(hotIn.temperaturesC)];
    return {
      ...first,
      course: {
        atC: fromC,
        zeroPerC: (second.zero - first.zero) / (toC - fromC),
        sensitivityPerC: (second.sensitivity - first.sensitivity) / (toC - fromC),
      },
    };
  };
  const inputs = inputsOf(points);
  const at = (temperatureC: number): SensorCalibration | NoCalibration =>
    beyondPairs(roomC, warmC, temperatureC) ??
    determined(sourcesOf(model, points, 'both', 0), inputs, (i) => coefficientsAt(courseOf(i), temperatureC));
  return { ok: true, coefficients: courseOf(inputs), atRoom, at };
}

const partOf = (i: FitInputs, { points, from }: Pair): FitInputs => {
  const of = (list: readonly number[]) => list.slice(from, from + points.length);
  return { signals: of(i.signals), temperaturesC: of(i.temperaturesC), shifts: of(i.shifts), held: i.held };
};

function beyondPairs(roomC: number, warmC: number, temperatureC: number): NoCalibration | null {
  const [low, high] = roomC < warmC ? [roomC, warmC] : [warmC, roomC];
  const beyond = Math.max(low - temperatureC, temperatureC - high);
  const most = MOST_BEYOND_SPANS * (high - low);
  if (beyond <= most) return null;
  const message = `The water has ${temperatureC.toFixed(1)} °C, ${beyond.toFixed(1)} °C beyond both pairs (${low.toFixed(1)} and ${high.toFixed(1)} °C); the limit is ${most.toFixed(1)}. Bring the second pair nearer to the water and capture it again.`;
  return { ok: false, reason: 'water-beyond-pairs', message };
}

/** One point cannot be fitted by a family that takes two: its zero follows with the slope held. */
function zeroOnly(model: Model, points: readonly StandardPoint[], inputs: FitInputs, held: Coefficients): Coefficients {
  const [ideal] = idealsOf(model, points, inputs);
  return { zero: inputs.signals[0]! - model.origin - held.sensitivity * ideal!, sensitivity: held.sensitivity };
}

function pairTrouble(pair: readonly StandardPoint[], where: string): NoCalibration | null {
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
 * @throws Refusal `out-of-range`
 * @returns mV
 * @example idealGap(46.2, 319, -1, 25) // 49.64
 */
export function idealGap(low: number, high: number, charge: number, temperatureC: number): number {
  const cannot = ![low, high].every((activity) => activity >= 1e-12 && activity <= 1e6);
  if (cannot || !Number.isInteger(charge) || charge === 0 || Math.abs(charge) > 4)
    throw new Refusal(
      'out-of-range',
      `There is no gap from ${low} to ${high} mg/L for a charge of ${charge}. Enter activities above 0 and the ion’s charge.`,
      { value: Number.isFinite(low) ? low : null, low: 0 },
    );
  return Math.abs((nernstSlope(temperatureC) / charge) * Math.log10(high / low));
}

/**
 * An ion tip from a pair at room temperature and a third and fourth point near the sample's: how its zero and slope move
 * between the two is fitted, and what holds at the water's temperature is taken, with the uncertainty that it has there.
 *
 * @returns null where there is no second pair, or both are equally warm: then all points are one line
 */
export function ionAtWork(
  family: Family,
  model: Model,
  points: readonly StandardPoint[],
  workingC: number,
): SensorCalibration | NoCalibration | null {
  if (points.length < 3) return null;
  const made = fitIon(family, model, points.slice(0, 2), points.slice(2));
  return made.ok ? made.at(workingC) : null;
}
