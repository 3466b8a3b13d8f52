import type { RunPlan } from '../calibration/events.ts';
import { familyOfPlan, stepIn } from '../calibration/plan.ts';
import type { Model } from '../sensor/family.ts';
import { expectedIn, shownValue } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { isBare, scalesOf } from '../sensor/scale.ts';
import type { Standard } from '../solutions/standard.ts';
import type { Typed } from './typed.ts';
import type { Coefficients } from '../sensor/coefficients.ts';

const MIN_STEPS = 3;

/** What was typed where a sensor stands in a standard. */
export interface TypedReading {
  readonly text: string;
  readonly value: number;
  /** the signal's, or any way of writing the value */
  readonly unit: string;
  readonly temperatureC: number;
}

/**
 * What was to be expected in place of a typed figure, in the unit in which it was typed.
 *
 * @param inForce what the channel reckons with
 * @returns null where nothing can be expected: a standard without a value here, or a unit of another kind
 */
export function typedFacts(
  plan: Pick<RunPlan, 'family' | 'settings' | 'expected'>,
  inForce: Coefficients,
  asked: Standard,
  { text, value, unit, temperatureC }: TypedReading,
  shelf: readonly Standard[],
): Typed | null {
  const { family, model } = familyOfPlan(plan);
  const { zero, zeroSd, sensitivity, sensitivitySd } = plan.expected;
  const inUnit = (signal: number) => inUnitOf(model, inForce, unit, temperatureC, signal);
  const signalIn = (standard: Standard) =>
    unlessRefused(() => model.ideal(expectedIn(model, { standard, temperatureC }), { temperatureC }));
  const ideal = signalIn(asked);
  if (ideal === null) return null;
  const signal = model.origin + zero + sensitivity * ideal;
  const signalSd = Math.hypot(zeroSd, sensitivitySd * ideal, MIN_STEPS * stepIn(plan, asked, asked.nominalAtC));
  const about = (as: string) => {
    const [expected, above, below] = [signal, signal + signalSd, signal - signalSd].map((x) =>
      inUnitOf(model, inForce, as, temperatureC, x),
    );
    if (expected == null || above == null || below == null) return null;
    // An ion's value is an exponential of its signal: the two sides differ by decades, and their middle is the geometric one.
    return { expected, sd: Math.sqrt(Math.abs((above - expected) * (expected - below))) };
  };
  const known = about(unit);
  if (!known) return null;
  const others = shelf.flatMap((standard) => {
    const other = signalIn(standard);
    const figure = other === null ? null : inUnit(model.origin + zero + sensitivity * other);
    const same = figure === null || Math.abs(figure - known.expected) < 4 * known.sd;
    return same ? [] : [{ name: standard.name, value: figure }];
  });
  // Displays show millivolts or the value. A conductance beside a conductivity is a factor, as slips of the scale are.
  const two = model.signalUnit === 'mV' && model.valueUnit !== 'mV';
  const other = !two ? null : unit === 'mV' ? model.valueUnit : 'mV';
  const there = other && about(other);
  const elsewhere = there ? [{ unit: other, ...there }] : [];
  return { text, value, unit, ...known, others, scales: family.scales, elsewhere };
}

function inUnitOf(
  model: Model,
  inForce: Coefficients,
  unit: string,
  temperatureC: number,
  signal: number,
): number | null {
  if (isBare(model, unit)) return signal;
  const scale = scalesOf(model).find((s) => s.id === unit);
  if (!scale) return null;
  const at = { temperatureC };
  return unlessRefused(() => scale.of(shownValue(model, signal, at, inForce), at));
}
