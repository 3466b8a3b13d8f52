import { Refusal } from '../quantities/refusal.ts';
import { convertTo, kindOf, type Unit } from '../quantities/units.ts';
import type { Standard } from '../solutions/standard.ts';

/**
 * A standard's value in the unit of a channel: nitrate as NO3 becomes nitrate as N, and never a chloride.
 *
 * @throws Refusal `standard-of-another-kind`
 * @example inChannelUnit(buffer('technical-7.00'), 7.01, 'pH') // 7.01
 */
export function inChannelUnit(standard: Standard, value: number, unit: Unit): number {
  const own = standard.unit ?? 'pH';
  const converted = convertTo(value, own, unit);
  if (converted !== null) return converted;
  throw new Refusal(
    'standard-of-another-kind',
    `${standard.name} is a ${kindOf(own)} in ${own}; this channel measures ${kindOf(unit)} in ${unit}. Pick another standard.`,
    { standard: standard.name, unit: own },
  );
}
