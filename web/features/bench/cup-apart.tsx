import type { Step } from '@frustum/core';
import { Notice } from '../../ui/notice.tsx';
import type { BenchRun } from './use-run.ts';

/** A cup that is not as warm as the water: wait, or keep it with that in the record. */
export function CupApart({ run, step, words }: { run: BenchRun; step: Step; words: string }) {
  return (
    <div className="mt-3.5" role="alert">
      <Notice kind="care">{words}</Notice>
      <button
        type="button"
        className="btn btn-outline border-base-300 h-16 w-full text-lg mt-2.5"
        onClick={() => run.send({ type: 'warned', stepId: step.id, warning: words, kept: true })}
      >
        Capture it as warm as it is
      </button>
    </div>
  );
}
