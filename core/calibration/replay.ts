import type { Coefficients } from '../families/ph/electrode.ts';
import type { StandardPoint } from '../families/sensor.ts';
import { Refusal } from '../quantities/refusal.ts';
import { valueAt } from '../solutions/standard.ts';
import type { Capture, DecisionAction, RunEvent, RunEventBody, RunPlan } from './events.ts';
import { calibrationOf, type CalibrationResult } from './fit.ts';
import { stepIn } from './plan.ts';
import { stepsOf, type Step } from './procedure.ts';

export interface KeptCapture extends Capture {
  readonly pass: number;
  readonly stepId: string;
  readonly at: string;
  readonly by: string;
}

/** What a run is, at this point of its events. */
export interface RunState {
  readonly status: 'open' | 'closed' | 'abandoned';
  readonly plan: RunPlan;
  readonly startedAt: string;
  readonly endedAt: string | null;
  readonly steps: readonly Step[];
  readonly done: readonly string[];
  /** first step not done; null when all are */
  readonly current: Step | null;
  /** captures that stand, in the order in which they were made */
  readonly captures: readonly KeptCapture[];
  readonly decisions: readonly { readonly action: DecisionAction; readonly because: string; readonly at: string }[];
  readonly adjusted: { readonly coefficients: Coefficients; readonly how: string; readonly at: string } | null;
  readonly hold: { readonly since: string; readonly releasedAt: string | null } | null;
  /** settlings asked for beyond the second, by pass and point */
  readonly oncemore: Readonly<Record<string, number>>;
  readonly disturbances: number;
  /** trace time at which the current step began, s; null where there is no live trace */
  readonly traceFrom: number | null;
  /** trace time of the last disturbance in the current step, s */
  readonly disturbedAt: number | null;
  readonly warnings: readonly { readonly stepId: string; readonly warning: string; readonly kept: boolean }[];
  readonly notes: readonly { readonly text: string; readonly at: string; readonly by: string }[];
  readonly abandonedBecause: string | null;
  readonly seq: number;
}

/**
 * The state of a run: what a pure reducer makes of its events, the same for server, browser and record.
 *
 * @param events in the order of their `seq`, the first one `started`
 * @throws Refusal `run-not-started`, or what `apply` refuses
 */
export function replay(events: readonly RunEvent[]): RunState {
  const [first, ...rest] = events;
  if (first?.body.type !== 'started') {
    throw new Refusal('run-not-started', 'This run has no beginning. Start a new one on the bench.');
  }
  return rest.reduce(apply, begin(first, first.body.plan));
}

function begin(event: RunEvent, plan: RunPlan): RunState {
  const steps = stepsOf(plan, []);
  return {
    status: 'open',
    plan,
    startedAt: event.at,
    endedAt: null,
    steps,
    done: [],
    current: steps[0] ?? null,
    captures: [],
    decisions: [],
    adjusted: null,
    hold: null,
    oncemore: {},
    disturbances: 0,
    traceFrom: null,
    disturbedAt: null,
    warnings: [],
    notes: [],
    abandonedBecause: null,
    seq: event.seq,
  };
}

/**
 * One event later. Facts that come late or twice are kept without harm; what cannot be is refused.
 *
 * @throws Refusal `run-ended`, `step-unknown`, `decision-out-of-place`, `standard-outside-table`
 */
