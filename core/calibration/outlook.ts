import { chanceBeyond } from '../statistics/mixture.ts';
import { cone } from '../drift/cone.ts';
import type { Working } from '../drift/working.ts';
import type { Observation, ServiceEvent } from '../drift/history.ts';
import type { Coefficients } from '../sensor/coefficients.ts';
import type { FamilyPrior } from '../sensor/prior.ts';

/** What an output does to the value: acid lowers pH, nutrient raises conductivity. */
export type ControlAction = 'raises' | 'lowers' | '';

/** What becomes of a sensor until its next visit. */
export interface Prospect {
  /** expected error at the next visit, and its standard deviation, in the family's unit */
  readonly error: number;
  readonly sd: number;
  /** chance of being outside the tolerance then, 0 to 1 */
  readonly chanceOutside: number;
}

export interface Outlook {
  readonly nextMs: number;
  readonly leave: Prospect;
  readonly adjust: Prospect;
}

/**
 * What if nothing is done: where the error will be at the next visit if the channel is left, and if it is adjusted now.
 *
 * Both go through the same drift model; only what the channel believes from now on differs.
 *
 * @param history finished runs before this one
 * @param found what this run found, as an observation that leaves everything as it is
 * @param nextMs the next visit, epoch milliseconds
 * @param before what the channel believed before the first run
 * @param services what was done to the sensor outside of runs
 */
export function outlookOf(
  history: readonly Observation[],
  found: Observation,
  prior: FamilyPrior,
  working: Working,
  tolerance: number,
  nextMs: number,
  before?: Coefficients,
  services?: readonly ServiceEvent[],
): Outlook {
  const at = (inForceAfter: Coefficients): Prospect => {
    const made = cone([...history, { ...found, inForceAfter }], prior, working, nextMs, before, services);
    const then = made.errorAt!(nextMs);
    return { error: then.mean, sd: then.sd, chanceOutside: chanceBeyond(then, tolerance) };
  };
  return { nextMs, leave: at(found.inForceAfter), adjust: at(found.found) };
}

/** How much likelier outside after an adjustment counts as worse. Our own choice, no source. */
const WORSE = 0.1;

/**
 * Does the sensor's history say that adjusting on this run alone would do harm? Then the run found something that the
 * history does not expect, and a second look is worth more than an adjustment.
 *
 * @example adjustingLooksWorse({ nextMs: 0, leave: { error: 0, sd: 1, chanceOutside: 0.06 }, adjust: { error: 2, sd: 1, chanceOutside: 0.86 } }) // 'true'
 */
export const adjustingLooksWorse = ({ leave, adjust }: Outlook): boolean =>
  adjust.chanceOutside > leave.chanceOutside + WORSE;

const side = (error: number) => (error > 0 ? 'below' : 'above');

/**
 * What an error means for what the loop controls: the controller holds what it is shown, so that the water stands apart
 * by as much.
 *
 * @param error shown less true, in the family's unit
 * @param action what the output does to the value
 * @returns a sentence, with "too much" or "too little" where the action is known
 * @example dosedBy({ value: 5.8, error: 0.2, digits: 2, unit: 'pH', controls: 'acid dosing', action: 'lowers' }) // 'Held at 5.80 on the display, the water stands at 5.60 pH, 0.20 below: acid dosing gives too much.'
 */
export function dosedBy({
  value,
  error,
  digits,
  unit,
  controls,
  action,
}: {
  readonly value: number;
  readonly error: number;
  readonly digits: number;
  readonly unit: string;
  readonly controls: string;
  readonly action: ControlAction;
}): string {
  const figure = (x: number) => x.toFixed(digits);
  const held = `Held at ${figure(value)} on the display, the water stands at ${figure(value - error)} ${unit}, ${figure(Math.abs(error))} ${side(error)}`;
  if (!action) return `${held}: ${controls} acts on that.`;
  // A display that shows too much asks a doser that lowers for more, and one that raises for less.
  const much = error > 0 === (action === 'lowers');
  return `${held}: ${controls} gives too ${much ? 'much' : 'little'}.`;
}
