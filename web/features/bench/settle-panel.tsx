import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import {
  Refusal,
  shownPh,
  STATISTICAL,
  stepIn,
  thinned,
  valueAt,
  type Capture,
  type Sample,
  type Settling,
  type Standard,
  type Step,
} from '@frustum/core';
import { useKeys } from '../../app/keys.ts';
import { useAppSelector } from '../../app/store.ts';
import type { TracePoint } from '../../charts/trace-chart.tsx';
import { fixed } from '../../format/numbers.ts';
import { CupWarning, useCupWarning } from './cup-warning.tsx';
import { HandEntry } from './hand-entry.tsx';
import { StateLine } from './state-line.tsx';
import { useReadySignal } from './use-attention.ts';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';
import { useSettling } from './use-settling.ts';

const TraceChart = lazy(() => import('../../charts/trace-chart.tsx'));

const KEPT_SAMPLES = 200;
const DRAWN_SAMPLES = 240;
const LOOK_BACK_SECONDS = 25;

/** Is it steady, and is it the right cup? The live trace, its forecast, and one primary action. */
export function SettlePanel({ run, step, trace }: { run: BenchRun; step: Step; trace: LiveTrace }) {
  const { state, send } = run;
  const { plan } = state;
  const wired = plan.channelKind !== 'hand';
  const handed = useAppSelector((s) => s.handed[run.view.runId]);
  const [byHand, setByHand] = useState(handed !== undefined);
  // A wiggle shows against what came before it: the second settling begins a little earlier than its step.
  const traceFrom = (state.traceFrom ?? 0) - (step.purpose === 'repeat' ? LOOK_BACK_SECONDS : 0);
  const samples = useMemo(() => trace.samples.filter((s) => s.t >= traceFrom), [trace.samples, traceFrom]);
  const school = step.purpose === 'read-back' ? STATISTICAL : plan.school;
  const planned = plan.points[step.pointIndex!]!;
  const settling = useSettling(
    wired ? `${step.id}/${traceFrom}` : null,
    stepIn(plan, planned.standard, planned.standard.nominalAtC),
    samples,
    school,
    plan.resolution,
    state.disturbedAt,
  );
  const [warning, answered] = useCupWarning(settling, planned.standard, run, step);
  const wiggled = step.purpose !== 'repeat' || state.disturbedAt !== null;
  const fresh = trace.state !== 'stale' && trace.state !== 'fault';
  const cupC = settling?.temperatureC ?? samples.at(-1)?.temperatureC ?? null;
  const outside = cupC === null ? null : tableTrouble(planned.standard, cupC);
  const ready = settling?.state === 'ready' && wiggled && fresh && !warning && !outside;
  useNoticed(settling, samples, run, step);
  useReadySignal(ready);

  const keep = (body: Omit<Capture, 'pointIndex' | 'purpose'>) => {
    const capture: Capture = { ...body, pointIndex: step.pointIndex!, purpose: step.purpose! };
    send({ type: 'captured', stepId: step.id, traceSeconds: samples.at(-1)?.t ?? null, capture });
  };
  const capture = () => {
    if (!settling || !ready) return;
    keep({
      method: 'live',
      signal: settling.level,
      signalUncertainty: settling.levelUncertainty,
      // As it is shown and judged: the table is asked with the same figure.
      temperatureC: Number(settling.temperatureC.toFixed(2)),
      settledSeconds: settling.seconds,
      t90: step.purpose === 'as-found' ? settling.t90 : null,
      trace: thinned(
        samples.map((s) => ({ ...s, t: s.t - samples[0]!.t })),
        KEPT_SAMPLES,
      ),
    });
  };
  const [armed, setArmed] = useState(false);
  const press = () => (ready ? capture() : setArmed((a) => !a));
  useEffect(() => {
    if (armed && ready) capture();
  });
  const disturb = () => {
    const last = samples.at(-1);
    if (last) send({ type: 'disturbed', stepId: step.id, traceSeconds: last.t, noticed: false });
  };
  const keys = { Space: press, d: disturb, e: () => setByHand((b) => !b) };
  useKeys(keys);

  const inForce = step.purpose === 'read-back' && state.adjusted ? state.adjusted.coefficients : plan.inForce;
  const last = samples.at(-1) ?? trace.samples.at(-1);
  const shown = last ? shownPh(last.signal, last.temperatureC, inForce) : null;
  const expected =
    last && !tableTrouble(planned.standard, last.temperatureC) ? valueAt(planned.standard, last.temperatureC) : null;
  return (
    <div>
      <div className="flex justify-between items-end gap-4">
        <div className="min-w-0">
          <span className="sub">
            {wired ? (step.purpose === 'read-back' ? 'With the new figures' : 'In the cup now') : step.title}
          </span>
          {wired && (
            <p className="leading-none mt-1 whitespace-nowrap">
              <span
                className="fig font-[560] text-[64px] lg:text-[84px] leading-none tracking-[-0.04em]"
                data-testid="shown-ph"
              >
                {fixed(shown, 2)}
              </span>
              <span className="text-[22px] sub ml-2">pH</span>
            </p>
          )}
        </div>
        <div className="text-right sub text-[15px]">
          standard at <span className="fig">{fixed(last?.temperatureC ?? planned.standard.nominalAtC, 1)} °C</span>
          <b className="block fig font-[560] text-[30px] text-base-content">{fixed(expected, 2)}</b>
          {planned.lot.label ? `lot ${planned.lot.label}` : 'no lot noted'}
        </div>
      </div>
      {wired && (
        <>
          <StateLine
            settling={settling}
            trace={trace}
            wiggled={wiggled}
            ready={ready}
            warned={warning !== null}
            outside={outside}
          />
          {settling && samples.length > 5 ? (
            <Suspense fallback={<div className="h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px]" />}>
              <Trace
                settling={settling}
                samples={samples}
                toPh={(mv) => shownPh(mv, settling.temperatureC || 25, inForce)}
              />
            </Suspense>
          ) : (
            <div className="h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px] grid place-items-center sub">
              {fresh ? 'The trace begins here.' : ''}
            </div>
          )}
          {warning ? (
            <CupWarning
              standard={warning}
              asked={planned.standard}
              onChanged={() => {
                const words = `It looked like ${warning.name} where ${planned.standard.name} was asked for; the cup was changed.`;
                answered();
                send(
                  { type: 'warned', stepId: step.id, warning: words, kept: false },
                  { type: 'disturbed', stepId: step.id, traceSeconds: samples.at(-1)!.t, noticed: false },
                );
              }}
              onKept={() =>
                send({
                  type: 'warned',
                  stepId: step.id,
                  warning: `It looked like ${warning.name} where ${planned.standard.name} was asked for.`,
                  kept: true,
                })
              }
            />
          ) : (
            <button
              type="button"
              className={`btn w-full h-16 text-[21px] mt-3.5 ${ready ? 'btn-primary' : armed ? 'btn-outline border-primary' : 'btn-outline border-base-300 font-semibold'}`}
              aria-pressed={ready ? undefined : armed}
              onClick={press}
            >
              {ready
                ? `Capture ${fixed(shownPh(settling.level, settling.temperatureC, inForce), 2)}`
                : armed
                  ? 'Captures by itself when ready'
                  : 'Capture when ready'}{' '}
              <kbd className="key max-lg:hidden">Space</kbd>
            </button>
          )}
          <div className="flex gap-2.5 mt-2.5">
            <button type="button" className="btn btn-outline border-base-300 flex-1 h-14 text-base" onClick={disturb}>
              {step.purpose === 'repeat' && !wiggled ? 'Wiggled' : 'Disturbed, settle again'}{' '}
              <kbd className="key max-lg:hidden">d</kbd>
            </button>
            <button
              type="button"
              className="btn btn-outline border-base-300 flex-1 h-14 text-base"
              aria-expanded={byHand}
              onClick={() => setByHand(!byHand)}
            >
              Enter by hand <kbd className="key max-lg:hidden">e</kbd>
            </button>
          </div>
        </>
      )}
      {(byHand || !wired) && <HandEntry state={state} step={step} runId={run.view.runId} onCapture={keep} />}
    </div>
  );
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
function useNoticed(settling: Settling | null, samples: readonly Sample[], run: BenchRun, step: Step): void {
  const sent = useRef<number | null>(null);
  const at = settling?.disturbed ? (samples[settling.windowFrom]?.t ?? null) : null;
  const { state, send } = run;
  useEffect(() => {
    if (at === null || sent.current === at || (state.disturbedAt !== null && at <= state.disturbedAt)) return;
    sent.current = at;
    send({ type: 'disturbed', stepId: step.id, traceSeconds: at, noticed: true });
  }, [at, state.disturbedAt, send, step.id]);
}

function Trace({
  settling,
  samples,
  toPh,
}: {
  settling: Settling;
  samples: readonly Sample[];
  toPh: (mv: number) => number;
}) {
  const start = samples[0]!.t;
  const drawn = thinned(samples, DRAWN_SAMPLES);
  const now = samples.at(-1)!.t - start;
  const points: TracePoint[] = [
    ...drawn.map((s) => ({ t: s.t - start, value: toPh(s.signal) })),
    ...(settling.state === 'waiting'
      ? []
      : settling.ahead.map((b): TracePoint => ({
          t: b.t - start,
          mean: toPh(b.mean),
          wide: [toPh(b.mean + 1.96 * b.sd), toPh(b.mean - 1.96 * b.sd)],
          half: [toPh(b.mean + 0.674 * b.sd), toPh(b.mean - 0.674 * b.sd)],
        }))),
  ];
  const limit = settling.limit || 0.59;
  const band = [toPh(settling.final + limit), toPh(settling.final - limit)] as const;
  return (
    <TraceChart
      points={points}
      now={now}
      band={band}
      label={`Live trace, ${Math.round(now)} s long, now ${fixed(toPh(settling.level), 2)} pH, heading for ${fixed(toPh(settling.final), 2)}`}
    />
  );
}
