import { shown, type Solved, type Sum } from '@frustum/core';
import { Notice } from '../../ui/notice.tsx';

/** The figure that was asked for, its ± and the formula with the numbers in it; or why there is none. */
export function TheAnswer({ sum, solved: { way, answer, refusal, troubles } }: { sum: Sum; solved: Solved }) {
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  const stuck = sum.fields.find((f) => troubles[f.id]);
  return (
    <output className="block mt-2 min-h-[104px]" aria-live="polite">
      {answer ? (
        <>
          <span className="sub">{asked.name}</span>
          <span className="flex items-baseline gap-3 flex-wrap leading-none mt-1">
            <span
              className="fig font-[560] text-[44px] lg:text-[56px] leading-none tracking-[-0.03em]"
              data-testid="answer"
            >
              {shown(answer.found[asked.id]!, asked.decimals)}
            </span>
            {asked.unit && <span className="text-[20px] sub">{asked.unit}</span>}
            <span className="sub text-[15px]">
              {answer.plusMinus === null ? (
                `No ±: ${answer.plusMinusBecause}.`
              ) : (
                <>
                  <span className="fig">±{roundedUp(answer.plusMinus)}</span> {answer.plusMinusBecause}
                </>
              )}
            </span>
          </span>
          <span className="block fig text-[15px] mt-2.5 break-words" data-testid="formula">
            {answer.formula}
          </span>
        </>
      ) : (
        <Notice kind="trouble">{refusal ?? (stuck ? `${stuck.name}: ${troubles[stuck.id]}` : '')}</Notice>
      )}
    </output>
  );
}

/** A ± with two significant digits at most: more would claim too much. */
function roundedUp(plusMinus: number): string {
  return shown(Number(plusMinus.toPrecision(plusMinus >= 100 ? 3 : 2)));
}
