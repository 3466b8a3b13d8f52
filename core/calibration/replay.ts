import { Refusal } from '../quantities/refusal.ts';
import { valueAt } from '../solutions/standard.ts';
import { standardOf } from './entry.ts';
import type { RunEvent, RunEventBody, RunPlan, TraceMoment } from './events.ts';
import { lifted } from './lift.ts';
import { askOnceMore } from './extra-settlings.ts';
import { standardAt } from './measured.ts';
import { stepsOf, type Step } from './procedure.ts';
import type { KeptCapture, RunState } from './state.ts';

/**
 * The state of a run: what a pure reducer makes of its events, the same for server, browser and record.
 *
 * @param events in the order of their `seq`, the first one `started`
 * @throws Refusal `run-not-started`, `newer-event`, or what `apply` refuses
 */
export function replay(events: readonly RunEvent[]): RunState {
  const [first, ...rest] = events.map((event) => lifted(event));
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
    refused: null,
    hold: null,
    extraSettlings: {},
    entered: {},
    skipped: [],
    photos: [],
    since: event.at,
    disturbances: 0,
    traceFrom: null,
    traceEpoch: null,
    traceSince: event.at,
    disturbedAt: null,
    disturbed: false,
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
      return finishStep(next, body.stepId, event.at, body);
    case 'step-reopened':
      return reopen(next, body, event.at);
    case 'disturbed':
      return disturb(next, body, event.at);
    case 'captured':
      return keepCapture(next, body, event);
    case 'entered':
      return enter(next, body, event.at);
    case 'skipped':
      return skip(next, body, event.at);
    case 'photographed': {
      const { photoId, stepId, typed } = body;
      return { ...next, photos: [...state.photos, { photoId, stepId, typed, at: event.at, by: event.by }] };
    }
    case 'warned':
      return {
        ...next,
        warnings: [...state.warnings, { stepId: body.stepId, odd: body.odd, kept: body.kept }],
      };
    case 'noted':
      return { ...next, notes: [...state.notes, { text: body.text, at: event.at, by: event.by }] };
    case 'hold-released':
      return { ...next, hold: state.hold && { ...state.hold, releasedAt: state.hold.releasedAt ?? event.at } };
    case 'decided':
      return decide(next, body, event.at);
    case 'adjusted':
      return adjust(next, body, event.at);
    case 'adjustment-refused':
      return refuse(next, body, event.at);
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

/** Disturbed on a trace of the same epoch: nothing before it counts. On another, or on none: that one begins anew. */
function disturb(state: RunState, { traceSeconds, traceEpoch = null }: TraceMoment, at: string): RunState {
  const next = { ...state, disturbances: state.disturbances + 1, disturbed: true };
  if (traceSeconds !== null && traceEpoch === state.traceEpoch) return { ...next, disturbedAt: traceSeconds };
  return { ...next, traceFrom: traceSeconds, traceEpoch, traceSince: at, disturbedAt: traceSeconds };
}

/** Where a trace begins that belongs to a new step. */
const beginsAt = ({ traceSeconds, traceEpoch = null }: TraceMoment, at: string) => ({
  traceFrom: traceSeconds,
  traceEpoch: traceSeconds === null ? null : traceEpoch,
  traceSince: at,
  disturbedAt: null,
  disturbed: false,
});

function finishStep(state: RunState, stepId: string, at: string, moment: TraceMoment): RunState {
  const step = stepOf(state, stepId);
  if (state.done.includes(stepId)) return state;
  const done = [...state.done, stepId];
  const moved = {
    ...state,
    done,
    current: firstOpen(state.steps, done),
    ...beginsAt(moment, at),
    since: at,
  };
  if (step.id === 'hold') return { ...moved, hold: { since: at, releasedAt: null } };
  if (step.id === 'return' && state.hold)
    return { ...moved, hold: { ...state.hold, releasedAt: state.hold.releasedAt ?? at } };
  return moved;
}

/** Ends a step after which the probe still stands where it stood: what belonged to the trace of this step belongs to the next. */
function finishInPlace(state: RunState, stepId: string, at: string): RunState {
  const { traceFrom, traceEpoch, traceSince } = state;
  return { ...finishStep(state, stepId, at, { traceSeconds: null }), traceFrom, traceEpoch, traceSince };
}

/** Back to a step: it and all that followed are open again, and their captures and decisions no longer stand. */
function reopen(state: RunState, moment: { readonly stepId: string } & TraceMoment, at: string): RunState {
  const { stepId } = moment;
  const step = stepOf(state, stepId);
  const from = state.steps.findIndex((s) => s.id === stepId);
  const kept = state.steps.slice(0, from);
  const keeps = (id: string) => kept.some((s) => s.id === id);
  const decisions = state.decisions.slice(0, kept.filter((s) => s.kind === 'decide').length);
  const captures = state.captures.filter((c) => keeps(c.stepId));
  const extraSettlings = Object.fromEntries(
    Object.entries(state.extraSettlings).filter(([key]) =>
      kept.some((s) => s.purpose === 'repeat' && `${s.pass}.${s.pointIndex}` === key),
    ),
  );
  const steps = stepsOf(
    state.plan,
    decisions.map((d) => d.action),
    extraSettlings,
  );
  const done = state.done.filter(keeps);
  return {
    ...state,
    steps,
    decisions,
    done,
    current: firstOpen(steps, done),
    captures,
    extraSettlings,
    entered: Object.fromEntries(
      Object.entries(state.entered).filter(([key]) =>
        kept.some((s) => s.kind === 'enter' && `${s.pass}.${s.pointIndex}` === key),
      ),
    ),
    skipped: state.skipped.filter((s) => keeps(s.stepId)),
    since: at,
    adjusted: keeps('adjust') ? state.adjusted : null,
    refused: keeps('adjust') ? state.refused : null,
    hold: step.id === 'hold' ? null : state.hold,
    ...beginsAt(moment, at),
  };
}

/** A value from elsewhere becomes the standard of its point, in this pass. @throws Refusal as `standardOf` */
function enter(state: RunState, body: Extract<RunEventBody, { type: 'entered' }>, at: string): RunState {
  const step = stepOf(state, body.stepId);
  if (step.kind !== 'enter')
    throw new Refusal('step-takes-no-value', `“${step.title}” takes no value. Reload the bench.`, { stepId: step.id });
  const standard = standardOf(state.plan, body.entry);
  const entered = { ...state.entered, [`${step.pass}.${step.pointIndex}`]: standard };
  return finishStep({ ...state, entered }, step.id, at, body);
}

/** @throws Refusal `step-not-skippable` */
function skip(state: RunState, body: Extract<RunEventBody, { type: 'skipped' }>, at: string): RunState {
  const step = stepOf(state, body.stepId);
  if (!step.skippable)
    throw new Refusal('step-not-skippable', `“${step.title}” cannot be passed over. Do it, or abandon the run.`);
  if (state.done.includes(step.id)) return state;
  const skipped = [...state.skipped, { stepId: step.id, title: step.title, because: body.because }];
  // A hold that was passed over is none: nobody has to release it.
  const { hold } = state;
  return { ...finishStep({ ...state, skipped }, step.id, at, body), hold };
}

function keepCapture(state: RunState, body: Extract<RunEventBody, { type: 'captured' }>, event: RunEvent): RunState {
  const step = stepOf(state, body.stepId);
  // A cup outside its standard's table has no value, and nothing could be made of it: better said now than at the verdict.
  const standard = standardAt(state, step.pass, step.pointIndex ?? body.capture.pointIndex);
  if (standard) valueAt(standard, body.capture.temperatureC);
  const kept: KeptCapture = { ...body.capture, pass: step.pass, stepId: step.id, at: event.at, by: event.by };
  const captures = [...state.captures.filter((c) => c.stepId !== step.id), kept];
  const next = askOnceMore({ ...state, captures }, step);
  return finishStep(next, step.id, event.at, body);
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
    state.extraSettlings,
  );
  // The probe still stands in its last cup.
  return finishInPlace({ ...state, decisions, steps }, state.current.id, at);
}

