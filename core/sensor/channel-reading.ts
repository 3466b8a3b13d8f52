import type { Conditions } from './conditions.ts';
import { Refusal } from '../quantities/refusal.ts';
import { convertTo, isUnit } from '../quantities/units.ts';
import type { Family, Model } from './family.ts';
import { ownOf } from './scale.ts';
import { shownValue, signalOf } from './sensor.ts';
import type { Coefficients } from './coefficients.ts';

/**
 * Can a channel in this unit carry a sensor of this model? It gives either the signal itself, or the value that it makes
 * of it.
 *
 * @example readsAs(modelOf(familyOf('conductivity')), 'mS/cm') // 'true'
 * @example readsAs(modelOf(familyOf('conductivity')), 'mV') // 'false'
 */
export const readsAs = (model: Model, unit: string): boolean =>
  unit === model.signalUnit || (isUnit(unit) && convertTo(1, unit, model.valueUnit) !== null);

/** @throws Refusal `channel-of-another-kind` */
export function requireReadsAs(family: Family, model: Model, unit: string): void {
  if (readsAs(model, unit)) return;
  const raw =
    unit === 'counts'
      ? ` Raw counts: give the channel a scale, ${model.signalUnit} a count, so that it gives ${model.signalUnit}.`
      : ' Check what the scaled number is.';
  throw new Refusal(
    'channel-of-another-kind',
    `A loop of ${family.name} needs ${[...new Set([model.signalUnit, model.valueUnit])].join(' or ')}, and this channel gives ${unit}.${raw}`,
    { unit },
  );
}

/**
 * The sensor's signal behind what a channel gives: a channel that shows values is turned back by what it believes.
 *
 * @param reading in `unit`
 * @param inForce what the channel believes while it shows this
 * @throws Refusal `channel-of-another-kind`, and what the family refuses
 * @example signalOfReading(modelOf(familyOf('ph')), 7.01, 'pH', { temperatureC: 25 }, IDEAL_SENSOR) // -0.592
 * @example signalOfReading(modelOf(familyOf('conductivity'), { alpha: 0 }), 1.413, 'mS/cm', { temperatureC: 25 }, IDEAL_SENSOR) // 1413
 */
export function signalOfReading(
  model: Model,
  reading: number,
  unit: string,
  at: Conditions,
  inForce: Coefficients,
): number {
  if (unit === model.signalUnit) return reading;
  const value = ownOf(model, reading, unit, at);
  if (value !== null) return signalOf(model, value, at, inForce);
  throw new Refusal(
    'channel-of-another-kind',
    `This sensor gives ${model.signalUnit} or ${model.valueUnit}, not ${unit}. Pick one of these.`,
    { unit },
  );
}

/**
 * What an operator reads on a channel, in the family's unit, whichever of the two it gives.
 *
 * @example valueOfReading(modelOf(familyOf('conductivity')), 1.413, 'mS/cm', { temperatureC: 25 }, IDEAL_SENSOR) // 1413
 */
export function valueOfReading(
  model: Model,
  reading: number,
  unit: string,
  at: Conditions,
  inForce: Coefficients,
): number {
  if (unit === model.signalUnit) return shownValue(model, reading, at, inForce);
  const value = ownOf(model, reading, unit, at);
  if (value !== null) return value;
  return shownValue(model, signalOfReading(model, reading, unit, at, inForce), at, inForce);
}
