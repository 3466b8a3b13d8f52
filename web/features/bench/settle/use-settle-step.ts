import { useEffect, useMemo, useRef, useState } from 'react';
import { epochIn } from '@frustum/contract';
import {
  cupIn,
  hasBegunAnew,
  movedSince,
  ofThisStep,
  Refusal,
  standardAt,
  STATISTICAL,
  responseIn,
  thinned,
  valueAt,
  type Capture,
  type Coefficients,
  type PlannedPoint,
  type LiveTraceSample,
  type Settling,
  type Standard,
  type Step,
  type Warning,
} from '@frustum/core';
import { useShelfQuery } from '../../../app/api.ts';
import { inFamily, type InFamily } from '../../../format/in-family.ts';
import { armCup, disarmCup, isArmedHere } from '../armed-here.ts';
import { answeredIn, standardsOn, useWarning } from './warning.ts';
import { useReadySignal } from '../use-attention.ts';
import { momentOn, type LiveTrace } from '../use-live-trace.ts';
import type { BenchRun } from '../use-run.ts';
import type { CaptureBody } from './capture-body.ts';
import { useSettling } from './use-settling.ts';

const KEPT_SAMPLES = 200;
const LOOK_BACK_SECONDS = 25;

/** A step that waits for a steady reading, as the screen needs it. */
export interface SettleStep {
  readonly wired: boolean;
  readonly figures: InFamily;
  readonly planned: PlannedPoint;
  /** what is in the cup; a value that is still to be entered has none */
  readonly standard: Standard | null;
  readonly inForce: Coefficients;
  readonly samples: readonly LiveTraceSample[];
  /** the channel's clock began anew since this step began: its epoch, if so */
  readonly anew: string | null;
  readonly settling: Settling | null;
  /** what is odd, if anything is */
  readonly warning: Warning | null;
  /** takes it from the screen: it was answered */
  readonly answer: () => void;
  readonly wiggled: boolean;
  /** why this cup has no value at its temperature */
  readonly outside: string | null;
  readonly ready: boolean;
  /** steady, with a doubt that nobody has answered: never captured by itself */
  readonly doubted: boolean;
  readonly armed: boolean;
  /** captures, or arms the capture */
  readonly press: () => void;
  /** it waits for a word from now on */
  readonly disarm: () => void;
  readonly disturb: () => void;
  readonly keep: (body: CaptureBody) => void;
}

/** What is in the cup, by the plan and by what was entered. */
function useCup({ state }: BenchRun, step: Step, samples: LiveTrace['samples']) {
  const { plan } = state;
  const kind = plan.procedure?.kind;
  const planned = plan.points[step.pointIndex!]!;
  const input = planned.role === 'input';
  const known = standardAt(state, step.pass, step.pointIndex!) ?? planned.standard;
  const response = useMemo(() => {
    const inCup = responseIn(plan, known);
    // A shorted input is not in the cup, and water is no standard: neither follows a table.
    return input || kind === 'sample' ? { ...inCup, perC: 0 } : inCup;
  }, [plan, known, input, kind]);
  const noCup = input || kind === 'sample' || kind === 'thermometers' || kind === 'electrical';
  const { data: shelf } = useShelfQuery();
  const poured = useMemo(
    () => (noCup ? null : cupIn(state, step, known, standardsOn(shelf, state.plan))),
    [noCup, state, step, known, shelf],
  );
  const fresh = poured?.fresh ?? false;
  const wayC = useMemo(
    () => (fresh ? movedSince(state.startedAt, samples) : undefined),
    [fresh, state.startedAt, samples],
  );
  const cup = useMemo(() => (poured && wayC !== undefined ? { ...poured, wayC } : poured), [poured, wayC]);
  return { planned, input, standard: kind === 'sample' ? null : known, response, cup };
}

/** What of the trace belongs to this step, and what it says: steady or not, and whether something is odd. */
function useLook(run: BenchRun, step: Step, trace: LiveTrace, { cup, response }: ReturnType<typeof useCup>) {
  const { state } = run;
  const { plan, traceFrom, traceEpoch, traceSince, disturbedAt } = state;
  const { epoch } = trace;
  // A wiggle shows against what came before it: the second settling begins a little earlier than its step.
  const lookBack = step.purpose === 'repeat' ? LOOK_BACK_SECONDS : 0;
  const samples = useMemo(
    () => ofThisStep({ traceFrom, traceEpoch, traceSince }, trace.samples, epoch, lookBack),
    [trace.samples, epoch, traceFrom, traceEpoch, traceSince, lookBack],
  );
  const disturbedHere = traceEpoch === epoch ? disturbedAt : null;
  const school = step.purpose === 'read-back' && plan.procedure?.kind !== 'electrical' ? STATISTICAL : plan.school;
  const answered = answeredIn(state, step);
  const key = plan.channelKind === 'hand' ? null : `${step.id}/${epoch}/${traceFrom}/${traceSince}`;
  const { resolution } = plan;
  const look = useMemo(
    () =>
      key === null
        ? null
        : {
            key,
            response,
            samples,
            school,
            resolution,
            disturbedAt: disturbedHere,
            cup,
            answered: answered.split('\n'),
          },
    [key, response, samples, school, resolution, disturbedHere, cup, answered],
  );
  const seen = useSettling(look);
  const settling = seen?.settling ?? null;
  const [warning, answer] = useWarning(seen?.warning ?? null, answered);
  useNoticed(settling, samples, epoch, disturbedHere, run, step);
  return { samples, settling, warning, answer };
}

