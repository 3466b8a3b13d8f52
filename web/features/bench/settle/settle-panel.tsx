import { memo, useEffect, useState } from 'react';
import {
  expectedIn,
  thinned,
  type Coefficients,
  type LiveTraceSample,
  type PlannedPoint,
  type Sample,
  type Settling,
  type Standard,
  type Step,
  type Warning,
} from '@frustum/core';
import TraceChart, { type TracePoint } from '../../../charts/trace-chart.tsx';
import { useKeys, type Keys } from '../../../app/keys.ts';
import { useAtMost } from '../../../app/use-at-most.ts';
import { useAppSelector } from '../../../app/store.ts';
import { unlessRefused, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { OddCup } from './odd-cup.tsx';
import { HandEntry } from './hand-entry.tsx';
import { PassOver } from '../pass-over.tsx';
import { Photo } from '../photo.tsx';
import { SampledEarlier } from './sampled-earlier.tsx';
import { StateLine } from './state-line.tsx';
import type { LiveTrace } from '../use-live-trace.ts';
import type { BenchRun } from '../use-run.ts';
import { useSettleStep, type SettleStep } from './use-settle-step.ts';

const DRAWN_SAMPLES = 240;
/** A clock that runs fast, or a channel of ten a second, would have it drawn anew all the time. */
const REDRAWN_MS = 450;
const CHART_HEIGHT = 'h-[160px] lg:h-[200px] [@media(min-height:900px)]:h-[300px]';

/** How a settling stands, for an operator who watches several. */
export interface SettlingReport {
  readonly ready: boolean;
  readonly armed: boolean;
  readonly warned: boolean;
  readonly wiggled: boolean;
  /** seconds still to go; null = too early to say */
  readonly toGo: number | null;
}

function useSettleKeys(at: SettleStep, focused: boolean, enterByHand: () => void) {
  const keys: Keys = {
    Space: ['Capture, now or when it is ready', at.press],
    d: ['Disturbed: settle again', at.disturb],
    e: ['Enter by hand', enterByHand],
  };
  useKeys(focused ? keys : NO_KEYS);
}

function useReport(
  { ready, armed, warning, wiggled, settling }: SettleStep,
  onReport?: (report: SettlingReport) => void,
) {
  const warned = warning !== null;
  // Spoken in steps of five seconds: an operator who watches several hears each change.
  const mid = settling?.toGo?.mid ?? null;
  const toGo = mid === null ? null : Math.round(mid / 5) * 5;
  useEffect(() => onReport?.({ ready, armed, warned, wiggled, toGo }), [onReport, ready, armed, warned, wiggled, toGo]);
}

interface SettlePanelProps {
  run: BenchRun;
  step: Step;
  trace: LiveTrace;
  focused: boolean;
  /** captures as soon as it is ready, unless somebody says otherwise */
  byItself: boolean;
  onReport?: (report: SettlingReport) => void;
}

/** Is it steady, and is it the right cup? The live trace, its forecast, and one primary action. */
export function SettlePanel({ run, step, trace, focused, byItself, onReport }: SettlePanelProps) {
  const { state } = run;
  const handed = useAppSelector((s) => s.handed[run.view.runId]);
  const [byHand, setByHand] = useState(handed !== undefined);
  const at = useSettleStep(run, step, trace, byItself, byHand);
  const { wired, settling, samples, warning, standard, planned } = at;
  const enterByHand = () => {
    // Nobody is overtaken while typing.
    if (!byHand) at.disarm();
    setByHand(!byHand);
  };
  const sampling = state.plan.procedure?.kind === 'sample';
  useSettleKeys(at, focused, enterByHand);
  useReport(at, onReport);
  if (!focused) return null;
  return (
    <div>
      <Head at={at} step={step} trace={trace} />
      {wired && (
        <LiveCup
          at={at}
          trace={trace}
          sampling={sampling}
          settling={settling}
          samples={samples}
          planned={planned}
          run={run}
          step={step}
          warning={warning}
          byHand={byHand}
          enterByHand={enterByHand}
        />
      )}
      {(byHand || !wired) && (
        <HandEntry
          state={state}
          step={step}
          standard={standard ?? planned.standard}
          runId={run.view.runId}
          onCapture={at.keep}
          onDoubt={(odd) => run.send({ type: 'warned', stepId: step.id, odd, kept: true })}
        />
      )}
      {sampling && <SampledEarlier sensorId={run.view.sensorId} figures={at.figures} at={at} />}
      <Photo run={run} step={step} />
      <PassOver run={run} step={step} trace={trace} />
    </div>
  );
}

/** The live trace, what is odd about the cup, and the capture. */
function LiveCup({
  at,
  trace,
  sampling,
  settling,
  samples,
  planned,
  run,
  step,
  warning,
  byHand,
  enterByHand,
}: {
  at: SettleStep;
  trace: LiveTrace;
  sampling: boolean;
  settling: Settling | null;
  samples: readonly LiveTraceSample[];
  planned: PlannedPoint;
  run: BenchRun;
  step: Step;
  warning: Warning | null;
  byHand: boolean;
  enterByHand: () => void;
}) {
  return (
    <>
      <StateLine at={at} trace={trace} sampling={sampling} />
      {settling && samples.length > 5 ? (
        <Trace
          samples={samples}
          figures={at.figures}
          inForce={at.inForce}
          input={planned.role === 'input'}
          settling={settling}
        />
      ) : (
        <div className={`${CHART_HEIGHT} grid place-items-center sub`}>
          {trace.state !== 'stale' && trace.state !== 'fault' ? 'The trace begins here.' : ''}
        </div>
      )}
      <OddCup run={run} step={step} at={at} />
      {!warning?.stops && <CaptureButton at={at} sampling={sampling} />}
      <OtherThanCapture sampling={sampling} at={at} step={step} byHand={byHand} enterByHand={enterByHand} />
    </>
  );
}

function OtherThanCapture({
  sampling,
  at,
  step,
  byHand,
  enterByHand,
}: {
  sampling: boolean;
  at: SettleStep;
  step: Step;
  byHand: boolean;
  enterByHand: () => void;
}) {
  return (
    <div className="flex gap-2.5 mt-2.5">
      {!sampling && (
        <button type="button" className="btn btn-outline border-base-300 flex-1 h-14 text-base" onClick={at.disturb}>
          {step.purpose === 'repeat' && !at.wiggled ? 'Wiggled' : 'Disturbed, settle again'}{' '}
          <kbd className="key max-lg:hidden">d</kbd>
        </button>
      )}
      <button
        type="button"
        className="btn btn-outline border-base-300 flex-1 h-14 text-base"
        aria-expanded={byHand}
        onClick={enterByHand}
      >
        Enter by hand <kbd className="key max-lg:hidden">e</kbd>
      </button>
    </div>
  );
}

const NO_KEYS = {};

/** The value as it is shown now, and what it should be. */
function Head({ at, step, trace }: { at: SettleStep; step: Step; trace: LiveTrace }) {
  const { wired, figures, inForce, samples, standard, planned } = at;
  const input = planned.role === 'input';
  const last = samples.at(-1) ?? trace.samples.at(-1);
  const shown = !last ? null : input ? last.signal : figures.shown(last.signal, last.temperatureC, inForce);
  const unit = input ? figures.signalUnit : figures.unit;
  const expected = input ? 0 : last && standard ? expectedAt(figures, standard, last.temperatureC) : null;
  const show = (value: number | null) => (input ? figures.signal(value) : figures.value(value));
  const what =
    step.purpose === 'read-back'
      ? 'With the new figures'
      : input
        ? 'With the input shorted'
        : standard
          ? planned.standard.inAir
            ? 'In the air now'
            : 'In the cup now'
          : 'In the water now';
  return (
    <div className="flex justify-between items-end gap-4">
      <div className="min-w-0">
        <span className="sub">{wired ? what : step.title}</span>
        {wired && (
          <p className="leading-none mt-1 whitespace-nowrap">
            <span
              className="fig font-[560] text-[64px] lg:text-[84px] leading-none tracking-[-0.04em]"
              data-testid="shown-value"
            >
              {show(shown)}
            </span>
            <span className="text-[22px] sub ml-2">{unit}</span>
          </p>
        )}
      </div>
      <div className="text-right sub text-[15px]">
        {standard ? (
          <>
            {input ? 'should be' : 'standard at '}
            {!input && <span className="fig">{fixed(last?.temperatureC ?? standard.nominalAtC, 1)} °C</span>}
            <b className="block fig font-[560] text-[30px] text-base-content">{show(expected)}</b>
            {input ? '' : planned.lot.label ? `lot ${planned.lot.label}` : planned.standard.name}
          </>
        ) : (
          <>
            water at <span className="fig">{fixed(last?.temperatureC, 1)} °C</span>
          </>
        )}
      </div>
    </div>
  );
}

/** What a right channel shows in a standard, or null outside its table. */
const expectedAt = ({ model }: InFamily, standard: Standard, temperatureC: number) =>
  unlessRefused(() => expectedIn(model, { standard, temperatureC: Number(temperatureC.toFixed(2)) }));

function CaptureButton({ at, sampling }: { at: SettleStep; sampling: boolean }) {
  const { ready, armed, settling, figures, inForce, planned } = at;
  const input = planned.role === 'input';
  const steady = ready && settling?.state === 'ready' ? settling : null;
  const shown = !steady
    ? ''
    : input
      ? figures.signal(steady.level)
      : figures.value(figures.shown(steady.level, steady.temperatureC, inForce));
  return (
    <button
      type="button"
      className={`btn w-full h-16 text-[21px] mt-3.5 ${ready ? 'btn-primary' : armed ? 'btn-outline border-primary' : 'btn-outline border-base-300 font-semibold'}`}
      data-primary
      aria-pressed={ready ? undefined : armed}
      onClick={at.press}
    >
      {ready
        ? `${sampling ? 'The sample is drawn: keep' : 'Capture'} ${shown}`
        : armed
          ? 'Captures by itself when ready'
          : 'Capture when ready'}{' '}
      <kbd className={`key max-lg:hidden ${ready ? 'text-primary-content border-primary-content/50' : ''}`}>Space</kbd>
    </button>
  );
}

interface Drawn {
  readonly samples: readonly Sample[];
  readonly figures: InFamily;
  readonly inForce: Coefficients;
  readonly input: boolean;
  readonly settling: Settling;
}

/** Drawn anew with every judgement, which follows the samples, and not whenever something else of the panel moves. */
const Trace = memo(function Trace(live: Drawn) {
  const { samples, figures, inForce, input, settling } = useAtMost(live, REDRAWN_MS);
  return <Picture {...{ samples, figures, inForce, input, settling }} />;
}, drawnAlike);

const Picture = memo(function Picture({ samples, figures, inForce, input, settling }: Drawn) {
  const temperatureC = settling.temperatureC ?? 25;
  const value = (signal: number) => (input ? signal : (figures.shown(signal, temperatureC, inForce) ?? NaN));
  const start = samples[0]!.t;
  const now = samples.at(-1)!.t - start;
  const points: TracePoint[] = [
    ...thinned(samples as Sample[], DRAWN_SAMPLES).map((s) => ({ t: s.t - start, value: value(s.signal) })),
    ...(settling.state === 'waiting'
      ? []
      : settling.ahead.map((b): TracePoint => ({
          t: b.t - start,
          mean: value(b.mean),
          wide: [value(b.mean + 1.96 * b.sd), value(b.mean - 1.96 * b.sd)],
          half: [value(b.mean + 0.674 * b.sd), value(b.mean - 0.674 * b.sd)],
        }))),
  ];
  const { limit } = settling;
  const edges = [value(settling.final + limit), value(settling.final - limit)] as const;
  const band = limit > 0 && edges.every(Number.isFinite) ? edges : null;
  const unit = input ? figures.signalUnit : figures.unit;
  const digits = input ? figures.signalDigits : figures.digits;
  return (
    <TraceChart
      points={points}
      now={now}
      band={band}
      step={10 ** -digits}
      digits={digits}
      label={`Live trace, ${Math.round(now)} s long, now ${fixed(value(settling.level), digits)} ${unit}, heading for ${fixed(value(settling.final), digits)}`}
    />
  );
}, drawnAlike);

function drawnAlike(before: Drawn, now: Drawn): boolean {
  const same = (key: keyof Drawn) => before[key] === now[key];
  return same('settling') && same('inForce') && same('figures') && same('input');
}
