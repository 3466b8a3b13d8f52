import { familyOf } from '../families/registry.ts';
import type { DecisionAction, PlannedPoint, RunPlan } from './events.ts';
import { AROUND, BOXES, CHECK, PLUG, SAMPLE, STOCKED, THERMOMETERS } from './procedure-words.ts';
import type { Procedure } from '../sensor/procedures.ts';
import type { BenchWords, Words } from '../sensor/words.ts';

export type StepKind = 'confirm' | 'wait' | 'place' | 'settle' | 'enter' | 'decide' | 'adjust';

/** One line of the step sheet. */
export interface Step {
  readonly id: string;
  /** what sort of step it is, for words of a team's own: `hold`, `place`, `settle` and so on */
  readonly key: string;
  readonly kind: StepKind;
  readonly title: string;
  /** what to do and why */
  readonly text: string;
  readonly caution?: string;
  readonly pointIndex?: number;
  readonly purpose?: 'as-found' | 'repeat' | 'read-back' | 'as-left';
  /** 1 before any cleaning, 2 after it */
  readonly pass: number;
  /** may be passed over, with a reason that is kept */
  readonly skippable?: boolean;
  /** a wait is over after this, s */
  readonly seconds?: number;
}

type Decisions = readonly DecisionAction[];
type ExtraSettlings = Readonly<Record<string, number>>;

/**
 * The step sheet of a run: built from the plan and from the decisions taken so far, never edited by hand.
 *
 * What the sensor's state and the loop's surroundings ask for comes first, then what its procedure is made of; cleaning
 * sends the sensor through the standards once more; everything ends with the sensor back and the hold released.
 *
 * @param decisions in the order in which they were taken
 * @param extraSettlings settlings asked for beyond the second, by pass and point ("1.0"): the last two did not agree
 */
export function stepsOf(plan: RunPlan, decisions: Decisions, extraSettlings: ExtraSettlings = {}): readonly Step[] {
  const kind = plan.procedure?.kind ?? 'calibrate';
  const steps =
    kind === 'sample'
      ? sampleSteps(plan, decisions)
      : kind === 'thermometers'
        ? thermometerSteps(plan, decisions)
        : kind === 'electrical'
          ? electricalSteps(plan, decisions)
          : standardSteps(plan, decisions, extraSettlings, kind === 'check-first');
  return plan.procedure ? inOwnWords(steps, plan.procedure) : steps;
}

const step = (key: string, kind: StepKind, pass: number, words: Words, more: Partial<Step> = {}): Step => ({
  id: key,
  key,
  kind,
  pass,
  ...words,
  ...more,
});

/** What its family says at the bench. */
const wordsOf = (plan: RunPlan): BenchWords => familyOf(plan.family).words;

/** What comes before the sensor leaves its place. */
function before(plan: RunPlan): Step[] {
  const words = wordsOf(plan);
  const steps: Step[] = [];
  const { soak } = familyOf(plan.family);
  const dry = plan.sensorState === 'stored-dry';
  if (soak && (dry || plan.sensorState === 'new'))
    steps.push(step('soak', 'wait', 1, soak.words(dry), { seconds: soak.seconds, skippable: true }));
  if (plan.controls) steps.push(step('hold', 'confirm', 1, words.hold(plan.controls), { skippable: true }));
  for (const [surrounding, key, text] of AROUND)
    if (plan.surroundings?.includes(surrounding)) steps.push(step(key, 'confirm', 1, text));
  return steps;
}

const stocked = (plan: RunPlan, words: Words): Words =>
  plan.surroundings?.includes('stocked')
    ? { ...words, caution: [words.caution, STOCKED].filter(Boolean).join(' ') }
    : words;

const cleaning = (plan: RunPlan, pass: number): Step => ({
  ...step('clean', 'confirm', pass, stocked(plan, wordsOf(plan).clean)),
  id: `p${pass}.clean`,
});
const verdict = (plan: RunPlan, pass: number): Step => ({
  ...step('decide', 'decide', pass, wordsOf(plan).verdict),
  id: `p${pass}.decide`,
});
const end = (plan: RunPlan, pass: number, words: Words): Step => step('return', 'confirm', pass, stocked(plan, words));

