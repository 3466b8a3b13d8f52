import type { ExpectedAt, ParametersAt } from '../drift/working.ts';
import type { SensorLimits } from '../sensor/family.ts';
import { MS_PER_DAY } from '../quantities/constants.ts';
import { normalCdf } from '../statistics/normal.ts';
import type { Figure } from './evidence.ts';

/** When a parameter is forecast to meet a limit beyond which a sensor is replaced; null = not within three years. */
export interface LimitAhead {
  readonly what: 'zero' | 'sensitivity';
  /** in the unit of the zero, or as a share */
  readonly limit: number;
  /** it is beyond with a chance of 5, 50 and 95 % */
  readonly earlyMs: number | null;
  readonly midMs: number | null;
  readonly lateMs: number | null;
}

/** What is expected, and what that is made up of, if of several things. */
type Expected = ParametersAt & { readonly each?: ExpectedAt['each'] };

const CHANCES = [0.05, 0.5, 0.95] as const;
const MAX_DAYS = 3 * 365;
const STEP_DAYS = 5;

/**
 * When zero and sensitivity are forecast to meet the limits of practice.
 *
 * @param expectedAt the forecast of the drift engine, from the last run on
 * @param limits where a loop stops trusting its sensor
 * @returns those that come within three years, the earliest first
 * @example limitsAhead(cone(falling, phPrior, atWork, 60 * day).expectedAt, { ...familyOf('ph').limits, zero: 22 }, 60 * day)[0].what // 'zero'
 */
export function limitsAhead(
  expectedAt: (atMs: number) => Expected,
  { zero, sensitivityLow, sensitivityHigh }: SensorLimits,
  fromMs: number,
): readonly LimitAhead[] {
  // Both limits of each are looked at: one that is passed already stays passed, whichever way the drift goes.
  const sides = [-1, 1] as const;
  const ofZero = sides.map((side): LimitAhead => ({
    what: 'zero',
    limit: side * zero,
    ...datesOf((p) => normalCdf((side * p.zero - zero) / Math.max(p.zeroSd, 1e-12)), expectedAt, fromMs),
  }));
  const ofSensitivity = sides.map((side): LimitAhead => {
    const limit = side < 0 ? sensitivityLow : sensitivityHigh;
    const beyond = (p: ParametersAt) => (side * (p.sensitivity - limit)) / Math.max(p.sensitivitySd, 1e-12);
    return { what: 'sensitivity', limit, ...datesOf((p) => normalCdf(beyond(p)), expectedAt, fromMs) };
  });
  const first = (both: readonly LimitAhead[]) =>
    both
      .filter((m) => m.midMs !== null)
      .sort(byDate)
      .slice(0, 1);
  return [...(Number.isFinite(zero) ? first(ofZero) : []), ...first(ofSensitivity)].sort(byDate);
}

const byDate = (a: LimitAhead, b: LimitAhead) => a.midMs! - b.midMs!;

/** First days on which the chance of being beyond reaches 5, 50 and 95 %. */
function datesOf(
  beyond: (p: ParametersAt) => number,
  expectedAt: (atMs: number) => Expected,
  fromMs: number,
): Pick<LimitAhead, 'earlyMs' | 'midMs' | 'lateMs'> {
  const dates: (number | null)[] = CHANCES.map(() => null);
  for (let day = 0; day <= MAX_DAYS && dates[2] === null; day += STEP_DAYS) {
    const atMs = fromMs + day * MS_PER_DAY;
    const is = expectedAt(atMs);
    const chance = is.each ? is.each.reduce((sum, e) => sum + e.chance * beyond(e), 0) : beyond(is);
    CHANCES.forEach((c, i) => {
      if (chance >= c) dates[i] ??= atMs;
    });
  }
  return { earlyMs: dates[0]!, midMs: dates[1]!, lateMs: dates[2]! };
}

/** Molality of a usual fresh electrolyte, mol/kg KCl. */
const FRESH = 3;
/** From 3 to 1 mol/kg the reference rises by so much, mV at 25 °C: by the activities of KCl; the figure is from memory. */
const TO_ONE_MV = 26.7;

/**
 * What is left of the reference's electrolyte, if the zero has moved by its dilution alone, mol/kg.
 *
 * @param zeroMoved since it was fresh, mV
 * @returns estimate with its 95 % interval; null where the zero has not fallen by more than its uncertainty
 * @example electrolyteLeft({ value: -26.7, sd: 1 })?.mid.toFixed(2) // '1.00'
 */
export function electrolyteLeft({ value, sd }: Figure): { low: number; mid: number; high: number } | null {
  if (value + 2 * sd >= 0) return null;
  const left = (moved: number) => Math.min(FRESH, FRESH * Math.exp((moved / TO_ONE_MV) * Math.log(FRESH)));
  return { low: left(value - 2 * sd), mid: left(value), high: left(value + 2 * sd) };
}
