import { inWords, nudges, shown, type Solved, type Sum, type SumField, type SumInput } from '@frustum/core';
import { signed } from '../../format/numbers.ts';

/** What stands behind the answer: further figures, what a little more would do, formula, source, validity. */
export function Behind({ sum, solved, input }: { sum: Sum; solved: Solved; input: SumInput }) {
  const { answer, way } = solved;
  const asked = sum.fields.find((f) => f.id === way.finds[0])!;
  const moves = nudges(sum, solved, input.chosen);
  return (
    <div className="mt-5 text-[15px]">
      {answer && (answer.more.length > 0 || moves.length > 0) && (
        <table className="w-full">
          <tbody>
            {answer.more.map((m) => (
              <tr key={m.name} className="border-t border-base-300">
                <td className="py-1.5 pr-4">{m.name}</td>
                <td className="fig text-right">
                  {shown(m.value, m.decimals)} {m.unit}
                </td>
              </tr>
            ))}
            {moves.map((m) => (
              <tr key={m.field.id} className="border-t border-base-300">
                <td className="py-1.5 pr-4 sub">
                  {m.field.name}, {inWords({ ...m.field, decimals: undefined }, m.by)} more
                </td>
                <td className="fig text-right sub">
                  {change(m.change, asked)} {asked.unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <dl className="mt-4 grid sm:grid-cols-[88px_1fr] gap-x-4 gap-y-1.5 border-t border-base-300 pt-3">
        <dt className="sub">Formula</dt>
        <dd className="fig break-words">{sum.formula}</dd>
        <dt className="sub">Source</dt>
        <dd>{sum.source}.</dd>
        <dt className="sub">Holds for</dt>
        <dd>{sum.validity}.</dd>
        {answer?.note && (
          <>
            <dt className="sub">Mind</dt>
            <dd>{answer.note}</dd>
          </>
        )}
      </dl>
    </div>
  );
}

/** One digit finer than the answer itself, so that a small change is seen. */
function change(by: number, asked: SumField): string {
  if (asked.decimals !== undefined) return signed(by, asked.decimals + 1);
  return `${by > 0 ? '+' : ''}${shown(Number(by.toPrecision(3)))}`;
}
