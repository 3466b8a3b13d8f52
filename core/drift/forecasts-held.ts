import type { PastRun } from './past.ts';

/** How often runs found a sensor where the forecast before them had it. */
export interface ForecastsHeld {
  readonly held: number;
  readonly of: number;
}

/** Upper 5 % points of χ² for one and two figures: Abramowitz & Stegun (1964), table 26.8. */
const BOUNDS = [3.841, 5.991] as const;

/**
 * Past forecasts, scored: of the runs after the first one, how many found zero and sensitivity together inside what was forecast
 * for 95 %. Where the engine is right it is 19 of 20; a jump is a forecast that did not hold.
 *
 * @param past runs of a sensor, oldest first
 * @example forecastsHeld([]).of // 0
 */
export function forecastsHeld(past: readonly PastRun[]): ForecastsHeld {
  const later = past.slice(1);
  const held = later.filter(({ standardised: [zero, sensitivity], found }) => {
    // A sensor with an offset and no slope has one figure.
    const bound = found.sensitivitySd > 0 ? BOUNDS[1] : BOUNDS[0];
    return zero ** 2 + sensitivity ** 2 <= bound;
  }).length;
  return { held, of: later.length };
}
