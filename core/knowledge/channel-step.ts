import { significantStep } from '../calibration/plan.ts';
import { familyOf } from '../families/registry.ts';
import type { Family, Model } from '../sensor/family.ts';
import { modelOf } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { writtenIn } from '../sensor/written.ts';
import type { Fitted } from './fitted.ts';

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

/**
 * Smallest step of what a loop gives, in the unit of the signal: that of its display where somebody reads it off and has said so, else
 * its channel's.
 */
export function resolutionOf({ loop, channel }: Fitted): number {
  const step = loop.shownAs?.step ?? null;
  if (step === null || channel.reads.kind !== 'hand') return channel.resolution;
  const family = familyOf(loop.family);
  const model = modelOf(family, loop.settings);
  const [value, at] = [loop.workingValue, { temperatureC: loop.workingC }];
  const size = writtenIn(family, model, loop).ownSize(step);
  const change = (by: number) => unlessRefused(() => Math.abs(model.ideal(value + by, at) - model.ideal(value, at)));
  return change(size) ?? change(-size) ?? channel.resolution;
}
