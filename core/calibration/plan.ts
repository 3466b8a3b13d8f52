import type { Family, Model } from '../sensor/family.ts';
import { familyOf } from '../families/registry.ts';
import { expectedIn, modelOf } from '../sensor/sensor.ts';
import { writtenIn, type WorksAt, type Written } from '../sensor/written.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { Response } from '../settling/settle.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';

/** The family of a plan, with its settings put in. @throws Refusal `family-unknown`, or what a setting refuses */
export function familyOfPlan(plan: Pick<RunPlan, 'family' | 'settings'>): { family: Family; model: Model } {
  const family = familyOf(plan.family);
  return { family, model: modelOf(family, plan.settings ?? {}) };
}

/**
 * How the figures of a plan are written: in the scale that its loop had when the run began.
 *
 * @example writtenOfPlan({ family: 'temperature', workingValue: 25, workingC: 25, tolerance: 0.5, shownAs: { scale: '°F', step: 0.1 } }).value(25) // 77
 */
export const writtenOfPlan = (plan: Pick<RunPlan, 'family'> & WorksAt): Written => {
  const { family, model } = familyOfPlan(plan);
  return writtenIn(family, model, plan);
};

/**
 * The change of signal that counts in a standard: less still to come, and the reading is steady.
 *
 * @returns in the unit of the signal
 * @example stepIn({ family: 'conductivity' }, kcl1413, 25) // 4.239
 */
export function stepIn(plan: Pick<RunPlan, 'family' | 'settings'>, standard: Standard, temperatureC: number): number {
  const { family, model } = familyOfPlan(plan);
  if (family.step.relative === 0) return family.step.absolute;
  return significantStep(family, model, { value: expectedIn(model, { standard, temperatureC }), temperatureC });
}

/**
 * How a sensor answers in a standard, as far as it is known beforehand: what the judge of settling needs.
 *
 * @param standard null where nothing is known of what it stands in
 * @param step for that case, in the unit of the signal
 */
export function responseIn(
  plan: Pick<RunPlan, 'family' | 'settings'>,
  standard: Standard | null,
  step = standard ? stepIn(plan, standard, standard.nominalAtC) : familyOf(plan.family).step.absolute,
): Response {
  const { family, model } = familyOfPlan(plan);
  const idealAt = (temperatureC: number) =>
    standard ? unlessRefused(() => model.ideal(expectedIn(model, { standard, temperatureC }), { temperatureC })) : null;
  const at = standard?.nominalAtC ?? 25;
  const [below, above] = [idealAt(at - 1), idealAt(at + 1)];
  return { step, perC: below === null || above === null ? 0 : (above - below) / 2, tail: family.tail };
}

/**
 * The change that counts, at a value: where a loop works, say.
 *
 * @example significantStep(familyOf('conductivity'), modelOf(familyOf('conductivity')), { value: 1413, temperatureC: 25 }) // 4.239
 */
export function significantStep(
  { step }: Family,
  model: Model,
  { value, temperatureC }: { readonly value: number; readonly temperatureC: number },
): number {
  return Math.max(step.absolute, step.relative * Math.abs(model.ideal(value, { temperatureC })));
}

/**
 * Digits with which a signal is worth printing: as many as show the step that counts.
 *
 * @example signalDigitsFor(0.59) // 1
 * @example signalDigitsFor(4.239) // 0
 */
export const signalDigitsFor = (step: number) => Math.min(4, Math.max(0, Math.ceil(-Math.log10(step) - 1e-9)));
