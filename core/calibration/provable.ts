import { expectedIn, signalOf } from '../sensor/sensor.ts';
import type { StandardPoint } from '../sensor/standard-point.ts';
import { unlessRefused } from '../sensor/sources.ts';
import { expandedOf, workingErrorOf } from '../sensor/working-error.ts';
import { calibrationOf } from './fit.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan, stepIn } from './plan.ts';
import { provesOf, type Proves } from './statement.ts';

/** What a plan can prove of its tolerance before anything is measured. */
export interface Provable {
  /** the ± that the error at work will have, in the unit of the value */
  readonly expanded: number;
  readonly proves: Proves;
}

/** What a settling leaves open at best, as a share of the change that counts. Our own choice: the judge of settling waits for less. */
const SETTLED_SHARE = 0.5;

type Planned = Pick<
  RunPlan,
  | 'family'
  | 'settings'
  | 'inForce'
  | 'expected'
  | 'points'
  | 'workingC'
  | 'workingValue'
  | 'tolerance'
  | 'limits'
  | 'resolution'
>;

/**
 * The ± that a run with these standards and instruments will give the error at work: the budget of a run in which the sensor
 * reads what is expected of it.
 *
 * @returns null where the standards determine nothing, or have no value in the water's temperature
 */
export function provable(plan: Planned): Provable | null {
  const { model } = familyOfPlan(plan);
  const { expected, workingC, workingValue, tolerance, limits, resolution } = plan;
  const believed = { zero: expected.zero, sensitivity: expected.sensitivity };
  const made = unlessRefused(() => {
    const points = plan.points
      .filter((p) => p.role !== 'input')
      .map(({ standard, lot }): StandardPoint => {
        const at = { temperatureC: standard.nominalAtC };
        return {
          standard,
          lotId: lot.id,
          ...at,
          signal: signalOf(model, expectedIn(model, { standard, ...at }), at, believed),
          signalUncertainty: SETTLED_SHARE * stepIn(plan, standard, standard.nominalAtC),
          resolution,
          byLoopThermometer: true,
          ...(lot.ageUncertainty ? { ageUncertainty: lot.ageUncertainty } : {}),
        };
      });
    const fit = points.length ? calibrationOf(plan, points) : null;
    if (!fit?.ok) return null;
    const calibrationC = points.reduce((sum, p) => sum + p.temperatureC, 0) / points.length;
    return workingErrorOf(model, fit.whole, plan.inForce, {
      value: workingValue,
      temperatureC: workingC,
      calibrationC,
    });
  });
  if (!made) return null;
  const expanded = expandedOf(made);
  return { expanded, proves: provesOf(expanded, tolerance, limits.guardShare) };
}
