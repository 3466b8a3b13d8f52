import { expectedAt, fitApproach } from './approach.ts';
import type { Sample } from './trace.ts';
import { COARSE, type Tail } from './ways.ts';

/** The step that the judgement was made for, mV of glass: 0.01 pH. */
export const GLASS_STEP = 0.59;

/** Time until ready, s: middle and 90 % interval. */
export interface ToGo {
  readonly mid: number;
  readonly low: number;
  readonly high: number;
}

/** Temperature must stand still: °C per minute. */
export const TEMPERATURE_LIMIT_C_PER_MIN = 0.1;
const TEMPERATURE_WINDOW_S = 40;

/** Slope of temperature over the last seconds, °C/min; thirds compared, so that one odd sample does not count. */
export function temperatureSlope(window: readonly Sample[]): number {
  const end = window.at(-1)?.t ?? 0;
  const recent = window.filter((s) => s.t >= end - TEMPERATURE_WINDOW_S);
  if (recent.length < 6) return 0;
  const third = Math.floor(recent.length / 3);
  const mean = (part: readonly Sample[], of: (s: Sample) => number) =>
    part.reduce((s, p) => s + of(p), 0) / part.length;
  const head = recent.slice(0, third);
  const tail = recent.slice(-third);
  const minutes = (mean(tail, (s) => s.t) - mean(head, (s) => s.t)) / 60;
  return minutes > 0 ? (mean(tail, (s) => s.temperatureC) - mean(head, (s) => s.temperatureC)) / minutes : 0;
}

export const exactly = (left: number) => ({ mid: Math.max(0, left), low: Math.max(0, left), high: Math.max(0, left) });

/**
 * How long until ready, by what is not known yet and how long it took to know so much: a regression over simulated captures
 * (seeds 1000 to 1119 of `sim/testing/captures.ts`). In logarithms: a sum of these shares of the spread of the final value
 * over the limit and of the seconds so far. What a family makes of it is in its own `Tail.forecast`.
 */
const FORECAST = { constant: 1.15, unknown: 0.65, seconds: 0.59 };
/** Added to times before their logarithm is taken, s. */
const OFFSET_S = 5;

export function timeToReady(
  finalSd: number,
  window: readonly Sample[],
  limit: number,
  dwellLeft: number,
  { forecast }: Tail,
): ToGo {
  const usual = Math.exp(
    FORECAST.constant +
      FORECAST.unknown * Math.log(finalSd / limit) +
      FORECAST.seconds * Math.log(window.at(-1)!.t - window[0]!.t),
  );
  // Clock and thermometer have to be waited for in any case.
  const least = Math.max(dwellLeft, untilTemperatureStill(window));
  const base = Math.max(least, forecast.usual * usual - OFFSET_S) + OFFSET_S;
  const [low, mid, high] = forecast.times.map((times) => Math.max(dwellLeft, times * base - OFFSET_S));
  return { mid: mid!, low: low!, high: high! };
}

/** A hundredth of a degree, as it is judged. */
const CENTIDEGREE = 0.01;

/** A body warms through in less than this, s: with a temperature that hardly moves, its course alone would not say so. */
const THERMAL_S = 45;
/** The rate is read over a stretch that lies behind by so much, s. */
const BEHIND_S = 10;

/** How long the temperature will still move too fast, s. */
function untilTemperatureStill(window: readonly Sample[]): number {
  const rate = Math.abs(temperatureSlope(window)) / TEMPERATURE_LIMIT_C_PER_MIN;
  if (rate <= 1) return 0;
  const up = GLASS_STEP / CENTIDEGREE;
  const approach = fitApproach(
    window.map((s) => ({ ...s, signal: s.temperatureC * up })),
    GLASS_STEP,
    { grid: COARSE },
  );
  if (!approach) return 0;
  const perMinute = (ahead: number) => {
    const [from, to] = [expectedAt(approach, ahead - TEMPERATURE_WINDOW_S), expectedAt(approach, ahead)];
    return Math.abs(((to.mean - from.mean) / up) * (60 / TEMPERATURE_WINDOW_S));
  };
  return Math.min(THERMAL_S * Math.log(rate) + BEHIND_S, whenBelow(perMinute, TEMPERATURE_LIMIT_C_PER_MIN));
}

const LONGEST_FORECAST_S = 1800;

/** First time at which a falling function is below its limit, by bisection, s. */
function whenBelow(bound: (ahead: number) => number, limit: number): number {
  if (bound(0) < limit) return 0;
  if (bound(LONGEST_FORECAST_S) >= limit) return LONGEST_FORECAST_S;
  let low = 0;
  let high = LONGEST_FORECAST_S;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (bound(middle) < limit) high = middle;
    else low = middle;
  }
  return high;
}
