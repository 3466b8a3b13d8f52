import { useState } from 'react';
import type { RunState, Step } from '@frustum/core';
import { useKeys, type Keys } from '../../app/keys.ts';
import { inFamily } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { armCup } from './armed-here.ts';
import { PassOver } from './pass-over.tsx';
import { StillThere, stillThere } from './still-there.tsx';
import { momentOn, type LiveTrace } from './use-live-trace.ts';
import type { BenchRun, Body } from './use-run.ts';

const DONE: Record<string, string> = {
  hold: 'It is on hold',
  'take-out': 'It is out and rinsed',
  return: 'Back in the water',
};
/** Steps whose sensor never left the water, or was no sensor. */
const DONE_IN: Record<string, Record<string, string>> = {
  sample: { return: 'Finish the run' },
  thermometers: { 'take-out': 'They stand beside it', return: 'Finish the run' },
  electrical: { 'take-out': 'The sensor is off, wires noted', return: 'Sensor back on its terminals' },
};

/** What the button of a step says when it is done. */
function doneWords(step: Step, { plan }: Pick<RunState, 'plan'>, holding: boolean): string {
  const procedure = plan.procedure?.kind ?? 'calibrate';
  const point = step.pointIndex == null ? undefined : plan.points[step.pointIndex];
  const words =
    DONE_IN[procedure]?.[step.key] ?? DONE[step.key] ?? (step.kind === 'place' ? 'It is in the cup' : 'Done');
  if (step.kind === 'place' && procedure === 'electrical') return 'The box is on';
  if (step.kind === 'place' && point?.standard.inAir) return 'It is in the air';
  if (step.kind === 'place' && point?.role === 'input') return 'The plug is on';
  return holding ? `${words}, hold released` : words;
}

/** A step that hands do and the operator confirms: one large button, and the live value as company. */
export function ConfirmPanel({ run, step, trace }: { run: BenchRun; step: Step; trace: LiveTrace }) {
  const { state, send } = run;
  const { plan } = state;
  const last = trace.samples.at(-1);
  const holding = step.key === 'return' && state.hold !== null && state.hold.releasedAt === null;
  const label = doneWords(step, state, holding);
  const inForce = state.adjusted?.coefficients ?? plan.inForce;
  const figures = inFamily(plan);
  const still = step.id === 'return' ? stillThere(run, trace) : null;
  const [asked, setAsked] = useState(false);
  const finish = (...said: Body[]) => {
    if (step.kind === 'place') armCup(run.view.runId, step);
    const ending = step.id === 'return' ? [{ type: 'closed' as const }] : [];
    send(...said, { type: 'step-done', stepId: step.id, ...momentOn(trace) }, ...ending);
  };
  const done = () => (still ? setAsked(true) : finish());
  const keys: Keys = { n: [label, done] };
  useKeys(keys);
  return (
    <div>
      <h2 className="text-[27px] leading-tight max-lg:sr-only">{step.title}</h2>
      <p className="mt-2 text-lg max-w-prose max-lg:hidden">{step.text}</p>
      {plan.channelKind !== 'hand' && (
        <p className="mt-4 sub">
          The channel shows{' '}
          <span className="fig text-base-content">
            {last ? figures.value(figures.shown(last.signal, last.temperatureC, inForce)) : '–'} {figures.unit}
          </span>{' '}
          at <span className="fig">{last ? fixed(last.temperatureC, 1) : '–'} °C</span>
        </p>
      )}
      <button type="button" className="btn btn-primary w-full h-16 text-[21px] mt-5" onClick={done}>
        {label} <kbd className="key max-lg:hidden text-primary-content border-primary-content/50">n</kbd>
      </button>
      {/* Below the button: what appears above it would move it from under a thumb that is on its way. */}
      {(trace.state === 'stale' || trace.state === 'fault') && (
        <div className="mt-3">
          <Notice kind="trouble">{trace.message}</Notice>
        </div>
      )}
      {asked && still && (
        <StillThere
          still={still}
          release={holding}
          onInsist={(odd) => finish({ type: 'warned', stepId: step.id, odd, kept: true })}
        />
      )}
      <PassOver run={run} step={step} trace={trace} />
    </div>
  );
}