export function apply(state: RunState, event: RunEvent): RunState {
  const { body } = event;
  const next = { ...state, seq: Math.max(state.seq, event.seq) };
  if (state.status !== 'open' && body.type !== 'noted' && body.type !== 'hold-released') {
    throw new Refusal('run-ended', `This run ended ${state.endedAt ?? ''}. Start a new one; notes can still be added.`);
  }
  switch (body.type) {
    case 'started':
      throw new Refusal('run-started-twice', 'This run has begun already. Go on where it stands.');
    case 'step-done':
      return finishStep(next, body.stepId, event.at, body.traceSeconds);
    case 'step-reopened':
      return reopen(next, body.stepId, body.traceSeconds);
    case 'disturbed':
      return { ...next, disturbances: state.disturbances + 1, disturbedAt: body.traceSeconds };
    case 'captured':
      return keepCapture(next, body, event);
    case 'warned':
      return {
        ...next,
        warnings: [...state.warnings, { stepId: body.stepId, warning: body.warning, kept: body.kept }],
      };
    case 'noted':
      return { ...next, notes: [...state.notes, { text: body.text, at: event.at, by: event.by }] };
    case 'hold-released':
      return { ...next, hold: state.hold && { ...state.hold, releasedAt: state.hold.releasedAt ?? event.at } };
    case 'decided':
      return decide(next, body, event.at);
    case 'adjusted':
      return adjust(next, body, event.at);
    case 'closed':
      if (next.current) {
        throw new Refusal(
          'run-not-finished',
          `“${next.current.title}” is still to do. Do it, or abandon the run with a reason.`,
        );
      }
      return { ...next, status: 'closed', endedAt: event.at };
    case 'abandoned':
      return { ...next, status: 'abandoned', endedAt: event.at, abandonedBecause: body.because };
  }
}

function stepOf(state: RunState, stepId: string): Step {
  const step = state.steps.find((s) => s.id === stepId);
  if (step) return step;
  throw new Refusal('step-unknown', `There is no step “${stepId}” in this run. Reload the bench.`, { stepId });
}

function finishStep(state: RunState, stepId: string, at: string, traceSeconds: number | null = null): RunState {
  const step = stepOf(state, stepId);
  if (state.done.includes(stepId)) return state;
  const done = [...state.done, stepId];
  const moved = { ...state, done, current: firstOpen(state.steps, done), disturbedAt: null, traceFrom: traceSeconds };
  if (step.id === 'hold') return { ...moved, hold: { since: at, releasedAt: null } };
  if (step.id === 'return' && state.hold)
    return { ...moved, hold: { ...state.hold, releasedAt: state.hold.releasedAt ?? at } };
  return moved;
}

/** Back to a step: it and all that followed are open again, and their captures and decisions no longer stand. */
function reopen(state: RunState, stepId: string, traceSeconds: number | null): RunState {
  const step = stepOf(state, stepId);
  const from = state.steps.findIndex((s) => s.id === stepId);
  const kept = state.steps.slice(0, from);
  const keeps = (id: string) => kept.some((s) => s.id === id);
  const decisions = state.decisions.slice(0, kept.filter((s) => s.kind === 'decide').length);
  const captures = state.captures.filter((c) => keeps(c.stepId));
  const oncemore = Object.fromEntries(
    Object.entries(state.oncemore).filter(([key]) =>
      kept.some((s) => s.purpose === 'repeat' && `${s.pass}.${s.pointIndex}` === key),
    ),
  );
  const steps = stepsOf(
    state.plan,
    decisions.map((d) => d.action),
    oncemore,
  );
  const done = state.done.filter(keeps);
  return {
    ...state,
    steps,
    decisions,
    done,
    current: firstOpen(steps, done),
    captures,
    oncemore,
    adjusted: keeps('adjust') ? state.adjusted : null,
    hold: step.id === 'hold' ? null : state.hold,
    disturbedAt: null,
    traceFrom: traceSeconds,
  };
}

function keepCapture(state: RunState, body: Extract<RunEventBody, { type: 'captured' }>, event: RunEvent): RunState {
  const step = stepOf(state, body.stepId);
  // A cup outside its standard's table has no value, and nothing could be made of it: better said now than at the verdict.
  const standard = state.plan.points[step.pointIndex ?? body.capture.pointIndex]?.standard;
  if (standard) valueAt(standard, body.capture.temperatureC);
  const kept: KeptCapture = { ...body.capture, pass: step.pass, stepId: step.id, at: event.at, by: event.by };
  const captures = [...state.captures.filter((c) => c.stepId !== step.id), kept];
  const next = askOnceMore({ ...state, captures }, step);
  return finishStep(next, step.id, event.at, body.traceSeconds);
}

/** Settlings of one cup at the most: beyond that the verdict says that they do not agree. */
const MOST_SETTLINGS = 4;
/** Two settlings of one cup may differ by twice the step that counts (0.02 pH). Common practice, no source. */
export const AGREEMENT_STEPS = 2;

