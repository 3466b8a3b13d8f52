import { useEffect, useState } from 'react';
import { otherCup, serves, stepIn, type Settling, type Standard, type Step } from '@frustum/core';
import { useShelfQuery } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';
import type { BenchRun } from './use-run.ts';

/** The cup is judged once the forecast of the final value is this sure, in steps that count, and not in the first seconds. */
const CUP_SD_STEPS = 25;
const CUP_SECONDS = 8;
/** How the record says that a cup was kept in spite of what it looked like. */
export const LOOKED_LIKE = 'It looked like';

/**
 * Another standard of the shelf that explains the signal far better, unless the operator has said that it is the right
 * cup. Once raised it stays until it is answered: a cup that is changed in silence would leave no trace in the record.
 */
export function useCupWarning(
  settling: Settling | null,
  asked: Standard,
  run: BenchRun,
  step: Step,
): readonly [Standard | null, () => void] {
  const { data } = useShelfQuery();
  const { plan, warnings } = run.state;
  const [raised, setRaised] = useState<Standard | null>(null);
  const kept = warnings.some((w) => w.stepId === step.id && w.kept && w.warning.startsWith(LOOKED_LIKE));
  const early =
    !settling ||
    settling.seconds < CUP_SECONDS ||
    settling.finalSd > CUP_SD_STEPS * stepIn(plan, asked, asked.nominalAtC);
  const ph = plan.family.startsWith('ph');
  // Of pH buffers only the technical ones stand on a bench; the primary ones lie too near to them.
  const onShelf = (s: Standard) => serves(plan.family, plan.settings ?? {}, s) && (!ph || s.id.startsWith('technical'));
  const shelf = data?.standards.filter(onShelf) ?? plan.points.map((p) => p.standard);
  const guess =
    early || kept ? null : otherCup(plan, settling.final, settling.finalSd, settling.temperatureC, asked, shelf);
  // The guess is made anew with every sample; its standard is the shelf's own, so only another one is another warning.
  const standard = guess?.standard ?? null;
  useEffect(() => {
    if (standard) setRaised(standard);
  }, [standard]);
  return [kept ? null : raised, () => setRaised(null)];
}

export function CupWarning({
  standard,
  asked,
  onChanged,
  onKept,
}: {
  standard: Standard;
  asked: Standard;
  onChanged: () => void;
  onKept: () => void;
}) {
  return (
    <div className="mt-3.5" role="alert">
      <Notice kind="care">
        <p className="text-lg font-semibold">
          Is that the right cup? This reads like {standard.name}, not {asked.name}.
        </p>
        <p className="sub text-[15px]">
          What would tell: look at the bottle. Change the cup, rinse in between; it then settles again from there.
        </p>
      </Notice>
      <div className="flex gap-2.5 mt-2.5 flex-wrap">
        <button type="button" className="btn btn-primary h-16 flex-1 text-lg" onClick={onChanged}>
          Cup changed, settle again
        </button>
        <button type="button" className="btn btn-outline border-base-300 h-16" onClick={onKept}>
          It is {asked.name}
        </button>
      </div>
    </div>
  );
}
