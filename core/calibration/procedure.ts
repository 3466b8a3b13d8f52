import { benchWords } from './bench-words.ts';
import { AIR } from '../families/conductivity/cell.ts';
import type { DecisionAction, RunPlan } from './events.ts';

export type StepKind = 'confirm' | 'place' | 'settle' | 'decide' | 'adjust';

/** One line of the step sheet. */
export interface Step {
  readonly id: string;
  readonly kind: StepKind;
  readonly title: string;
  /** what to do and why */
  readonly text: string;
  readonly caution?: string;
  readonly pointIndex?: number;
  readonly purpose?: 'as-found' | 'repeat' | 'read-back';
  /** 1 before any cleaning, 2 after it */
  readonly pass: number;
}

/**
 * The step sheet of a run: built from the plan and from the decisions taken so far, never edited by hand.
 *
 * Cleaning sends the probe through the standards once more; an adjustment is followed by a read-back in the last
 * standard; everything ends with the probe back in the water and the hold released.
 *
 * @param decisions in the order in which they were taken
 * @param oncemore settlings asked for beyond the second, by pass and point ("1.0"): the last two did not agree
 */
export function stepsOf(
  plan: RunPlan,
  decisions: readonly DecisionAction[],
  oncemore: Readonly<Record<string, number>> = {},
): readonly Step[] {
  const words = benchWords(plan.family);
  const steps: Step[] = [];
  if (plan.controls) steps.push({ id: 'hold', kind: 'confirm', pass: 1, ...words.hold(plan.controls) });
  steps.push({ id: 'take-out', kind: 'confirm', pass: 1, ...words.takeOut });
  let pass = 1;
  for (;;) {
    plan.points.forEach((point, i) =>
      steps.push(...pointSteps(plan, i, pass, point.standard.name, oncemore[`${pass}.${i}`] ?? 0)),
    );
    steps.push({ id: `p${pass}.decide`, kind: 'decide', pass, ...words.verdict });
    if (decisions[pass - 1] !== 'clean-and-retest') break;
    pass++;
    steps.push({ id: `p${pass}.clean`, kind: 'confirm', pass, ...words.clean });
  }
  const last = decisions[pass - 1];
  if (last === 'adjust') {
    const i = plan.points.length - 1;
    steps.push({ id: 'adjust', kind: 'adjust', pass, ...words.adjust });
    steps.push({
      id: 'read-back',
      kind: 'settle',
      pass,
      pointIndex: i,
      purpose: 'read-back',
      ...words.readBack(plan.points[i]!.standard.name),
    });
  }
  steps.push({ id: 'return', kind: 'confirm', pass, ...words.back(plan.controls) });
  return steps;
}

function pointSteps(plan: RunPlan, pointIndex: number, pass: number, name: string, extra: number): Step[] {
  const words = benchWords(plan.family);
  const id = (part: string) => `p${pass}.${part}.${pointIndex}`;
  const first = pointIndex === 0;
  const previous = first ? undefined : plan.points[pointIndex - 1]!.standard.name;
  const settle: Step[] = [
    { id: id('place'), kind: 'place', pass, pointIndex, ...words.place(name, previous) },
    { id: id('settle'), kind: 'settle', pass, pointIndex, purpose: 'as-found', ...words.settle(name) },
  ];
  // Fixed time and typed readings have no second settling of their own: the dwell or the count is the check.
  // Nor is there anything to disturb in air, or beside a thermometer.
  const again = plan.points[pointIndex]!.standard.id === AIR.id ? null : words.wiggle;
  if (again && plan.school.kind === 'statistical' && plan.channelKind !== 'hand') {
    settle.push({ id: id('repeat'), kind: 'settle', pass, pointIndex, purpose: 'repeat', ...again });
    for (let i = 1; i <= extra; i++) {
      settle.push({
        id: `${id('repeat')}.${i}`,
        kind: 'settle',
        pass,
        pointIndex,
        purpose: 'repeat',
        ...words.wiggleAgain,
      });
    }
  }
  return settle;
}
