import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { COVERAGE, MS_PER_DAY, outcomeOf } from '@frustum/core';
import { useSensorQuery } from '../../app/api.ts';
import { dueWords, timeOf } from '../../format/dates.ts';
import { fixed, signed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import { StateWord } from '../../ui/state-word.tsx';
import type { BenchRun } from './use-run.ts';

const ConeChart = lazy(() => import('../../charts/cone-chart.tsx'));

/** A run that is over: what it said, what it changed, when the next one is due. */
export function EndedPanel({ run }: { run: BenchRun }) {
  const { state, view, send } = run;
  const { data } = useSensorQuery(view.sensorId);
  const outcome = state.status === 'closed' ? outcomeOf(state) : null;
  const holding = state.hold !== null && state.hold.releasedAt === null;
  const due = data ? dueWords(data.row.due.atMs, data.nowMs) : null;
  return (
    <div>
      {holding && (
        <div className="mb-5" role="alert">
          <Notice kind="trouble">
            <p className="text-lg font-semibold">{state.plan.controls} is still on hold.</p>
            <p>Put the probe back in the water, release the hold at the controller, then confirm.</p>
          </Notice>
          <button
            type="button"
            className="btn btn-error h-16 w-full text-lg mt-3"
            onClick={() => send({ type: 'hold-released' })}
          >
            The hold is released
          </button>
        </div>
      )}
      <h2 className="text-[27px] leading-tight">
        {state.status === 'closed' ? (outcome?.sentence ?? 'Closed.') : 'Abandoned.'}
      </h2>
      <p className="sub mt-1">
        {state.endedAt && timeOf(state.endedAt)}
        {state.abandonedBecause && `: ${state.abandonedBecause}`}
      </p>
      {outcome && (
        <table className="w-full max-w-xl text-[17px] my-4">
          <tbody>
            <Figure
              name={`As found, off at ${state.plan.workingValue}`}
              value={`${signed(outcome.asFound.error, 2)} ±${fixed(COVERAGE * outcome.asFound.uncertainty, 2)} pH`}
            />
            <Figure
              name={`As left, off at ${state.plan.workingValue}`}
              value={`${signed(outcome.asLeft.error, 2)} ±${fixed(COVERAGE * outcome.asLeft.uncertainty, 2)} pH`}
            />
            <Figure
              name="Zero and slope found"
              value={`${fixed(outcome.coefficients.zero, 1)} mV, ${fixed(100 * outcome.coefficients.sensitivity, 1)} %`}
            />
            {outcome.readBackShown !== null && (
              <Figure name="Read back" value={`${fixed(outcome.readBackShown, 2)} pH`} />
            )}
          </tbody>
        </table>
      )}
      {data && (
        <>
          <div className="flex items-baseline gap-4 mt-5 mb-2 flex-wrap">
            <StateWord state={data.row.margin.state} />
            {due && (
              <span data-testid="next-due">
                Next run <b>{due.main}</b>
                {due.day && `, ${due.day}`} <span className="sub">({data.row.due.reason})</span>
              </span>
            )}
          </div>
          {data.row.cone.segments.length > 0 && (
            <Suspense fallback={<div className="h-[60px]" />}>
              <ConeChart
                variant="strip"
                cone={data.row.cone}
                tolerance={data.row.tolerance}
                nowMs={data.nowMs}
                dueMs={data.row.due.atMs}
                state={data.row.margin.state}
                fromMs={data.nowMs - 120 * MS_PER_DAY}
                toMs={data.nowMs + 60 * MS_PER_DAY}
                label={`Cone of ${data.row.loopName}: ${data.row.margin.state}`}
              />
            </Suspense>
          )}
        </>
      )}
      <div className="flex gap-2.5 mt-6 flex-wrap">
        <Link className="btn btn-primary h-14 text-lg flex-1" to="/">
          Back to Margins
        </Link>
        <Link className="btn btn-outline border-base-300 h-14 text-lg flex-1" to={`/sensors/${view.sensorId}`}>
          See the sensor
        </Link>
      </div>
      {state.notes.map((n) => (
        <p key={n.at} className="sub text-[15px] mt-3">
          Note, {timeOf(n.at)}: {n.text}
        </p>
      ))}
    </div>
  );
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <tr className="border-t border-base-300">
      <td className="py-2">{name}</td>
      <td className="fig text-right">{value}</td>
    </tr>
  );
}
