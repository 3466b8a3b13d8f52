import type { BeyondLimit } from '../alarms/alarms.ts';
import { familyOf } from '../families/registry.ts';
import { signalDigitsFor } from '../calibration/plan.ts';
import { modelOf } from '../sensor/sensor.ts';
import type { Fitted } from './fitted.ts';
import { limitsOf, ofSensor, stepAt } from './history.ts';
import type { Past } from './past.ts';

/** After these a sensor has other halves than the ones that the last run found. */
const OTHER_SINCE: readonly string[] = ['refilled', 'tip replaced', 'stored dry'];

/**
 * Limits of practice that the last run of a sensor found passed, whatever the cause: a sensor may show the water right and be at
 * the end of its life.
 */
export function beyondLimits(
  { loop }: Pick<Fitted, 'loop'>,
  { finished, services }: Pick<Past, 'finished' | 'services'>,
): BeyondLimit[] {
  // prettier-ignore
  const last = ofSensor(finished).at(-1);
  if (!last) return [];
  const lastMs = Date.parse(last.endedAt);
  if (services.some((s) => s.atMs > lastMs && OTHER_SINCE.includes(s.kind))) return [];
  const family = familyOf(loop.family);
  const { zero, sensitivityLow, sensitivityHigh, t90Seconds } = limitsOf(loop);
  const { coefficients, t90 } = last.outcome;
  const digits = signalDigitsFor(stepAt({ loop }));
  const { signalUnit } = modelOf(family, loop.settings);
  const percent = (x: number) => `${(100 * x).toFixed(1)} %`;
  const slope = coefficients.sensitivity;
  const made: BeyondLimit[] = [];
  // A limit without end is kept as null where records are JSON.
  if (Math.abs(coefficients.zero) > ((zero as number | null) ?? Infinity))
    made.push({ what: 'zero', text: `${family.zero.name} ${coefficients.zero.toFixed(digits).replace('-', '−')} ${signalUnit} is beyond ±${zero} ${signalUnit}` }); // prettier-ignore
  if (slope < sensitivityLow || slope > sensitivityHigh) {
    const [side, limit] = slope < sensitivityLow ? ['below', sensitivityLow] : ['above', sensitivityHigh];
    made.push({ what: 'sensitivity', text: `${family.sensitivity.name} ${percent(slope)} is ${side} ${percent(Number(limit))}` }); // prettier-ignore
  }
  if (t90 !== null && t90 > t90Seconds)
    made.push({ what: 'response', text: `it takes ${Math.round(t90)} s for nine tenths of the way, more than ${t90Seconds} s` }); // prettier-ignore
  return made;
}
