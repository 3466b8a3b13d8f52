import type { RunPlan } from '../calibration/events.ts';
import { lastPass, settlingsOf, standardAt } from '../calibration/measured.ts';
import type { Step } from '../calibration/procedure.ts';
import type { RunState } from '../calibration/state.ts';
import { familyOf } from '../families/registry.ts';
import type { Standard } from '../solutions/standard.ts';
import type { Before, Cup } from './facts.ts';

/** Bottles that may be taken by mistake. */
export function takenByMistake(plan: RunPlan, shelf: readonly Standard[]): readonly Standard[] {
  const { standards } = familyOf(plan.family);
  return shelf.filter((s) => standards.serves(s, plan.settings ?? {}) && standards.mixedUp(s));
}

/**
 * What is asked of the cup of a settling step: the standard, the shelf it was taken from, and the cups before it.
 *
 * @param asked what should be in it
 * @param shelf all standards that this house has
 */
export function cupIn(state: RunState, step: Step, asked: Standard, shelf: readonly Standard[]): Cup {
  const { plan } = state;
  const pass = step.pass || lastPass(state);
  const before = plan.points.flatMap((point, i): Before[] => {
    const last = i === step.pointIndex || point.role === 'input' ? undefined : settlingsOf(state, pass, i).at(-1);
    if (!last) return [];
    return [{ standard: standardAt(state, pass, i)!, signal: last.signal, temperatureC: last.temperatureC }];
  });
  const own = settlingsOf(state, pass, step.pointIndex!).at(-1);
  const readingBack = step.purpose === 'read-back' && own;
  return {
    plan: {
      family: plan.family,
      settings: plan.settings,
      expected: plan.expected,
      workingC: plan.workingC,
      inForceKnown: plan.inForceKnown,
    },
    asked,
    shelf: takenByMistake(plan, shelf),
    before,
    fresh: step.purpose === 'as-found' && before.length === 0,
    ...(readingBack ? { anchor: { signal: own.signal, sd: own.signalUncertainty } } : {}),
  };
}
