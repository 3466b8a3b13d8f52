import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react';
import {
  nernstSlope,
  otherCup,
  shownPh,
  STATISTICAL,
  thinned,
  valueAt,
  type Capture,
  type Sample,
  type Settling,
  type Standard,
  type Step,
} from '@frustum/core';
import { useShelfQuery } from '../../app/api.ts';
import { useKeys } from '../../app/keys.ts';
import type { TracePoint } from '../../charts/trace-chart.tsx';
import { about, fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { HandEntry } from './hand-entry.tsx';
import { useReadySignal } from './use-attention.ts';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';
import { useSettling } from './use-settling.ts';

const TraceChart = lazy(() => import('../../charts/trace-chart.tsx'));

const KEPT_SAMPLES = 200;
const DRAWN_SAMPLES = 240;
/** The cup is judged once the forecast of the final value is this sure, mV, and not in the first seconds. */
const CUP_SD_MV = 15;
const CUP_SECONDS = 8;
const LOOK_BACK_SECONDS = 25;
/** A forecast that has to allow for more than this is none yet, s. */
const TOO_EARLY_SECONDS = 900;

/** Is it steady, and is it the right cup? The live trace, its forecast, and one primary action. */
export function SettlePanel({ run, step, trace }: { run: BenchRun; step: Step; trace: LiveTrace }) {
  const { state, send } = run;
  const { plan } = state;
  const wired = plan.channelKind !== 'hand';
  const [byHand, setByHand] = useState(false);
  // A wiggle shows against what came before it: the second settling begins a little earlier than its step.
  const traceFrom = (state.traceFrom ?? 0) - (step.purpose === 'repeat' ? LOOK_BACK_SECONDS : 0);
  const samples = useMemo(() => trace.samples.filter((s) => s.t >= traceFrom), [trace.samples, traceFrom]);
  const school = step.purpose === 'read-back' ? STATISTICAL : plan.school;
  const settling = useSettling(
    wired ? `${step.id}/${traceFrom}` : null,
    samples,
    school,
    plan.resolutionMv,
    state.disturbedAt,
  );
  const planned = plan.points[step.pointIndex!]!;
  const [warning, answered] = useCupWarning(settling, planned.standard, run, step);
  const wiggled = step.purpose !== 'repeat' || state.disturbedAt !== null;
  const fresh = trace.state !== 'stale';
  const ready = settling?.state === 'ready' && wiggled && fresh && !warning;
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
      potentialMv: settling.levelMv,
      potentialUncertaintyMv: settling.levelUncertaintyMv,
      temperatureC: settling.temperatureC,
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
  const shown = last ? shownPh(last.potentialMv, last.temperatureC, inForce) : null;
  const expected = last ? safeValue(planned.standard, last.temperatureC) : null;
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
          <b className="block fig font-[560] text-[30px] text-base-content">
            {fixed(expected ?? planned.standard.nominal, 2)}
          </b>
          {planned.lot.label ? `lot ${planned.lot.label}` : 'no lot noted'}
        </div>
      </div>
      {wired && (
        <>
          <StateLine settling={settling} trace={trace} wiggled={wiggled} ready={ready} warned={warning !== null} />
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
                ? `Capture ${fixed(shownPh(settling.levelMv, settling.temperatureC, inForce), 2)}`
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
      {(byHand || !wired) && <HandEntry state={state} step={step} onCapture={keep} />}
    </div>
  );
}

/** A cup outside its standard's table has no value; the sentence about it comes at the capture. */
function safeValue(standard: Standard, temperatureC: number): number | null {
  try {
    return valueAt(standard, temperatureC);
  } catch {
    return null;
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

/**
 * Another standard of the shelf that explains the signal far better, unless the operator has said that it is the right
 * cup. Once raised it stays until it is answered: a cup that is changed in silence would leave no trace in the record.
 */
function useCupWarning(
  settling: Settling | null,
  asked: Standard,
  run: BenchRun,
  step: Step,
): readonly [Standard | null, () => void] {
  const { data } = useShelfQuery();
  const { plan, warnings } = run.state;
  const [raised, setRaised] = useState<Standard | null>(null);
  const kept = warnings.some((w) => w.stepId === step.id && w.kept);
  const early = !settling || settling.seconds < CUP_SECONDS || settling.finalSd > CUP_SD_MV;
  const shelf = data?.standards.filter((s) => s.id.startsWith('technical')) ?? plan.points.map((p) => p.standard);
  const guess =
    early || kept
      ? null
      : otherCup(settling.finalMv, settling.finalSd, settling.temperatureC, asked, shelf, plan.expected);
  const name = guess?.standard.id ?? null;
  useEffect(() => {
    if (guess) setRaised(guess.standard);
    // The guess is made anew with every sample; only another standard is another warning.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [name]);
  return [kept ? null : raised, () => setRaised(null)];
}

function CupWarning({
  standard,
  asked,
  onChanged,
  onKept,
}: {
  standard: Standard;
  asked: Standard;
  onChanged: () => void;
  onKept: () => void;
}) {
  return (
    <div className="mt-3.5" role="alert">
      <Notice kind="care">
        <p className="text-lg font-semibold">
          Is that the right cup? This reads like {standard.name}, not {asked.name}.
        </p>
        <p className="sub text-[15px]">
          What would tell: look at the bottle. Change the cup, rinse in between; it then settles again from there.
        </p>
      </Notice>
      <div className="flex gap-2.5 mt-2.5 flex-wrap">
        <button type="button" className="btn btn-primary h-16 flex-1 text-lg" onClick={onChanged}>
          Cup changed, settle again
        </button>
        <button type="button" className="btn btn-outline border-base-300 h-16" onClick={onKept}>
          It is {asked.name}
        </button>
      </div>
    </div>
  );
}

function StateLine({
  settling,
  trace,
  wiggled,
  ready,
  warned,
}: {
  settling: Settling | null;
  trace: LiveTrace;
  wiggled: boolean;
  ready: boolean;
  warned: boolean;
}) {
  const k = nernstSlope(settling?.temperatureC || 25);
  const toCome = settling ? settling.boundMv / k : NaN;
  const words = (): readonly [string, string] => {
    if (trace.state === 'stale') return ['No live value.', trace.message];
    if (!settling || settling.state === 'waiting') return ['Waiting for the first samples.', ''];
    if (warned) return ['Look at the cup.', ''];
    if (!wiggled) return ['Wiggle it once now.', 'Then it must settle to the same number.'];
    if (ready)
      return [
        'Steady.',
        `less than ${fixed(Math.max(0.001, toCome), 3)} pH still to come, ${fixed(settling.seconds, 0)} s in the cup`,
      ];
    if (settling.state === 'temperature-moving')
      return [
        'The temperature still moves,',
        `${fixed(settling.temperaturePerMinute, 2)} °C a minute; limit 0.10. Let the cup stand.`,
      ];
    const limit = settling.limitMv / k;
    const rest = settling.limitMv > 0 ? `${fixed(toCome, 3)} pH may still come; limit ${fixed(limit, 3)}` : '';
    if (!settling.toGo || settling.toGo.high > TOO_EARLY_SECONDS) return ['Settling, too early to say how long.', ''];
    const { mid, high } = settling.toGo;
    const most = high > 2 * mid ? `, at most ${about(high).replace('about ', '')}` : '';
    return [`Settling, ${about(mid)} to go${most}.`, rest];
  };
  const [main, rest] = words();
  return (
    <p
      className="flex items-center gap-3 mt-2.5 mb-2 text-[17px] min-h-12"
      role="status"
      data-testid="settling-state"
      data-ready={ready}
    >
      <svg width={34} height={22} viewBox="0 0 34 22" aria-hidden="true" className="shrink-0">
        <path d="M1 1H33M1 21H33" stroke="var(--color-secondary)" />
        <path
          d={ready ? 'M1 9V13L33 12V10Z' : 'M1 2V20L33 13V9Z'}
          fill="var(--color-primary)"
          fillOpacity={ready ? 1 : 0.3}
        />
      </svg>
      <span>
        <b>{main}</b> <span className="sub">{rest}</span>
      </span>
    </p>
  );
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
    ...drawn.map((s) => ({ t: s.t - start, value: toPh(s.potentialMv) })),
    ...(settling.state === 'waiting'
      ? []
      : settling.ahead.map((b): TracePoint => ({
          t: b.t - start,
          mean: toPh(b.mean),
          wide: [toPh(b.mean + 1.96 * b.sd), toPh(b.mean - 1.96 * b.sd)],
          half: [toPh(b.mean + 0.674 * b.sd), toPh(b.mean - 0.674 * b.sd)],
        }))),
  ];
  const limit = settling.limitMv || 0.59;
  const band = [toPh(settling.finalMv + limit), toPh(settling.finalMv - limit)] as const;
  return (
    <TraceChart
      points={points}
      now={now}
      band={band}
      label={`Live trace, ${Math.round(now)} s long, now ${fixed(toPh(settling.levelMv), 2)} pH, heading for ${fixed(toPh(settling.finalMv), 2)}`}
    />
  );
}
