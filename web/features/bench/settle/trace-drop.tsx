import { useState, type DragEvent } from 'react';
import {
  oddOf,
  oddWords,
  responseIn,
  settleIn,
  shownPh,
  thinned,
  watched,
  type Cup,
  type Odd,
  type RunState,
  type Warning,
} from '@frustum/core';
import { decodeTrace, MAX_BYTES, type TraceFault } from '@frustum/formats';
import { fixed } from '../../../format/numbers.ts';
import { FileFaults } from '../../../ui/file-faults.tsx';
import { WarningWords } from '../enter/doubted.tsx';
import type { CaptureBody } from './capture-body.ts';

const KEPT_SAMPLES = 200;

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
  inForce: RunState['plan']['inForce'];
  onCapture: (capture: CaptureBody) => void;
  /** says for the record in spite of what it was captured */
  onDoubt: (odd: Odd) => void;
}) {
  const standard = cup.asked;
  const [faults, setFaults] = useState<readonly TraceFault[]>([]);
  const [ready, setReady] = useState<{
    name: string;
    capture: CaptureBody;
    words: string;
    warning: Warning | null;
  } | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    setOver(false);
    setReady(null);
    if (!file) return;
    if (file.size > MAX_BYTES)
      return setFaults([
        {
          line: 1,
          column: 0,
          message: `The file has ${(file.size / 1e6).toFixed(1)} MB; a trace has at most ${MAX_BYTES / 1e6} MB. Cut it to one capture.`,
        },
      ]);
    const result = decodeTrace(await file.text(), inForce);
    if (!result.ok) return setFaults(result.faults);
    setFaults([]);
    const s = settleIn(responseIn(state.plan, standard), result.samples, state.plan.school, state.plan.resolution);
    if (s.state === 'waiting')
      return setFaults([
        {
          line: 1,
          column: 0,
          message: `The file has ${result.samples.length} samples; that is too few to say where they stand. Record half a minute or more.`,
        },
      ]);
    const shown = shownPh(s.level, s.temperatureC, inForce);
    const steady = s.state === 'ready';
    setReady({
      name: file.name,
      warning: watched(cup, s, result.samples)?.warning ?? null,
      words: `${result.samples.length} samples of ${result.signal}: ends at ${fixed(shown, 2)} pH, ${fixed(s.temperatureC, 1)} °C. ${steady ? 'Steady.' : `Not steady yet: ${fixed(s.bound / 59.2, 3)} pH from where it is heading; that goes into its ±.`}`,
      capture: {
        method: 'trace',
        signal: s.level,
        signalUncertainty: s.levelUncertainty,
        temperatureC: s.temperatureC,
        settledSeconds: s.seconds,
        t90: s.t90,
        trace: thinned(result.samples, KEPT_SAMPLES),
      },
    });
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
        <span className="sub">Or drop a recorded trace of {standard.name} (CSV: time, mV or pH, °C)</span>
        <input
          type="file"
          accept=".csv,.txt,text/csv"
          className="file-input file-input-sm"
          aria-label="Recorded trace"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </label>
      <FileFaults faults={faults} />
      {ready && (
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
      )}
    </div>
  );
}
