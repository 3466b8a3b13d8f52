import type { SpanTable } from '@frustum/core';
import { fixed, signed } from '../../../format/numbers.ts';

/** An electrical check, box by box: as found and as left, in % of span. */
export function SpanRows({ span }: { span: SpanTable }) {
  return (
    <table className="w-full text-[15px] mt-4">
      <thead>
        <tr className="sub text-[13px] text-right">
          <th className="font-normal text-left py-1.5">box</th>
          <th className="font-normal">stands for</th>
          <th className="font-normal">shown</th>
          <th className="font-normal">found, % of span</th>
          <th className="font-normal">left, % of span</th>
        </tr>
      </thead>
      <tbody className="fig text-right">
        {span.rows.map((r) => (
          <tr key={r.label} className="border-t border-base-300">
            <td className="text-left py-1.5">
              {r.label}
              {r.use === 'verify' && <span className="sub"> only looked at</span>}
            </td>
            <td>{fixed(r.applied, 2)}</td>
            <td>{fixed(r.asLeft ?? r.asFound, 2)}</td>
            <td>{signed(r.found?.percentOfSpan, 2)}</td>
            <td>{signed(r.left?.percentOfSpan, 2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
