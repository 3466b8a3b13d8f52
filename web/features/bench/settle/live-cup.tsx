import type { Step } from '@frustum/core';
import type { LiveTrace } from '../use-live-trace.ts';
import type { BenchRun } from '../use-run.ts';
import { CHART_HEIGHT, LivePicture } from './live-picture.tsx';
import { OddCup } from './odd-cup.tsx';
import { StateLine } from './state-line.tsx';
import type { SettleStep } from './use-settle-step.ts';

interface LiveCupProps {
  readonly run: BenchRun;
  readonly step: Step;
  readonly at: SettleStep;
  readonly trace: LiveTrace;
  readonly sampling: boolean;
  readonly byHand: boolean;
  readonly enterByHand: () => void;
}

/** The live trace, what is odd about the cup, and the capture. */
export function LiveCup({ run, step, at, trace, sampling, byHand, enterByHand }: LiveCupProps) {
  const { settling, samples, warning, planned } = at;
  return (
    <>
      <StateLine at={at} trace={trace} sampling={sampling} />
      {settling && samples.length > 5 ? (
        <LivePicture
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
      <OtherThanCapture {...{ step, at, sampling, byHand, enterByHand }} />
    </>
  );
}

function OtherThanCapture({ step, at, sampling, byHand, enterByHand }: Omit<LiveCupProps, 'run' | 'trace'>) {
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

function CaptureButton({ at, sampling }: { at: SettleStep; sampling: boolean }) {
  const { ready, armed, settling, figures, inForce, planned } = at;
  const input = planned.role === 'input';
  const steady = ready && settling?.state === 'ready' ? settling : null;
  const shown = !steady
    ? ''
    : input
      ? figures.signal(steady.level)
      : figures.value(figures.shown(steady.level, steady.temperatureC, inForce), 0, steady.temperatureC);
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