/** Passes through whatever is measured, with a cleaning between them, until a decision ends it. */
function throughPasses(
  plan: RunPlan,
  decisions: Decisions,
  measure: (pass: number) => readonly Step[],
): { steps: Step[]; last: DecisionAction | undefined; pass: number } {
  const steps: Step[] = [];
  for (let pass = 1; ; pass++) {
    if (pass > 1) steps.push(cleaning(plan, pass));
    steps.push(...measure(pass), verdict(plan, pass));
    const last = decisions[pass - 1];
    if (last !== 'clean-and-retest') return { steps, last, pass };
  }
}

/** Standards in cups: calibrate, check first, verify, clean and test. */
function standardSteps(
  plan: RunPlan,
  decisions: Decisions,
  extraSettlings: ExtraSettlings,
  checkFirst: boolean,
): Step[] {
  const words = wordsOf(plan);
  const steps = [...before(plan), step('take-out', 'confirm', 1, words.takeOut)];
  const through = (pass: number, from: number, to: number) =>
    plan.points.slice(from, to).flatMap((_, i) => pointSteps(plan, from + i, pass, extraSettlings));
  const count = plan.points.length;
  let rest = decisions;
  let first = 0;
  if (checkFirst) {
    first = 1 + plan.points.findIndex((p) => p.role !== 'input');
    steps.push(...through(1, 0, first), { ...step('check', 'decide', 1, CHECK), id: 'p1.check' });
    if (decisions[0] !== 'go-on') return [...steps, end(plan, 1, words.back(plan.controls))];
    rest = decisions.slice(1);
  }
  const { steps: passes, last, pass } = throughPasses(plan, rest, (p) => through(p, p === 1 ? first : 0, count));
  steps.push(...passes);
  if (last === 'adjust') {
    const i = count - 1;
    steps.push(step('adjust', 'adjust', pass, words.adjust));
    steps.push(
      step('read-back', 'settle', pass, words.readBack(plan.points[i]!.standard.name), {
        pointIndex: i,
        purpose: 'read-back',
        skippable: true,
      }),
    );
  }
  return [...steps, end(plan, pass, words.back(plan.controls))];
}

function pointSteps(plan: RunPlan, pointIndex: number, pass: number, extraSettlings: ExtraSettlings): Step[] {
  const words = wordsOf(plan);
  const planned = plan.points[pointIndex]!;
  const at = (key: string) => ({ id: `p${pass}.${key}.${pointIndex}`, pointIndex });
  if (planned.role === 'input')
    return [
      step('place', 'place', pass, PLUG.place, at('place')),
      step('settle', 'settle', pass, PLUG.settle, { ...at('settle'), purpose: 'as-found', skippable: true }),
    ];
  const previous = plan.points[pointIndex - 1];
  const after = previous && previous.role !== 'input' ? previous.standard : undefined;
  const put = words.place(planned.standard, after);
  // The second pair of an ion tip: what holds at the temperature of the water is taken from it.
  const secondPair = plan.points.slice(0, pointIndex).some((p) => p.standard.id === planned.standard.id);
  const warm = `This one stands as warm as the water, ${plan.workingC.toFixed(1)} °C: float it there first, closed.`;
  const steps: Step[] = [
    step('place', 'place', pass, secondPair ? { ...put, text: `${warm} ${put.text}` } : put, at('place')),
    step('settle', 'settle', pass, words.settle(planned.standard), { ...at('settle'), purpose: 'as-found' }),
  ];
  // Fixed time and typed readings have no second settling of their own: the dwell or the count is the check.
  // Nor is there anything to disturb in air, or beside a thermometer.
  const twice = planned.standard.inAir ? null : words.repeat;
  if (twice && plan.school.kind !== 'fixed-time' && plan.channelKind !== 'hand') {
    steps.push(step('repeat', 'settle', pass, twice.first, { ...at('repeat'), purpose: 'repeat', skippable: true }));
    for (let i = 1; i <= (extraSettlings[`${pass}.${pointIndex}`] ?? 0); i++) {
      const id = `${at('repeat').id}.${i}`;
      steps.push(step('repeat', 'settle', pass, twice.again, { pointIndex, id, purpose: 'repeat', skippable: true }));
    }
  }
  return steps;
}

