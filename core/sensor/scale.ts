import type { Conditions } from './conditions.ts';
import { Refusal } from '../quantities/refusal.ts';
import { convertTo, isUnit, kindOf, unitsOf, type Unit } from '../quantities/units.ts';

/**
 * One way of writing a family's values: a unit with everything that belongs to it, so that two figures of one scale can be
 * held against each other. It rises or falls throughout, and is turned back exactly.
 */
export interface Scale {
  /** unit and scale, as they are printed behind a figure: "ppm×700", "SG 25/25", "mS/cm 20 °C" */
  readonly id: string;
  /**
   * a value of the family as it is written here
   *
   * @param own in the model's unit
   */
  readonly of: (own: number, at: Conditions) => number;
  /** the other way round, into the model's unit */
  readonly own: (written: number, at: Conditions) => number;
}

/** What has scales: a family with its settings put in. */
interface InScales {
  readonly valueUnit: Unit;
  /** ways of writing the value besides the units of its kind */
  readonly writes?: () => readonly Scale[];
}

/** How the instrument of a loop writes its values. */
export interface ShownAs {
  /** id of the scale; '' = the family's own unit */
  readonly scale: string;
  /** smallest step of its display, in that scale; null = not said */
  readonly step: number | null;
}

/** As the family writes it. */
export const AS_OWN: ShownAs = { scale: '', step: null };

/** Does it say nothing that the family does not? */
export const isOwn = ({ scale, step }: ShownAs): boolean => scale === '' && step === null;

/**
 * A scale that is another unit of the same kind.
 *
 * @example byUnit('µS/cm', 'ppm×700').of(1900, { temperatureC: 25 }) // 1330
 */
export const byUnit = (own: Unit, unit: Unit): Scale => ({
  id: unit,
  of: (value) => convertTo(value, own, unit)!,
  own: (written) => convertTo(written, unit, own)!,
});

/** A scale that is a share of the family's own. @param factor written for one own */
export const byFactor = (id: string, factor: number): Scale => ({
  id,
  of: (own) => own * factor,
  own: (written) => written / factor,
});

/**
 * Every way in which a model's values can be written, its own unit first.
 *
 * @example scalesOf(modelOf(familyOf('nitrate'))).map((s) => s.id).join() // 'mg/L NO3-N,mg/L NO3,mmol/L N'
 */
export function scalesOf(model: InScales): readonly Scale[] {
  const { valueUnit, writes } = model;
  const others = unitsOf(kindOf(valueUnit)).filter((unit) => unit !== valueUnit);
  return [valueUnit, ...others].map((unit) => byUnit(valueUnit, unit)).concat(writes?.() ?? []);
}

/**
 * A scale by its id; '' is the model's own unit.
 *
 * @throws Refusal `scale-unknown` with those that there are
 * @example scaleOf(modelOf(familyOf('salinity')), 'SG 25/25').of(35, { temperatureC: 20 }) // 1.02637
 */
export function scaleOf(model: InScales, id: string): Scale {
  if (id === '') return byUnit(model.valueUnit, model.valueUnit);
  const scales = scalesOf(model);
  const found = scales.find((s) => s.id === id);
  if (found) return found;
  const list = scales.map((s) => s.id).join(', ');
  throw new Refusal('scale-unknown', `This loop cannot be written in “${id}”. Pick one of ${list}.`, { id });
}

/**
 * A written value in the model's unit; null where the model knows no such scale.
 *
 * @throws Refusal what the scale refuses: a gravity that no sea water has
 * @example ownOf(modelOf(familyOf('conductivity')), 1.9, 'mS/cm', { temperatureC: 25 }) // 1900
 * @example ownOf(modelOf(familyOf('conductivity')), 1.9, 'mV', { temperatureC: 25 }) === null // 'true'
 */
export function ownOf(model: InScales, written: number, unit: string, at: Conditions): number | null {
  // Readings come by the thousand: most are in a unit of the family's own kind.
  const own = isUnit(unit) ? convertTo(written, unit, model.valueUnit) : null;
  return (
    own ??
    model
      .writes?.()
      .find((s) => s.id === unit)
      ?.own(written, at) ??
    null
  );
}

/**
 * Is what somebody reads off a display the bare signal? Where signal and value have one unit a display shows what its instrument makes
 * of the signal: after an adjustment the two differ.
 *
 * @example isBare(modelOf(familyOf('ph')), 'mV') // 'true'
 * @example isBare(modelOf(familyOf('nitrate')), 'mg/L NO3-N') // 'false'
 */
export const isBare = ({ signalUnit, valueUnit }: InScales & { readonly signalUnit: string }, unit: string): boolean =>
  unit === signalUnit && unit !== valueUnit;

/**
 * A loop can be written so: its family has the scale, and the scale has its working value.
 *
 * @throws Refusal `scale-unknown`, and what the scale refuses there
 */
export function requireWritten(
  model: InScales,
  loop: { readonly workingValue: number; readonly workingC: number; readonly shownAs: ShownAs },
): void {
  scaleOf(model, loop.shownAs.scale).of(loop.workingValue, { temperatureC: loop.workingC });
}
