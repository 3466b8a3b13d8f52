import { useEffect, useState } from 'react';
import { aboutOf, type RunState, type Standard, type Step, type Warning } from '@frustum/core';
import type { ShelfView } from '@frustum/contract';

/** What stands on the shelf; until that is known, what the run was planned with. */
export const standardsOn = (shelf: ShelfView | undefined, plan: RunState['plan']): readonly Standard[] =>
  shelf?.standards ?? plan.points.map((p) => p.standard);

/** What was answered in this cup, whatever the step: a second look at the same cup does not ask again. One to a line. */
export function answeredIn({ steps, warnings }: RunState, { pass, pointIndex }: Step): string {
  const here = new Set(steps.filter((s) => s.pass === pass && s.pointIndex === pointIndex).map((s) => s.id));
  return warnings
    .filter((w) => w.kept && here.has(w.stepId))
    .map((w) => aboutOf(w.odd))
    .join('\n');
}

/** What is mended in silence would leave no trace in the record, and no button goes away under a finger: these stay. */
const STAY: readonly string[] = ['wrong-cup', 'polarity', 'cap-on', 'same-reading', 'wet-cell', 'scale', 'wrong-range'];

/** What a warning is about, whatever its figures are just now. */
const whichOf = ({ id, facts }: Warning) =>
  [id, ...Object.values(facts).filter((f) => typeof f === 'string')].join('/');

/** What is odd, as it stands on the screen, and what takes it off. */
export function useWarning(seen: Warning | null, answered: string): readonly [Warning | null, () => void] {
  const [raised, setRaised] = useState<{ warning: Warning; answered: string } | null>(null);
  const stays = seen && STAY.includes(seen.id) ? seen : null;
  const which = stays && whichOf(stays);
  useEffect(() => {
    if (stays) setRaised({ warning: stays, answered });
    // The figures of it move with every sample; another bottle, say, is another warning.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [which, answered]);
  const standing = raised && raised.answered === answered ? raised.warning : null;
  return [standing ?? seen, () => setRaised(null)];
}
