import { expectedIn } from '../sensor/sensor.ts';
import { unlessRefused } from '../sensor/sources.ts';
import type { Model } from '../sensor/family.ts';
import type { Standard } from '../solutions/standard.ts';
import type { RunPlan } from './events.ts';
import { familyOfPlan, stepIn } from './plan.ts';
import type { Step } from './procedure.ts';
import type { RunState } from './state.ts';

/** Share of the last liquid that a rinsed and blotted sensor takes along. Common practice, no source. */
const CARRIED = 0.002;
/** Orders of more standards than this are too many to try one by one. */
const MAX_TRIED = 5;

type Of = Pick<RunPlan, 'family' | 'settings' | 'workingValue'>;

/**
 * What a drop of one liquid does to the next cup, in steps that count there.
 *
 * @param from value of what clings, in the family's unit
 * @example carryOver({ family: 'conductivity', workingValue: 1850 }, 53065, CATALOGUE.find((s) => s.id === 'kcl-84')) > 100 // 'true'
 * @example carryOver({ family: 'conductivity', workingValue: 1850 }, 84, CATALOGUE.find((s) => s.id === 'seawater-35')) < 1 // 'true'
 */
export function carryOver(of: Of, from: number, to: Standard): number {
  const { model } = familyOfPlan(of);
  const at = valueIn(model, to);
  if (at === null) return 0;
  const mixed = at + CARRIED * (from - at);
  const moved = unlessRefused(
    () => model.ideal(mixed, { temperatureC: to.nominalAtC }) - model.ideal(at, { temperatureC: to.nominalAtC }),
  );
  return moved === null ? 0 : Math.abs(moved) / stepIn(of, to, to.nominalAtC);
}

const valueIn = (model: Model, standard: Standard) =>
  unlessRefused(() => expectedIn(model, { standard, temperatureC: standard.nominalAtC }));

/**
 * The order of standards in which least is carried over, the sensor coming from its water.
 *
 * @returns the same standards; as they came where no order is better, and where there are more than five
 * @example leastCarryOver({ family: 'ph', workingValue: 5.8 }, [buffer('technical-4.01'), buffer('technical-7.00')])[0].name // '7.00'
 */
export function leastCarryOver(of: Of, standards: readonly Standard[]): readonly Standard[] {
  if (standards.length < 2 || standards.length > MAX_TRIED) return standards;
  const { model } = familyOfPlan(of);
  let best: { cost: number; order: readonly Standard[] } | null = null;
  for (const order of ordersOf(standards)) {
    let from = of.workingValue;
    let cost = 0;
    for (const to of order) {
      cost += carryOver(of, from, to);
      from = valueIn(model, to) ?? from;
    }
    if (!best || cost < best.cost * (1 - 1e-9)) best = { cost, order };
  }
  return best!.order;
}

function ordersOf<T>(list: readonly T[]): readonly (readonly T[])[] {
  if (list.length < 2) return [list];
  return list.flatMap((first, i) => ordersOf(list.filter((_, k) => k !== i)).map((rest) => [first, ...rest]));
}

/** One run among several, as the bench sees it. */
export interface OnTheBench {
  readonly runId: string;
  readonly state: RunState;
  /** how its settling stands, where it settles */
  readonly settling: {
    readonly ready: boolean;
    /** captures by itself */
    readonly armed: boolean;
    /** a question about the cup waits for an answer */
    readonly warned: boolean;
    readonly wiggled: boolean;
    /** s; null = too early to say */
    readonly toGo: number | null;
  } | null;
}

/** What hands do next, and for whom. */
export interface Movement {
  readonly runId: string;
  readonly stepId: string;
  readonly kind: 'hold' | 'answer' | 'capture' | 'wiggle' | 'move' | 'decide' | 'return' | 'free';
  readonly title: string;
  /** for `free`: until when, s; null = too early to say */
  readonly seconds: number | null;
}

/** Later than any forecast, s. */
const LATE = 1e9;

/** What hands do first when several things can be done: lower comes first. */
const ORDER: readonly Movement['kind'][] = ['hold', 'answer', 'capture', 'wiggle', 'decide', 'move', 'return', 'free'];

/** How many sensors find room in a standard at once: its cups, times what one takes. */
export type Places = (standardId: string) => number;
const ONE_CUP_EACH: Places = () => 1;

