import { Link } from 'react-router';
import type { DecisionAction, RunOutcome } from '@frustum/core';
import type { RunRow } from '@frustum/contract';
import { timeOf } from '../../format/dates.ts';
import type { InFamily } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';

const ACTION: Record<DecisionAction, string> = {
  leave: 'left',
  adjust: 'adjusted',
  'clean-and-retest': 'cleaned',
  investigate: 'to investigate',
  replace: 'to replace',
  'go-on': 'gone on',
};

const KIND: Record<RunOutcome['kind'], string> = {
  calibration: '',
  verification: '',
  'grab-sample': 'grab sample, ',
  electrical: 'electrical check, ',
};

/** Every run of the sensor, the latest first. */
export function Runs({ runs, figures }: { runs: readonly RunRow[]; figures: InFamily }) {
  if (!runs.length) return null;
  return (
    <section aria-label="Runs" className="border-t border-base-300 mt-5 pt-4">
      <h2>Runs</h2>
      <div className="overflow-x-auto">
        <table className="w-full text-[15px] mt-2 min-w-[680px]">
          <thead>
            <tr className="sub text-[13px] text-right">
              <th className="font-normal text-left py-1.5">when</th>
              <th className="font-normal">as found</th>
              <th className="font-normal">as left</th>
              <th className="font-normal">{figures.family.zero.name}</th>
              <th className="font-normal">{figures.family.sensitivity.name}</th>
              <th className="font-normal">t90</th>
              <th className="font-normal text-left pl-6">what was done</th>
            </tr>
          </thead>
          <tbody>
            {runs.map((r) => (
              <tr key={r.runId} className="border-t border-base-300 text-right">
                <td className="text-left py-1.5">
                  <Link className="hover:underline" to={`/bench/${r.runId}`}>
                    {timeOf(r.startedAt)}
                  </Link>
                </td>
                <td className="fig">{figures.off(r.outcome?.asFound.error, 1)}</td>
                <td className="fig">{figures.off(r.outcome?.asLeft.error, 1)}</td>
                <td className="fig">
                  {r.outcome && r.outcome.kind !== 'electrical'
                    ? `${figures.signal(r.outcome.coefficients.zero)} ${figures.signalUnit}`
                    : '–'}
                </td>
                <td className="fig">
                  {r.outcome && r.outcome.kind !== 'electrical'
                    ? `${fixed(100 * r.outcome.coefficients.sensitivity, 1)} %`
                    : '–'}
                </td>
                <td className="fig">{r.outcome?.t90 ? `${fixed(r.outcome.t90, 0)} s` : '–'}</td>
                <td className="text-left pl-6">
                  {r.status === 'open'
                    ? 'under way'
                    : r.status === 'abandoned'
                      ? 'abandoned'
                      : r.outcome
                        ? `${r.outcome.fromPaper ? 'from paper, ' : ''}${KIND[r.outcome.kind]}${r.outcome.cleaned ? 'cleaned, ' : ''}${r.outcome.refused ? 'refused by the instrument' : ACTION[r.outcome.action]}`
                        : 'closed'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
