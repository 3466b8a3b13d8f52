import { Refusal, requireWithin } from '../quantities/refusal.ts';
import type { Model } from '../sensor/family.ts';
import type { Written } from '../sensor/written.ts';
import type { AlarmLimits } from './water.ts';

/**
 * Limits that can be: inside what such a sensor can show, low below high, and acting not before warning.
 *
 * @throws Refusal `out-of-range`, `limits-turned` with figures as the loop is written
 */
export function requireAlarmLimits(model: Model, limits: Partial<AlarmLimits>, written: Written): void {
  const { actLow = null, warnLow = null, warnHigh = null, actHigh = null } = limits;
  const { low, high } = model.range;
  for (const value of [actLow, warnLow, warnHigh, actHigh])
    if (value !== null) requireWithin(value, low, high, 'The limit', model.valueUnit, 'Type where its water may be.');
  const print = (own: number) => `${(written.value(own) ?? own).toFixed(written.valueDigits)} ${written.unit}`;
  const order = [
    ['act low', actLow],
    ['warn low', warnLow],
    ['warn high', warnHigh],
    ['act high', actHigh],
  ] as const;
  const said = order.filter((o): o is readonly [(typeof o)[0], number] => o[1] !== null);
  const turned = said.findIndex(([, value], i) => i > 0 && value <= said[i - 1]![1]);
  if (turned < 0) return;
  const [[a, lower], [b, upper]] = [said[turned - 1]!, said[turned]!];
  throw new Refusal(
    'limits-turned',
    `The limits are turned round: ${b} is ${print(upper)}, and ${a} is ${print(lower)}. From low to high they are: act, warn, warn, act.`,
    { low: lower, high: upper },
  );
}
