import type { Capture } from '../calibration/events.ts';
import { familyOfPlan, stepIn } from '../calibration/plan.ts';
import type { Step } from '../calibration/procedure.ts';
import type { RunState } from '../calibration/state.ts';
import { figure } from '../quantities/figure.ts';
import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { convertTo, isUnit } from '../quantities/units.ts';
import { IDEAL_SENSOR, type Coefficients } from '../sensor/coefficients.ts';
import type { Model } from '../sensor/family.ts';
import { expectedIn, signalOf } from '../sensor/sensor.ts';
import { isBare, ownOf } from '../sensor/scale.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { Standard } from '../solutions/standard.ts';
import { takenByMistake } from './cup.ts';
import type { Warning } from './hypothesis.ts';
import { slipIn, temperatureSlip } from './typed.ts';
import { typedFacts } from './typed-facts.ts';

/** Half a step that counts, as a standard deviation, and as much again for reading it off. */
const TYPED_STEPS = 0.6;
/** No cup is colder or hotter, °C. */
const CUP_C = { low: -5, high: 110 };

/** What somebody has typed beside a sensor in a standard. */
export interface TypedEntry {
  readonly reading: string;
  /** the signal's unit, or any way of writing the value */
  readonly unit: string;
  /** not asked of a thermometer, which shows its own */
  readonly temperature: string;
  readonly degrees: '°C' | '°F';
}

/** What becomes of it: a capture, a doubt to be answered first, or what is wrong with it. */
export type EntryResult =
  | { readonly capture: Omit<Capture, 'pointIndex' | 'purpose'> }
  | { readonly doubt: Warning }
  | { readonly trouble: string };

/**
 * A typed reading as a capture: parsed, converted, and doubted where it looks like a slip.
 *
 * @param standard what it should stand in
 * @param shelf all standards that this house has
 * @param stands true after somebody has answered the doubt: it is not raised again
 */
export function typedCapture(
  { plan, adjusted }: Pick<RunState, 'plan' | 'adjusted'>,
  step: Pick<Step, 'purpose' | 'pointIndex'>,
  standard: Standard,
  entry: TypedEntry,
  shelf: readonly Standard[],
  stands = false,
): EntryResult {
  const { family, model } = familyOfPlan(plan);
  const input = plan.points[step.pointIndex!]?.role === 'input';
  const inForce = step.purpose === 'read-back' && adjusted ? adjusted.coefficients : plan.inForce;
  const [reading, temperature] = [entry.reading.trim(), entry.temperature.trim()];
  const value = figure(reading);
  const typed = family.thermometer ? value : figure(temperature);
  const none = (what: string, text: string, like: string) => ({
    trouble: `${text ? `The ${what} “${text}” is not a figure` : `The ${what} is missing`}. Type it like ${like}.`,
  });
  if (value === null) return none('reading', reading, '7.02');
  if (typed === null) return none('temperature', temperature, '24.5');
  const degrees = family.thermometer && isUnit(entry.unit) ? entry.unit : entry.degrees;
  const temperatureC = convertTo(typed, degrees, '°C')!;
  try {
    const { low, high } = CUP_C;
    requireWithin(temperatureC, low, high, 'temperature', '°C', 'Check it, and whether it is °C or °F.');
    // A temperature in another unit may lie beyond the table: first say what it looks like.
    const hot =
      !stands && !family.thermometer && entry.degrees === '°C'
        ? temperatureSlip({ text: temperature, celsius: typed, about: plan.workingC }).warning
        : null;
    if (hot) return { doubt: hot };
    // So may a figure that lost its comma lie beyond the scale.
    const facts =
      stands || input
        ? null
        : typedFacts(plan, inForce, standard, { text: reading, value, unit: entry.unit, temperatureC }, takenByMistake(plan, shelf)); // prettier-ignore
    const slip = facts && slipIn(facts).warning;
    if (slip) return { doubt: slip };
    if (!input) expectedIn(model, { standard, temperatureC });
    return {
      capture: {
        method: 'typed',
        signal: typedSignal(model, value, entry.unit, temperatureC, inForce, input),
        signalUncertainty: TYPED_STEPS * stepIn(plan, standard, standard.nominalAtC),
        temperatureC,
        settledSeconds: null,
        t90: null,
        trace: [],
      },
    };
  } catch (error) {
    if (error instanceof Refusal) return { trouble: error.message };
    throw error;
  }
}

/**
 * The signal behind a typed reading.
 *
 * @param input what the instrument adds by itself, with nothing but a plug on it
 * @throws Refusal with value, bound and way out for what no sensor of this family shows
 */
function typedSignal(
  model: Model,
  value: number,
  unit: string,
  temperatureC: number,
  inForce: Coefficients,
  input: boolean,
): number {
  const at = { temperatureC };
  if (input || isBare(model, unit)) {
    // What the ends of the range would give, with as much again: beyond it is another unit or a slip.
    const { low, high } = model.range;
    const ends = [low, high].flatMap((end) => unlessRefused(() => signalOf(model, end, at, IDEAL_SENSOR)) ?? []);
    const far = ends.length ? Math.max(...ends.map(Math.abs)) * 1.7 + 50 : Infinity;
    return requireWithin(value, -far, far, 'reading', model.signalUnit, 'Check the figure and its unit.');
  }
  const own = ownOf(model, value, unit, at);
  if (own === null)
    throw new Refusal(
      'channel-of-another-kind',
      `A reading in ${unit} does not belong to this loop. Pick ${[...new Set([model.valueUnit, model.signalUnit])].join(' or ')}.`,
      { unit },
    );
  return signalOf(model, own, at, inForce);
}
