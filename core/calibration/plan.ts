import type { Family, Model } from '../families/family.ts';
import { familyOf } from '../families/registry.ts';
import { expectedIn, modelOf } from '../families/sensor.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';

/** The family of a plan, with its settings put in. @throws Refusal `family-unknown`, or what a setting refuses */
export function familyOfPlan(plan: Pick<RunPlan, 'family' | 'settings'>): { family: Family; model: Model } {
  const family = familyOf(plan.family);
  return { family, model: modelOf(family, plan.settings ?? {}) };
}

/**
 * The change of signal that counts in a standard: less still to come, and the reading is steady.
 *
 * @returns in the unit of the signal
 * @example stepIn({ family: 'conductivity' }, kcl1413, 25) // 4.239
 */
export function stepIn(plan: Pick<RunPlan, 'family' | 'settings'>, standard: Standard, temperatureC: number): number {
  const { family, model } = familyOfPlan(plan);
  const { absolute, relative } = family.step;
  if (relative === 0) return absolute;
  const response = model.ideal(expectedIn(model, { standard, temperatureC }), temperatureC);
  return Math.max(absolute, relative * Math.abs(response));
}

/** Digits with which an error is worth printing against a tolerance: two figures of it. */
export const digitsFor = (tolerance: number) => Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(tolerance))));
