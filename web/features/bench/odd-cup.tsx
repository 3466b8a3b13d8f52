import { useEffect, useState } from 'react';
import type { RunState, Standard, Step, Warning } from '@frustum/core';
import type { ShelfView } from '@frustum/contract';
import { WarningWords } from './doubted.tsx';
import type { SettleStep } from './use-settle-step.ts';
import type { BenchRun } from './use-run.ts';

/** What stands on the shelf; until that is known, what the run was planned with. */
export const standardsOn = (shelf: ShelfView | undefined, plan: RunState['plan']): readonly Standard[] =>
  shelf?.standards ?? plan.points.map((p) => p.standard);

/** What was answered in this cup, whatever the step: a second look at the same cup does not ask again. One to a line. */
export function answeredIn({ steps, warnings }: RunState, { pass, pointIndex }: Step): string {
  const here = new Set(steps.filter((s) => s.pass === pass && s.pointIndex === pointIndex).map((s) => s.id));
  return warnings
    .filter((w) => w.kept && here.has(w.stepId))
    .map((w) => w.warning)
    .join('\n');
}

/** What is mended in silence would leave no trace in the record, and no button goes away under a finger: these stay. */
const STAY: readonly string[] = ['wrong-cup', 'polarity', 'cap-on', 'same-reading', 'wet-cell', 'scale', 'wrong-range'];

/** What is odd, as it stands on the screen, and what takes it off. */
export function useWarning(seen: Warning | null, answered: string): readonly [Warning | null, () => void] {
  const [raised, setRaised] = useState<{ warning: Warning; answered: string } | null>(null);
  const stays = seen && STAY.includes(seen.id) ? seen : null;
  const title = stays?.title;
  useEffect(() => {
    if (stays) setRaised({ warning: stays, answered });
    // The figures of it move with every sample; another title is another warning.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [title, answered]);
  const standing = raised && raised.answered === answered ? raised.warning : null;
  return [standing ?? seen, () => setRaised(null)];
}

/** One thing that is odd: on what evidence, what would tell, and two answers. */
export function OddCup({ run, step, at }: { run: BenchRun; step: Step; at: SettleStep }) {
  const { warning } = at;
  if (!warning) return null;
  const { mended, stands, record, stops } = warning;
  const mend = () => {
    at.answer();
    run.send({ type: 'warned', stepId: step.id, warning: `${record}; mended.`, kept: false });
    at.disturb();
  };
  const keep = () => {
    at.answer();
    run.send({ type: 'warned', stepId: step.id, warning: `${record}.`, kept: true });
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
