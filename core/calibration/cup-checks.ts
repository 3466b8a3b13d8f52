import { expectedIn } from '../families/sensor.ts';
import { unlessRefused } from '../families/sources.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan, stepIn } from './plan.ts';

/** Standard deviations from what the history expects beyond which nothing is captured by itself. */
const FAR_SD = 4;
/** No history is better than this, in steps that count. */
const LEAST_STEPS = 10;

/**
 * Is this reading far from what the sensor was known to give in this standard? Then it may still hang in the water, and
 * only the operator captures it.
 *
 * @param signal in the unit of the signal
 * @throws Refusal as the standard's table, outside it
 * @example farFromHistory({ family: 'ph', expected: { zero: 0, zeroSd: 10, sensitivity: 0.97, sensitivitySd: 0.03 } }, buffer('technical-7.00'), 57, 22) // 'true'
 */
export function farFromHistory(
  plan: Pick<RunPlan, 'family' | 'settings' | 'expected'>,
  standard: Standard,
  signal: number,
  temperatureC: number,
): boolean {
  const { model } = familyOfPlan(plan);
  const { zero, zeroSd, sensitivity, sensitivitySd } = plan.expected;
  const ideal = unlessRefused(() => model.ideal(expectedIn(model, { standard, temperatureC }), temperatureC));
  if (ideal === null) return false;
  const sd = Math.hypot(zeroSd, sensitivitySd * ideal, LEAST_STEPS * stepIn(plan, standard, standard.nominalAtC));
  return Math.abs(signal - model.origin - zero - sensitivity * ideal) > FAR_SD * sd;
}

/** A cup further from the water's temperature than this is another measurement, °C. Common practice, no source. */
const APART_C = 5;
/** How the sentence begins, so that a record can be asked whether it was said. */
export const CUP_AT = 'The cup of';

/**
 * Why a cup should be brought to the temperature of the water first; null when it is near enough.
 *
 * @example cupApart(14, 25.5, '7.00') // 'The cup of 7.00 has 14.0 °C, the water 25.5 °C: 11.5 apart, limit 5. Let it float in the water, or say that it stays.'
 * @example cupApart(22, 25.5, '7.00') === null // 'true'
 */
export function cupApart(cupC: number, waterC: number, name: string): string | null {
  const apart = Math.abs(cupC - waterC);
  if (apart <= APART_C) return null;
  return `${CUP_AT} ${name} has ${cupC.toFixed(1)} °C, the water ${waterC.toFixed(1)} °C: ${apart.toFixed(1)} apart, limit ${APART_C}. Let it float in the water, or say that it stays.`;
}