/** Two settlings that do not agree ask for another one: a bubble may have gone in between. */
function askOnceMore(state: RunState, step: Step): RunState {
  const key = `${step.pass}.${step.pointIndex}`;
  const mine = settlingsOf(state, step.pass, step.pointIndex!);
  const [before, last] = mine.slice(-2);
  const planned = state.plan.points[step.pointIndex!];
  const counts = planned && last ? stepIn(state.plan, planned.standard, last.temperatureC) : Infinity;
  const apart = before && last ? Math.abs(last.signal - before.signal) / counts : 0;
  if (step.purpose !== 'repeat' || apart <= AGREEMENT_STEPS || mine.length >= MOST_SETTLINGS) return state;
  const oncemore = { ...state.oncemore, [key]: mine.length - 1 };
  return {
    ...state,
    oncemore,
    steps: stepsOf(
      state.plan,
      state.decisions.map((d) => d.action),
      oncemore,
    ),
  };
}

function settlingsOf(state: RunState, pass: number, pointIndex: number): readonly KeptCapture[] {
  return state.captures.filter((c) => c.pass === pass && c.pointIndex === pointIndex && c.purpose !== 'read-back');
}

function decide(state: RunState, body: Extract<RunEventBody, { type: 'decided' }>, at: string): RunState {
  if (state.current?.kind !== 'decide') {
    throw new Refusal(
      'decision-out-of-place',
      `A verdict cannot be decided at “${state.current?.title ?? 'the end'}”. Capture all standards first.`,
    );
  }
  const decisions = [...state.decisions, { action: body.action, because: body.because, at }];
  const steps = stepsOf(
    state.plan,
    decisions.map((d) => d.action),
    state.oncemore,
  );
  return finishStep({ ...state, decisions, steps }, state.current.id, at);
}

function adjust(state: RunState, body: Extract<RunEventBody, { type: 'adjusted' }>, at: string): RunState {
  if (state.current?.kind !== 'adjust') {
    throw new Refusal('decision-out-of-place', 'There is nothing to adjust at this step. Decide the verdict first.');
  }
  return finishStep(
    { ...state, adjusted: { coefficients: body.coefficients, how: body.how, at } },
    state.current.id,
    at,
  );
}

function firstOpen(steps: readonly Step[], done: readonly string[]): Step | null {
  return steps.find((s) => !done.includes(s.id)) ?? null;
}

/** Number of the last pass through the standards: 1, or more after a cleaning. */
export function lastPass(state: RunState): number {
  return Math.max(1, ...state.captures.map((c) => c.pass));
}

/** Signal of one point in one pass: the mean of its settlings, and how far they agree. */
export interface MeasuredPoint extends StandardPoint {
  readonly pointIndex: number;
  /** second settling − first, in the unit of the signal; null when there was only one */
  readonly disagreement: number | null;
  readonly t90: number | null;
}

/**
 * The measured points of one pass, one for each standard captured in it.
 *
 * The last two settlings of the same cup are averaged; half their difference joins the uncertainty.
 */
export function pointsOf(state: RunState, pass = lastPass(state)): readonly MeasuredPoint[] {
  return state.plan.points.flatMap((planned, pointIndex) => {
    const all = settlingsOf(state, pass, pointIndex);
    // The last two: what a wiggle has cleared away does not count any more.
    const mine = all.slice(-2);
    const [first] = mine;
    if (!first) return [];
    const second = mine[1] ?? null;
    const spread = second ? second.signal - first.signal : null;
    const mean = (of: (c: KeptCapture) => number) => mine.reduce((s, c) => s + of(c), 0) / mine.length;
    const own = Math.max(...mine.map((c) => c.signalUncertainty));
    return [
      {
        pointIndex,
        standard: planned.standard,
        lotId: planned.lot.id,
        temperatureC: mean((c) => c.temperatureC),
        signal: mean((c) => c.signal),
        signalUncertainty: Math.hypot(own, (spread ?? 0) / 2),
        disagreement: spread,
        t90: all[0]!.t90,
      },
    ];
  });
}

/** Fit of one pass; a typed reason while there are too few standards. */
export function fitOf(state: RunState, pass = lastPass(state)): CalibrationResult {
  return calibrationOf(state.plan, pointsOf(state, pass));
}
