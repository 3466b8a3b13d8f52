import { agree } from '../families/temperature/two-thermometers.ts';
import { Refusal, requireWithin } from '../quantities/refusal.ts';
import { ownOf } from '../sensor/scale.ts';
import { grabSample } from '../solutions/sample.ts';
import type { Standard } from '../solutions/standard.ts';
import type { Entry, RunPlan } from './events.ts';
import { familyOfPlan } from './plan.ts';

/** A sample read this far from the temperature of the water is no longer the water, °C. Common practice, no source. */
const SAMPLE_APART_C = 10;

/**
 * What was entered, as the standard of a run.
 *
 * @throws Refusal `sample-of-another-kind`, `out-of-range`, `sample-too-far` for one that cooled down,
 *   `thermometers-disagree`
 */
export function standardOf(plan: Pick<RunPlan, 'family' | 'settings' | 'workingC'>, entry: Entry): Standard {
  if (entry.kind === 'thermometers') {
    const agreed = agree(entry.a, entry.b);
    if (agreed.ok) return agreed.standard;
    throw new Refusal('thermometers-disagree', agreed.message, { apart: agreed.apartC, limit: agreed.limitC });
  }
  const { model } = familyOfPlan(plan);
  const { value, unit, plusMinus, temperatureC } = entry;
  const at = { temperatureC };
  const own = ownOf(model, value, unit, at);
  if (own === null)
    throw new Refusal(
      'sample-of-another-kind',
      `This loop measures in ${model.valueUnit}; a value in ${unit} cannot be held against it. Pick another unit.`,
      { unit },
    );
  requireWithin(own, model.range.low, model.range.high, 'the sample', model.valueUnit, 'Check figure and unit.');
  if (Math.abs(temperatureC - plan.workingC) > SAMPLE_APART_C)
    throw new Refusal(
      'sample-too-far',
      `The sample was measured at ${temperatureC} °C, the water has ${plan.workingC} °C; more than ${SAMPLE_APART_C} °C apart it is another water. Measure it nearer to ${plan.workingC} °C.`,
      { value: temperatureC, limit: SAMPLE_APART_C },
    );
  const half = plusMinus / 2;
  const width =
    unit === model.valueUnit
      ? plusMinus
      : Math.abs(ownOf(model, value + half, unit, at)! - ownOf(model, value - half, unit, at)!);
  return grabSample(plan.family, own, model.valueUnit, width, temperatureC);
}
