import { useState } from 'react';
import { oddRecord } from '@frustum/core';
import { Notice } from '../../ui/notice.tsx';
import { StillThere, stillThere } from './still-there.tsx';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';

/** A run that is over while its loop is still on hold: the loudest thing on the page, whatever else it shows. */
export function StillHeld({ run, trace }: { run: BenchRun; trace: LiveTrace }) {
  const [asked, setAsked] = useState(false);
  const { state, send } = run;
  if (state.status === 'open' || state.hold === null || state.hold.releasedAt !== null) return null;
  const still = stillThere(run, trace);
  return (
    <div className="px-4 lg:px-7 py-3 border-b border-base-300" role="alert">
      <Notice kind="trouble">
        <p className="text-lg font-semibold">{state.plan.controls} is still on hold.</p>
        <p>Put the probe back in the water, release the hold at the controller, then confirm.</p>
      </Notice>
      <button
        type="button"
        className="btn btn-error h-16 w-full max-w-2xl text-lg mt-3"
        onClick={() => (still ? setAsked(true) : send({ type: 'hold-released' }))}
      >
        The hold is released
      </button>
      {asked && still && (
        <StillThere
          still={still}
          release
          onInsist={(odd) => send({ type: 'noted', text: oddRecord(odd, true) }, { type: 'hold-released' })}
        />
      )}
    </div>
  );
}
