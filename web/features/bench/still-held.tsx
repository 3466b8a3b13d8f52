import { Notice } from '../../ui/notice.tsx';
import type { BenchRun } from './use-run.ts';

/** A run that is over while its loop is still on hold: the loudest thing on the page, whatever else it shows. */
export function StillHeld({ run }: { run: BenchRun }) {
  const { state, send } = run;
  if (state.status === 'open' || state.hold === null || state.hold.releasedAt !== null) return null;
  return (
    <div className="px-4 lg:px-7 py-3 border-b border-base-300" role="alert">
      <Notice kind="trouble">
        <p className="text-lg font-semibold">{state.plan.controls} is still on hold.</p>
        <p>Put the probe back in the water, release the hold at the controller, then confirm.</p>
      </Notice>
      <button
        type="button"
        className="btn btn-error h-16 w-full max-w-2xl text-lg mt-3"
        onClick={() => send({ type: 'hold-released' })}
      >
        The hold is released
      </button>
    </div>
  );
}