/**
 * The standard in which a run's sensor stands: from the step that put it there until the sensor goes elsewhere; null for none.
 */
export function cupInUse({ state }: OnTheBench): string | null {
  const { current } = state;
  if (state.status !== 'open' || !current) return null;
  if (current.kind === 'settle' && current.pointIndex !== undefined) return cupOf(state, current);
  // On its way to the next one it still stands in the last; a decision and new figures move nothing.
  const last = state.steps
    .slice(0, state.steps.indexOf(current))
    .findLast((s) => state.done.includes(s.id) && s.kind !== 'decide' && s.kind !== 'adjust');
  return last?.kind === 'settle' ? cupOf(state, last) : null;
}

const cupOf = (state: RunState, step: Step) => state.plan.points[step.pointIndex!]?.standard.id ?? null;

/** The run whose sensor still occupies the cup that another run needs next; null when the cup is free. */
export function waitsFor(
  one: OnTheBench,
  all: readonly OnTheBench[],
  places: Places = ONE_CUP_EACH,
): OnTheBench | null {
  const { current } = one.state;
  if (current?.kind !== 'place') return null;
  const wants = cupOf(one.state, current);
  if (wants === null || one.state.plan.points[current.pointIndex!]!.standard.inAir) return null;
  const inside = all.filter((o) => o.runId !== one.runId && cupInUse(o) === wants);
  return inside.length < places(wants) ? null : inside[0]!;
}

/**
 * The next free hand movement among several runs: holds before anything leaves the water, then what frees a cup or a
 * reading, then a sensor that may move, and when all of them settle, the sensor that will want hands first.
 *
 * Of several that may move, the cleanest goes first.
 *
 * What was named stays named until it is done: nothing moves away under the hand that is about to press.
 *
 * @param places room in each standard; one cup for one sensor, if absent
 * @param inHand the movement that was named last, if any
 * @returns null when nothing is open
 */
export function nextMovement(
  all: readonly OnTheBench[],
  places: Places = ONE_CUP_EACH,
  inHand: Movement | null = null,
): Movement | null {
  const open = all.filter((o) => o.state.status === 'open' && o.state.current);
  const made = open.flatMap((one) => {
    const movement = movementOf(one, open, places);
    return movement ? [{ movement, carried: carriedInto(one) }] : [];
  });
  const kept = made.find(({ movement }) => movement.kind !== 'free' && isSame(movement, inHand));
  if (kept) return kept.movement;
  const [first] = made.sort(
    (a, b) =>
      ORDER.indexOf(a.movement.kind) - ORDER.indexOf(b.movement.kind) ||
      (a.movement.seconds ?? LATE) - (b.movement.seconds ?? LATE) ||
      a.carried - b.carried,
  );
  return first?.movement ?? null;
}

/** The same thing to do, for the same run. */
export const isSame = (a: Movement | null, b: Movement | null): boolean =>
  a === b || (a !== null && b !== null && a.runId === b.runId && a.stepId === b.stepId && a.kind === b.kind);

/** What this sensor brings into the cup that it goes into next, in steps that count there. */
function carriedInto({ state }: OnTheBench): number {
  const { plan, steps, current } = state;
  const next = steps.slice(current ? steps.indexOf(current) : 0).find((s) => s.kind === 'place');
  const cup = next?.pointIndex === undefined ? undefined : plan.points[next.pointIndex]?.standard;
  return cup ? carryOver(plan, plan.workingValue, cup) : 0;
}

function movementOf(one: OnTheBench, all: readonly OnTheBench[], places: Places): Movement | null {
  const { state, runId, settling } = one;
  const step = state.current!;
  const as = (kind: Movement['kind'], title = step.title, seconds: number | null = null): Movement => ({
    runId,
    stepId: step.id,
    kind,
    title,
    seconds,
  });
  if (step.kind === 'settle') {
    if (settling?.warned) return as('answer', 'Look at the cup');
    if (settling && !settling.wiggled) return as('wiggle');
    if (settling?.ready && !settling.armed) return as('capture');
    return as('free', step.title, settling?.toGo ?? null);
  }
  if (step.kind === 'wait') return as('free', step.title);
  if (step.kind === 'decide' || step.kind === 'adjust' || step.kind === 'enter') return as('decide');
  if (step.key === 'hold') return as('hold');
  if (step.key === 'return') return as('return');
  return waitsFor(one, all, places) ? null : as('move');
}
