import { useMemo } from 'react';
import {
  budgetOf,
  calibrationOf,
  familyOfPlan,
  shown,
  type Budget,
  type RunPlan,
  type StandardPoint,
  type WorkingPoint,
} from '@frustum/core';
import Histogram from '../../../charts/histogram.tsx';
import { inFamily, unlessRefused, type InFamily } from '../../../format/in-family.ts';
import { fixed } from '../../../format/numbers.ts';
import { Notice } from '../../../ui/notice.tsx';
import { useMonteCarlo } from './use-monte-carlo.ts';

const DRAWS = 100_000;
const SEED = 1;

/** What the ± of the error as found is made of, row by row, and its check by drawing. */
export function UncertaintyBudget({
  plan,
  points,
  at,
}: {
  plan: RunPlan;
  points: readonly StandardPoint[];
  at: WorkingPoint;
}) {
  const budget = useMemo(() => {
    // The run's own fit: a coefficient that its standards do not determine is held, and has a row of its own.
    const fit = calibrationOf(plan, points);
    // Without a response there is no value, and nothing to be uncertain of.
    return fit.ok ? unlessRefused(() => budgetOf(familyOfPlan(plan).model, fit.whole, at, plan.inForce)) : null;
  }, [plan, points, at]);
  if (!budget) return null;
  const figures = inFamily(plan);
  const { size } = figures.written;
  const digits = Math.max(2, 2 - Math.floor(Math.log10(size(budget.combined))));
  return (
    <>
      <table className="w-full text-[15px] my-2">
        <caption className="sub text-sm text-left pb-1">
          What the ± at {figures.value(at.value)} {figures.unit} is made of, one standard uncertainty each
        </caption>
        <thead>
          <tr className="sub text-[13px]">
            <th className="font-normal text-left py-1">source</th>
            <th className="font-normal text-right">is known to</th>
            <th className="font-normal text-right">gives, {figures.unit}</th>
          </tr>
        </thead>
        <tbody>
          {budget.rows.map((r) => (
            <tr key={r.name} className="border-t border-base-300">
              <td className="py-1.5 pr-2">{r.name}</td>
              <td className="fig text-right whitespace-nowrap sub">
                {shown(Number(r.uncertainty.toPrecision(2)))} {r.unit}
              </td>
              <td className="fig text-right pl-3">{fixed(size(r.contribution), digits)}</td>
            </tr>
          ))}
          <tr className="border-t border-base-300 font-semibold">
            <td className="py-1.5" colSpan={2}>
              together, ×{shown(budget.coverageFactor)}
            </td>
            <td className="fig text-right" data-testid="expanded">
              {fixed(size(budget.expanded), digits)}
            </td>
          </tr>
        </tbody>
      </table>
      <Twin budget={budget} figures={figures} digits={digits} order={{ plan, points, at }} />
    </>
  );
}

function Twin({
  budget,
  figures,
  digits,
  order,
}: {
  budget: Budget;
  figures: InFamily;
  digits: number;
  order: Parameters<typeof useMonteCarlo>[0];
}) {
  const { drawing, start, stop } = useMonteCarlo(order, DRAWS, SEED);
  if (drawing.state === 'idle') {
    return (
      <button type="button" className="btn btn-outline border-base-300 h-12 my-2" onClick={start}>
        Check it by drawing {DRAWS.toLocaleString('en-GB').replace(',', ' ')} times
      </button>
    );
  }
  if (drawing.state === 'drawing') {
    return (
      <div className="flex items-center gap-3 my-2" role="status">
        <progress className="progress progress-primary w-48" value={drawing.share} max={1} aria-label="Drawn so far" />
        <span className="fig text-[15px]">{Math.round(100 * drawing.share)} %</span>
        <button type="button" className="btn btn-sm max-lg:h-12" onClick={stop}>
          Stop
        </button>
      </div>
    );
  }
  if (drawing.state === 'failed') {
    return (
      <Notice kind="trouble" role="alert">
        {drawing.message}
      </Notice>
    );
  }
  const { result } = drawing;
  const { unit } = figures;
  const { size } = figures.written;
  const apart = 100 * (result.standardUncertainty / budget.combined - 1);
  return (
    <div className="my-2" data-testid="drawn">
      <p className="text-[15px]" role="status">
        {result.draws} draws (seed {SEED}) spread by{' '}
        <span className="fig">
          {fixed(size(result.standardUncertainty), digits + 1)} {unit}
        </span>
        , the table says <span className="fig">{fixed(size(budget.combined), digits + 1)}</span>:{' '}
        {fixed(Math.abs(apart), 1)} % apart.
        {result.failed > 0 && ` ${result.failed} draws gave no value.`}
      </p>
      <Histogram result={result} unit={unit} as={figures.plotted} />
    </div>
  );
}
