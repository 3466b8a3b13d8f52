import { oddOf, oddWords, type Step } from '@frustum/core';
import { WarningWords } from '../../../ui/doubted.tsx';
import type { SettleStep } from './use-settle-step.ts';
import type { BenchRun } from '../use-run.ts';

/** One thing that is odd: on what evidence, what would tell, and two answers. */
export function OddCup({ run, step, at }: { run: BenchRun; step: Step; at: SettleStep }) {
  const { warning } = at;
  if (!warning) return null;
  const { stops } = warning;
  const { mended, stands } = oddWords(warning);
  const odd = oddOf(warning)!;
  const mend = () => {
    at.answer();
    run.send({ type: 'warned', stepId: step.id, odd, kept: false });
    at.disturb();
  };
  const keep = () => {
    at.answer();
    run.send({ type: 'warned', stepId: step.id, odd, kept: true });
  };
  const tall = stops ? 'h-16 text-lg' : 'h-12';
  return (
    <div className="mt-3.5" role="alert" data-warning={warning.id}>
      <WarningWords warning={warning} />
      <div className="flex gap-2.5 mt-2.5 flex-wrap">
        <button
          type="button"
          className={`btn ${stops ? 'btn-primary' : 'btn-outline border-base-300'} ${tall} flex-1 max-sm:basis-full`}
          onClick={mend}
        >
          {mended}
        </button>
        <button type="button" className={`btn btn-outline border-base-300 ${tall} max-sm:basis-full`} onClick={keep}>
          {stands}
        </button>
      </div>
    </div>
  );
}
