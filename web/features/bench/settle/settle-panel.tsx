import { useEffect, useState } from 'react';
import { expectedIn, type Standard, type Step } from '@frustum/core';
import { useKeys, type Keys } from '../../../app/keys.ts';
import { useAppSelector } from '../../../app/store.ts';
import { unlessRefused, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { HandEntry } from './hand-entry.tsx';
import { PassOver } from '../pass-over.tsx';
import { Photo } from '../photo.tsx';
import { LiveCup } from './live-cup.tsx';
import { SampledEarlier } from './sampled-earlier.tsx';
import type { LiveTrace } from '../use-live-trace.ts';
import type { BenchRun } from '../use-run.ts';
import { useSettleStep, type SettleStep } from './use-settle-step.ts';

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
  const { wired, standard, planned } = at;
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
      {wired && <LiveCup {...{ run, step, at, trace, sampling, byHand, enterByHand }} />}
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

const NO_KEYS = {};

/** The value as it is shown now, and what it should be. */
function Head({ at, step, trace }: { at: SettleStep; step: Step; trace: LiveTrace }) {
  const { wired, figures, inForce, samples, standard, planned } = at;
  const input = planned.role === 'input';
  const last = samples.at(-1) ?? trace.samples.at(-1);
  const shown = !last ? null : input ? last.signal : figures.shown(last.signal, last.temperatureC, inForce);
  const unit = input ? figures.signalUnit : figures.unit;
  const expected = input ? 0 : last && standard ? expectedAt(figures, standard, last.temperatureC) : null;
  const show = (value: number | null) => (input ? figures.signal(value) : figures.value(value, 0, last?.temperatureC));
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
