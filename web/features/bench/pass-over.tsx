import { useState } from 'react';
import type { Step } from '@frustum/core';
import { momentOn, type LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';

/** Where a step may be passed over: with a reason, which stays in the record. */
export function PassOver({ run, step, trace }: { run: BenchRun; step: Step; trace: LiveTrace | null }) {
  const [open, setOpen] = useState(false);
  const [because, setBecause] = useState('');
  if (!step.skippable) return null;
  const pass = () => {
    if (!because.trim()) return;
    run.send({ type: 'skipped', stepId: step.id, because: because.trim(), ...momentOn(trace) });
  };
  if (!open)
    return (
      <button type="button" className="btn btn-ghost h-12 mt-2 font-normal text-base" onClick={() => setOpen(true)}>
        Pass over this step
      </button>
    );
  return (
    <form
      className="mt-3 flex gap-2.5 flex-wrap items-end"
      onSubmit={(e) => {
        e.preventDefault();
        pass();
      }}
    >
      <label className="sub text-sm grow min-w-52">
        Why it is passed over
        <input
          autoFocus
          className="input h-14 w-full text-base text-base-content block"
          maxLength={300}
          value={because}
          onChange={(e) => setBecause(e.target.value)}
        />
      </label>
      <button className="btn h-14 text-base" disabled={!because.trim()}>
        Pass over it
      </button>
    </form>
  );
}