/** The sensor stays; its reading and what the lab finds in the same water become one point. */
function sampleSteps(plan: RunPlan, decisions: Decisions): Step[] {
  const { steps, last, pass } = throughPasses(plan, decisions, (p) => [
    step('settle', 'settle', p, SAMPLE.draw, { id: `p${p}.settle.0`, pointIndex: 0, purpose: 'as-found' }),
    step('enter', 'enter', p, SAMPLE.enter, { id: `p${p}.enter.0`, pointIndex: 0 }),
  ]);
  const adjusting = last === 'adjust' ? [step('adjust', 'adjust', pass, wordsOf(plan).adjust)] : [];
  return [...steps, ...adjusting, end(plan, pass, SAMPLE.back)];
}

function thermometerSteps(plan: RunPlan, decisions: Decisions): Step[] {
  const words = wordsOf(plan);
  const { steps, last, pass } = throughPasses(plan, decisions, (p) => [
    step('enter', 'enter', p, THERMOMETERS.enter, { id: `p${p}.enter.0`, pointIndex: 0 }),
    step('settle', 'settle', p, words.settle({ name: 'the thermometers', nominal: plan.workingValue }), {
      id: `p${p}.settle.0`,
      pointIndex: 0,
      purpose: 'as-found',
    }),
  ]);
  const name = 'the same place';
  const adjusting =
    last === 'adjust'
      ? [
          step('adjust', 'adjust', pass, words.adjust),
          step('read-back', 'settle', pass, words.readBack(name), {
            pointIndex: 0,
            purpose: 'read-back',
            skippable: true,
          }),
        ]
      : [];
  return [step('take-out', 'confirm', 1, words.takeOut), ...steps, ...adjusting, end(plan, pass, THERMOMETERS.back)];
}

/** Boxes instead of the sensor, every point as found, and once more as left when the transmitter was trimmed. */
function electricalSteps(plan: RunPlan, decisions: Decisions): Step[] {
  const words = wordsOf(plan);
  const steps: Step[] = [];
  if (plan.controls) steps.push(step('hold', 'confirm', 1, words.hold(plan.controls)));
  steps.push(step('take-out', 'confirm', 1, BOXES.isolate));
  const box = (point: PlannedPoint, pointIndex: number, part: 'settle' | 'left'): Step[] => {
    const { name } = point.standard;
    const found = part === 'settle';
    return [
      step('place', 'place', 1, BOXES.place(name, point.role === 'verify'), {
        id: `p1.${found ? 'place' : 'left-place'}.${pointIndex}`,
        pointIndex,
      }),
      step('settle', 'settle', 1, found ? BOXES.settle(name) : BOXES.left(name), {
        id: `p1.${part}.${pointIndex}`,
        pointIndex,
        purpose: found ? 'as-found' : 'as-left',
      }),
    ];
  };
  steps.push(...plan.points.flatMap((p, i) => box(p, i, 'settle')), verdict(plan, 1));
  if (decisions[0] === 'adjust') {
    steps.push(step('adjust', 'adjust', 1, BOXES.adjust));
    steps.push(...plan.points.flatMap((p, i) => box(p, i, 'left')));
  }
  return [...steps, end(plan, 1, BOXES.back(plan.controls))];
}

/** A team's own words and steps, laid over the usual ones. Cautions always stay. */
function inOwnWords(steps: readonly Step[], { words = {}, extra = [] }: Procedure): Step[] {
  return steps.flatMap((usual) => {
    const own = words[usual.key];
    const said: Step = { ...usual, title: own?.title ?? usual.title, text: own?.text ?? usual.text };
    const added = extra
      .filter((e) => e.after === usual.key)
      .map((e, i): Step => {
        const id = `${usual.id}.own.${i + 1}`;
        return { id, key: 'own', kind: 'confirm', pass: usual.pass, title: e.title, text: e.text, skippable: true };
      });
    return [said, ...added];
  });
}
