import type { Unit } from '../quantities/units.ts';
import { requireFinite, requireWithin } from '../quantities/refusal.ts';
import type { Standard } from './standard.ts';

/**
 * A grab sample as a standard: what a lab instrument or a photometer found in it.
 *
 * @param value in `unit`
 * @param plusMinus of the lab's figure at k = 2, above 0
 * @param temperatureC of the sample when it was measured
 * @throws Refusal `not-a-number`, `out-of-range`
 * @example grabSample('chlorine', 0.82, 'mg/L', 0.04, 22).uncertainty // 0.02
 */
export function grabSample(
  family: string,
  value: number,
  unit: Unit,
  plusMinus: number,
  temperatureC: number,
): Standard {
  requireFinite(value, 'value of the sample');
  requireFinite(temperatureC, 'temperature of the sample');
  requireWithin(plusMinus, 1e-9, 1e6, 'the ± of the sample', unit, 'Enter what the lab or the data sheet states.');
  return {
    id: 'grab-sample',
    name: `grab sample, ${value} ${unit}`,
    family,
    unit,
    nominal: value,
    nominalAtC: temperatureC,
    // What was found is the value, whatever the cup does: a sample has no table.
    table: [
      [-20, value],
      [150, value],
    ],
    uncertainty: plusMinus / 2,
    tableStep: 0,
    source: 'measured on a grab sample',
  };
}
