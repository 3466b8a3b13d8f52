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
  readonly keep: (body: Omit<Capture, 'pointIndex' | 'purpose'>) => void;
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
  const { state, send } = run;
  const { plan } = state;
  const wired = plan.channelKind !== 'hand';
  const figures = inFamily(plan);
  const kind = plan.procedure?.kind;
  // A wiggle shows against what came before it: the second settling begins a little earlier than its step.
  const lookBack = step.purpose === 'repeat' ? LOOK_BACK_SECONDS : 0;
  const { traceFrom, traceEpoch, traceSince, disturbedAt } = state;
  const { epoch } = trace;
  const samples = useMemo(
    () => ofThisStep({ traceFrom, traceEpoch, traceSince }, trace.samples, epoch, lookBack),
    [trace.samples, epoch, traceFrom, traceEpoch, traceSince, lookBack],
  );
  const disturbedHere = traceEpoch === epoch ? disturbedAt : null;
  const school = step.purpose === 'read-back' && kind !== 'electrical' ? STATISTICAL : plan.school;
  const planned = plan.points[step.pointIndex!]!;
  const known = standardAt(state, step.pass, step.pointIndex!) ?? planned.standard;
  const standard = kind === 'sample' ? null : known;
  const input = planned.role === 'input';
  const response = useMemo(() => {
    const inCup = responseIn(plan, known);
    // A shorted input is not in the cup, and water is no standard: neither follows a table.
    return input || kind === 'sample' ? { ...inCup, perC: 0 } : inCup;
  }, [plan, known, input, kind]);
  const cups = input || kind === 'sample' || kind === 'thermometers' || kind === 'electrical';
  const { data: shelf } = useShelfQuery();
  const cup = useMemo(
    () => (cups ? null : cupIn(state, step, known, standardsOn(shelf, state.plan))),
    [cups, state, step, known, shelf],
  );
  const fresh = cup?.fresh ?? false;
  const wayC = useMemo(
    () => (fresh ? movedSince(state.startedAt, trace.samples) : undefined),
    [fresh, state.startedAt, trace.samples],
  );
  const answered = answeredIn(state, step);
  const look = useMemo(
    () =>
      wired
        ? {
            key: `${step.id}/${epoch}/${traceFrom}/${traceSince}`,
            response,
            samples,
            school,
            resolution: plan.resolution,
            disturbedAt: disturbedHere,
            cup: cup && wayC !== undefined ? { ...cup, wayC } : cup,
            answered: answered.split('\n'),
          }
        : null,
    [
      wired,
      step.id,
      epoch,
      traceFrom,
      traceSince,
      response,
      samples,
      school,
      plan.resolution,
      disturbedHere,
      cup,
      wayC,
      answered,
    ],
  );
  const seen = useSettling(look);
  const settling = seen?.settling ?? null;
  const [warning, answer] = useWarning(seen?.warning ?? null, answered);
  const wiggled = step.purpose !== 'repeat' || state.disturbed;
  const isLive = trace.state === 'live';
  const cupC = settling?.temperatureC ?? samples.at(-1)?.temperatureC ?? null;
  const outside = cupC === null || !standard ? null : tableTrouble(standard, cupC);
  const ready = settling?.state === 'ready' && wiggled && isLive && !warning?.stops && !outside;
  useNoticed(settling, samples, epoch, disturbedHere, run, step);
  useReadySignal(ready);

  const keep = (body: Omit<Capture, 'pointIndex' | 'purpose'>) => {
    const capture: Capture = { ...body, pointIndex: step.pointIndex!, purpose: step.purpose! };
    send({ type: 'captured', stepId: step.id, ...momentOn(trace), capture });
  };
  const capture = () => {
    if (!settling || settling.temperatureC === null || !ready) return;
    keep({
      method: 'live',
      signal: settling.level,
      signalUncertainty: settling.levelUncertainty,
      // As it is shown and judged: the table is asked with the same figure.
      temperatureC: Number(settling.temperatureC.toFixed(2)),
      settledSeconds: settling.seconds,
      t90: step.purpose === 'as-found' && !input ? settling.t90 : null,
      sampledAt: new Date(samples.at(-1)!.atMs).toISOString(),
      trace: thinned(
        samples.map(({ t, signal, temperatureC }) => ({ t: t - samples[0]!.t, signal, temperatureC })),
        KEPT_SAMPLES,
      ),
    });
  };
  // Who filled the cup here waits for its reading, and who captured once wants the second look too: both come by themselves.
  const [wanted, setWanted] = useState(
    () => !typing && (byItself || step.purpose === 'repeat' || isArmedHere(run.view.runId, step)),
  );
  const want = (itself: boolean) => {
    (itself ? armCup : disarmCup)(run.view.runId, step);
    setWanted(itself);
  };
  const press = () => (ready ? capture() : want(!wanted));
  const doubted = ready && warning !== null;
  const armed = wanted && !doubted;
  useEffect(() => {
    if (armed && ready) capture();
  });
  const disturb = () => {
    if (samples.length) send({ type: 'disturbed', stepId: step.id, ...momentOn(trace), noticed: false });
  };
  // A transmitter that was trimmed shows what it shows: nothing is reckoned on top of it.
  const adjusted = kind === 'electrical' || step.purpose === 'as-found' ? null : state.adjusted;
  const inForce = adjusted?.coefficients ?? plan.inForce;
  return {
    wired,
    figures,
    planned,
    standard,
    inForce,
    samples,
    anew: hasBegunAnew(state, epoch, epochIn(epoch)?.atMs ?? null) ? epoch : null,
    settling,
    warning,
    answer,
    wiggled,
    outside,
    ready,
    doubted,
    armed,
    press,
    disarm: () => want(false),
    disturb,
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
