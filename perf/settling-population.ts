import {
  CATALOGUE,
  familyOf,
  responseIn,
  settleIn,
  STATISTICAL,
  type Response,
  type Sample,
  type Settings,
} from '@frustum/core';
import { captureOf, WEAK_WATER, type CaptureFamily } from '@frustum/sim';

const SETTINGS: Partial<Record<CaptureFamily, Settings>> = {
  orp: { reference: 'silver-chloride-3.5', scale: 'own' },
  ion: { ion: 'chloride' },
  conductivity: { cellConstant: 1, alpha: 2 },
  salinity: { cellConstant: 1 },
  chlorine: { nominalSlope: 100 },
};
/** A probe that is not steady after so long is refused, s. */
const PATIENCE_S = 1200;
/** The screen asks five times a second at most; once a second is enough to say when. */
const ASKED_EVERY_S = 1;
/** The forecast is asked for at a moment of its own in each capture, s. */
const FORECAST_FROM_S = 15;
const FORECAST_SPAN_S = 75;
/** What a person takes for the reading at a fixed time: the mean of so many seconds. */
const GLANCE_S = 3;

/** What became of one capture. Errors in steps that count for the family, or of the channel where that shows no finer ones. */
export interface Judged {
  readonly family: CaptureFamily;
  readonly seed: number;
  /** s until the first look below the limit; null = refused */
  readonly seconds: number | null;
  readonly error: number;
  /** said half way: did the time to ready lie in its 90 % interval? null where it was ready before it could be asked */
  readonly held: boolean | null;
  readonly atTwo: number;
  readonly atFive: number;
}

/** How the sensor answers in its cup, as the bench knows it before anything is read. */
function responseOf(of: CaptureFamily, standardName: string): Response {
  const family = of === WEAK_WATER ? 'orp' : of;
  const standard = CATALOGUE.find((s) => s.name === standardName) ?? null;
  // A thermometer has no standard, water is none, and a chlorine-free cup has no value to take a share of.
  const held = of === WEAK_WATER || family === 'temperature' || family === 'chlorine' ? null : standard;
  const step = held ? undefined : familyOf(family).step.absolute;
  return responseIn({ family, settings: SETTINGS[family] ?? {} }, held, step);
}

/** Settles one capture of the population, as the bench does, and holds it against its truth. */
export function judged(family: CaptureFamily, seed: number): Judged {
  const capture = captureOf(family, seed);
  const samples: Sample[] = [];
  const response = responseOf(family, capture.standardName);
  // A channel that shows no finer steps cannot be asked for less.
  const limit = Math.max(response.step, capture.resolution);
  let checked;
  let asked = 0;
  let ready: { seconds: number; level: number; temperatureC: number } | null = null;
  let forecast: { at: number; low: number; high: number } | null = null;
  const glances: Record<number, number> = {};
  const askAt = FORECAST_FROM_S + FORECAST_SPAN_S * ((seed % 97) / 97);
  const errorOf = (signal: number, temperatureC: number) => (signal - capture.truthAt(temperatureC)) / limit;
  for (;;) {
    const sample = capture.next();
    samples.push(sample);
    const { t } = sample;
    for (const fixed of [120, 300])
      if (glances[fixed] === undefined && t >= fixed) {
        const seen = samples.filter((s) => s.t > t - Math.max(GLANCE_S, capture.sampleSeconds));
        glances[fixed] = errorOf(seen.reduce((sum, s) => sum + s.signal, 0) / seen.length, sample.temperatureC);
      }
    if (!ready && t >= asked) {
      asked = t + ASKED_EVERY_S;
      const made = settleIn(response, samples, STATISTICAL, capture.resolution, undefined, checked);
      checked = made.checked;
      if (made.state === 'ready')
        ready = { seconds: t, level: errorOf(made.level, made.temperatureC), temperatureC: made.temperatureC };
      else if (!forecast && made.toGo && t >= askAt) forecast = { at: t, low: made.toGo.low, high: made.toGo.high };
    }
    if (t >= 300 && (ready || t >= PATIENCE_S)) break;
  }
  const took = ready && forecast ? ready.seconds - forecast.at : null;
  return {
    family,
    seed,
    seconds: ready?.seconds ?? null,
    error: ready?.level ?? NaN,
    held: forecast === null ? null : took !== null && took >= forecast.low && took <= forecast.high + ASKED_EVERY_S,
    atTwo: glances[120]!,
    atFive: glances[300]!,
  };
}

/**
 * Lower end of Wilson's 95 % interval for a share. Wilson, J. Am. Stat. Assoc. 22 (1927) 209.
 *
 * @param hits of `all`
 */
export function wilsonLow(hits: number, all: number): number {
  const z = 1.959964;
  const p = hits / all;
  const middle = p + z ** 2 / (2 * all);
  const half = z * Math.sqrt((p * (1 - p)) / all + z ** 2 / (4 * all ** 2));
  return (middle - half) / (1 + z ** 2 / all);
}
