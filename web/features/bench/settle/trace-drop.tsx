import { useState, type DragEvent } from 'react';
import {
  oddOf,
  oddWords,
  responseIn,
  settleIn,
  shownPh,
  thinned,
  watched,
  type Coefficients,
  type Cup,
  type Odd,
  type RunPlan,
  type RunState,
  type Warning,
} from '@frustum/core';
import { decodeTrace, MAX_BYTES, type TraceFault } from '@frustum/formats';
import { fixed } from '../../../format/numbers.ts';
import { FileFaults } from '../../../ui/file-faults.tsx';
import { WarningWords } from '../../../ui/doubted.tsx';
import type { CaptureBody } from './capture-body.ts';

const KEPT_SAMPLES = 200;

/** A file as it was read: the capture in it, and what is odd about that. */
interface ReadTraceFile {
  readonly name: string;
  readonly capture: CaptureBody;
  readonly words: string;
  readonly warning: Warning | null;
}
type Read = { readonly ready: ReadTraceFile } | { readonly faults: readonly TraceFault[] };

const fault = (message: string): Read => ({ faults: [{ line: 1, column: 0, message }] });

/** Judges a file like a live trace. */
async function readTrace(file: File, plan: RunPlan, cup: Cup, inForce: Coefficients): Promise<Read> {
  if (file.size > MAX_BYTES)
    return fault(
      `The file has ${(file.size / 1e6).toFixed(1)} MB; a trace has at most ${MAX_BYTES / 1e6} MB. Cut it to one capture.`,
    );
  const result = decodeTrace(await file.text(), inForce);
  if (!result.ok) return { faults: result.faults };
  const { samples } = result;
  const s = settleIn(responseIn(plan, cup.asked), samples, plan.school, plan.resolution);
  if (s.state === 'waiting')
    return fault(
      `The file has ${samples.length} samples; that is too few to say where they stand. Record half a minute or more.`,
    );
  const steady =
    s.state === 'ready'
      ? 'Steady.'
      : `Not steady yet: ${fixed(s.bound / 59.2, 3)} pH from where it is heading; that goes into its ±.`;
  const ends = `ends at ${fixed(shownPh(s.level, s.temperatureC, inForce), 2)} pH, ${fixed(s.temperatureC, 1)} °C`;
  return {
    ready: {
      name: file.name,
      warning: watched(cup, s, samples)?.warning ?? null,
      words: `${samples.length} samples of ${result.signal}: ${ends}. ${steady}`,
      capture: {
        method: 'trace',
        signal: s.level,
        signalUncertainty: s.levelUncertainty,
        temperatureC: s.temperatureC,
        settledSeconds: s.seconds,
        t90: s.t90,
        trace: thinned(samples, KEPT_SAMPLES),
      },
    },
  };
}

/** A recorded trace of one cup, judged like a live one. */
export function TraceDrop({
  state,
  cup,
  inForce,
  onCapture,
  onDoubt,
}: {
  state: RunState;
  /** what it is a trace of */
  cup: Cup;
  inForce: Coefficients;
  onCapture: (capture: CaptureBody) => void;
  /** says for the record in spite of what it was captured */
  onDoubt: (odd: Odd) => void;
}) {
  const [read, setRead] = useState<Read | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    setOver(false);
    setRead(null);
    if (file) setRead(await readTrace(file, state.plan, cup, inForce));
  };
  return (
    <div
      className={`mt-4 border border-dashed rounded-lg p-3 ${over ? 'border-primary' : 'border-base-300'}`}
      onDragOver={(e: DragEvent) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e: DragEvent) => {
        e.preventDefault();
        void take(e.dataTransfer.files[0]);
      }}
    >
      <label className="flex items-center gap-3 flex-wrap text-[15px]">
        <span className="sub">Or drop a recorded trace of {cup.asked.name} (CSV: time, mV or pH, °C)</span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          className="file-input file-input-sm"
          aria-label="Recorded trace"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </label>
      <FileFaults faults={read && 'faults' in read ? read.faults : []} />
      {read && 'ready' in read && <ReadTrace ready={read.ready} onDoubt={onDoubt} onCapture={onCapture} />}
    </div>
  );
}

function ReadTrace({
  ready,
  onDoubt,
  onCapture,
}: {
  ready: ReadTraceFile;
  onDoubt: (odd: Odd) => void;
  onCapture: (capture: CaptureBody) => void;
}) {
  return (
    <div className="mt-2" data-warning={ready.warning?.id}>
      <p>{ready.words}</p>
      {ready.warning && (
        <div className="mt-2" role="alert">
          <WarningWords warning={ready.warning} />
        </div>
      )}
      <button
        type="button"
        className={`btn ${ready.warning ? 'btn-outline border-base-300' : 'btn-primary'} h-14 mt-2`}
        onClick={() => {
          if (ready.warning) onDoubt(oddOf(ready.warning)!);
          onCapture(ready.capture);
        }}
      >
        {ready.warning ? `${oddWords(ready.warning).stands}: capture` : 'Capture'} from {ready.name}
      </button>
    </div>
  );
}
