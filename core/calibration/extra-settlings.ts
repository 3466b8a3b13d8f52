import { settlingsOf, standardAt } from './measured.ts';
import { stepIn } from './plan.ts';
import { stepsOf, type Step } from './procedure.ts';
import type { RunState } from './state.ts';

/** Settlings of one cup at the most: beyond that the verdict says that they do not agree. */
const MAX_SETTLINGS = 4;
/** Two settlings of one cup may differ by twice the step that counts (0.02 pH). Common practice, no source. */
export const AGREEMENT_STEPS = 2;

/** Two settlings that do not agree ask for a third: a bubble may have gone in between. */
export function askOnceMore(state: RunState, step: Step): RunState {
  const key = `${step.pass}.${step.pointIndex}`;
  const mine = settlingsOf(state, step.pass, step.pointIndex!);
  const [before, last] = mine.slice(-2);
  const standard = standardAt(state, step.pass, step.pointIndex!);
  const counts = standard && last ? stepIn(state.plan, standard, last.temperatureC) : Infinity;
  const apart = before && last ? Math.abs(last.signal - before.signal) / counts : 0;
  if (step.purpose !== 'repeat' || apart <= AGREEMENT_STEPS || mine.length >= MAX_SETTLINGS) return state;
  const extraSettlings = { ...state.extraSettlings, [key]: mine.length - 1 };
  return {
    ...state,
    extraSettlings,
    steps: stepsOf(
      state.plan,
      state.decisions.map((d) => d.action),
      extraSettlings,
    ),
  };
}