function adjust(state: RunState, body: Extract<RunEventBody, { type: 'adjusted' }>, at: string): RunState {
  const adjusted = { coefficients: body.coefficients, how: body.how, at };
  return finishInPlace({ ...state, adjusted }, stepToAdjust(state), at);
}

/** Nothing was changed, so there is nothing to look at afterwards: the sensor goes back as it was found. */
function refuse(state: RunState, body: Extract<RunEventBody, { type: 'adjustment-refused' }>, at: string): RunState {
  const adjusting = stepToAdjust(state);
  const looks = state.steps
    .slice(1 + state.steps.findIndex((s) => s.id === adjusting))
    .filter((s) => s.id !== 'return');
  const refused = { message: body.message, shows: body.shows, at };
  const done = [...state.done, ...looks.map((s) => s.id)];
  return finishInPlace({ ...state, done, refused }, adjusting, at);
}

/** @throws Refusal `decision-out-of-place` */
function stepToAdjust(state: RunState): string {
  if (state.current?.kind === 'adjust') return state.current.id;
  throw new Refusal('decision-out-of-place', 'There is nothing to adjust at this step. Decide the verdict first.');
}

function firstOpen(steps: readonly Step[], done: readonly string[]): Step | null {
  return steps.find((s) => !done.includes(s.id)) ?? null;
}
