import { useEffect, useState } from 'react';
import {
  lastPass,
  serves,
  settlingsOf,
  standardAt,
  type Before,
  type Cup,
  type RunState,
  type Standard,
  type Step,
  type Warning,
} from '@frustum/core';
import type { ShelfView } from '@frustum/contract';
import { Notice } from '../../ui/notice.tsx';
import type { SettleStep } from './use-settle-step.ts';
import type { BenchRun } from './use-run.ts';

/** Bottles that may be taken by mistake. Of pH buffers only the technical ones stand on a bench; the primary ones lie too near. */
export function onShelf(plan: RunState['plan'], shelf: ShelfView | undefined): readonly Standard[] {
  const ph = plan.family.startsWith('ph');
  const may = (s: Standard) => serves(plan.family, plan.settings ?? {}, s) && (!ph || s.id.startsWith('technical'));
  return shelf?.standards.filter(may) ?? plan.points.map((p) => p.standard);
}

/** What is asked of the cup of a step: the standard, the shelf it was taken from, and the cups before it. */
export function cupOf(state: RunState, step: Step, asked: Standard, shelf: ShelfView | undefined): Cup {
  const { plan } = state;
  const pass = step.pass || lastPass(state);
  const before = plan.points.flatMap((point, i): Before[] => {
    const last = i === step.pointIndex || point.role === 'input' ? undefined : settlingsOf(state, pass, i).at(-1);
    if (!last) return [];
    return [{ standard: standardAt(state, pass, i)!, signal: last.signal, temperatureC: last.temperatureC }];
  });
  const own = settlingsOf(state, pass, step.pointIndex!).at(-1);
  const readingBack = step.purpose === 'read-back' && own;
  return {
    plan: { family: plan.family, settings: plan.settings, expected: plan.expected, workingC: plan.workingC },
    asked,
    shelf: onShelf(plan, shelf),
    before,
    fresh: step.purpose === 'as-found' && before.length === 0,
    ...(readingBack ? { anchor: { signal: own.signal, sd: own.signalUncertainty } } : {}),
  };
}

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
  const { warning, samples } = at;
  if (!warning) return null;
  const { title, because, tells, mended, stands, record, stops } = warning;
  const mend = () => {
    at.answer();
    run.send(
      { type: 'warned', stepId: step.id, warning: `${record}; mended.`, kept: false },
      { type: 'disturbed', stepId: step.id, traceSeconds: samples.at(-1)!.t, noticed: false },
    );
  };
  const keep = () => {
    at.answer();
    run.send({ type: 'warned', stepId: step.id, warning: `${record}.`, kept: true });
  };
  const tall = stops ? 'h-16 text-lg' : 'h-12';
  return (
    <div className="mt-3.5" role="alert" data-warning={warning.id}>
      <Notice kind="care">
        <p className={stops ? 'text-lg font-semibold' : 'font-semibold'}>{title}</p>
        <p className="text-[15px]">{because}</p>
        <p className="sub text-[15px]">{tells}</p>
      </Notice>
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
