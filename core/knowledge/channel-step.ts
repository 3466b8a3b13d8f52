import { significantStep } from '../calibration/plan.ts';
import type { Family, Model } from '../sensor/family.ts';

/** A wire that says nothing of its steps. */
const WIRE_STEP = 0.1;

/** What a channel says of its own steps. */
export interface Steps {
  /** people read it off a display */
  readonly typed: boolean;
  readonly unit: string;
  /** what one count is worth, in its unit; null for what counts nothing */
  readonly perCount: number | null;
}

/**
 * Smallest step of a channel, in the unit of the signal: one count of a whole-number register is worth its scale, a
 * display shows steps that count.
 */
export function channelStep(
  family: Family,
  model: Model,
  { typed, unit, perCount }: Steps,
  at: { readonly value: number; readonly temperatureC: number },
): number {
  const shown = significantStep(family, model, at);
  if (typed || unit !== model.signalUnit) return shown;
  return perCount === null ? Math.min(WIRE_STEP, shown) : Math.max(1e-4, Math.abs(perCount));
}