/** A steady reading, as it is kept. */
function steadyCapture(
  settling: Settling,
  temperatureC: number,
  samples: readonly LiveTraceSample[],
  hasT90: boolean,
): CaptureBody {
  return {
    method: 'live',
    signal: settling.level,
    signalUncertainty: settling.levelUncertainty,
    // As it is shown and judged: the table is asked with the same figure.
    temperatureC: Number(temperatureC.toFixed(2)),
    settledSeconds: settling.seconds,
    t90: hasT90 ? settling.t90 : null,
    sampledAt: new Date(samples.at(-1)!.atMs).toISOString(),
    trace: thinned(
      samples.map(({ t, signal, temperatureC: c }) => ({ t: t - samples[0]!.t, signal, temperatureC: c })),
      KEPT_SAMPLES,
    ),
  };
}

/**
 * Watches a trace, says when it is steady, and captures it: by a press, or by itself once it was armed.
 *
 * @param byItself armed from the beginning
 * @param typing begins with somebody who types the value: nothing is captured by itself then
 */
export function useSettleStep(
  run: BenchRun,
  step: Step,
  trace: LiveTrace,
  byItself: boolean,
  typing: boolean,
): SettleStep {
  const { state, send, view } = run;
  const cup = useCup(run, step, trace.samples);
  const { samples, settling, warning, answer } = useLook(run, step, trace, cup);
  const wiggled = step.purpose !== 'repeat' || state.disturbed;
  const cupC = settling?.temperatureC ?? samples.at(-1)?.temperatureC ?? null;
  const outside = cupC === null || !cup.standard ? null : tableTrouble(cup.standard, cupC);
  const ready = settling?.state === 'ready' && wiggled && trace.state === 'live' && !warning?.stops && !outside;
  useReadySignal(ready);
  const keep = (body: CaptureBody) => {
    const capture: Capture = { ...body, pointIndex: step.pointIndex!, purpose: step.purpose! };
    send({ type: 'captured', stepId: step.id, ...momentOn(trace), capture });
  };
  const capture = () => {
    if (!settling || settling.temperatureC === null || !ready) return;
    keep(steadyCapture(settling, settling.temperatureC, samples, step.purpose === 'as-found' && !cup.input));
  };
  // Who filled the cup here waits for its reading, and who captured once wants the second look too: both come by themselves.
  const [wanted, setWanted] = useState(
    () => !typing && (byItself || step.purpose === 'repeat' || isArmedHere(view.runId, step)),
  );
  const want = (itself: boolean) => {
    (itself ? armCup : disarmCup)(view.runId, step);
    setWanted(itself);
  };
  const doubted = ready && warning !== null;
  const armed = wanted && !doubted;
  useEffect(() => {
    if (armed && ready) capture();
  });
  // A transmitter that was trimmed shows what it shows: nothing is reckoned on top of it.
  const trimmed = state.plan.procedure?.kind === 'electrical' || step.purpose === 'as-found';
  return {
    wired: state.plan.channelKind !== 'hand',
    figures: inFamily(state.plan),
    planned: cup.planned,
    standard: cup.standard,
    inForce: (trimmed ? null : state.adjusted?.coefficients) ?? state.plan.inForce,
    samples,
    anew: hasBegunAnew(state, trace.epoch, epochIn(trace.epoch)?.atMs ?? null) ? trace.epoch : null,
    settling,
    warning,
    answer,
    wiggled,
    outside,
    ready,
    doubted,
    armed,
    press: () => (ready ? capture() : want(!wanted)),
    disarm: () => want(false),
    disturb() {
      if (samples.length) send({ type: 'disturbed', stepId: step.id, ...momentOn(trace), noticed: false });
    },
    keep,
  };
}

/** Why a cup has no value at this temperature, in a sentence with the way out; null when it has one. */
function tableTrouble(standard: Standard, temperatureC: number): string | null {
  try {
    valueAt(standard, Number(temperatureC.toFixed(2)));
    return null;
  } catch (error) {
    if (error instanceof Refusal) return error.message;
    throw error;
  }
}

/** Keeps a disturbance that the trace itself shows, once. */
function useNoticed(
  settling: Settling | null,
  samples: readonly LiveTraceSample[],
  epoch: string,
  before: number | null,
  run: BenchRun,
  step: Step,
): void {
  const sent = useRef<number | null>(null);
  const at = settling?.disturbed ? (samples[settling.windowFrom]?.t ?? null) : null;
  const { send } = run;
  useEffect(() => {
    if (at === null || sent.current === at || (before !== null && at <= before)) return;
    sent.current = at;
    send({ type: 'disturbed', stepId: step.id, traceSeconds: at, traceEpoch: epoch, noticed: true });
  }, [at, epoch, before, send, step.id]);
}
