import { Link } from 'react-router';
import { useMarginsQuery, useOpenRunsQuery } from '../../app/api.ts';
import { dueWords } from '../../format/dates.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { besides } from '../../format/besides.ts';
import type { LoopRow } from '@frustum/contract';

/** The bench before a run: what is under way, and what could be taken next. */
export function Page() {
  const { data: runs = [] } = useOpenRunsQuery();
  const { data, error } = useMarginsQuery();
  if (!data) return <NotYet what="Reading the sensors" error={error} />;
  const rows = data.rows.filter((r) => !r.openRunId);
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>{runs.length ? 'Under way' : 'Nothing is on the bench.'}</h1>
      <ul className="mt-3 mb-8">
        {runs.map((r) => (
          <li key={r.runId} className="border-t border-base-300 flex items-center gap-3 py-2.5">
            <span className="min-w-0">
              <b className="font-[650]">{r.loopName}</b>
              <span className="sub block text-sm">
                {r.holdSince ? `${r.controls} on hold · ` : ''}
                {r.stepTitle || 'ended'}
              </span>
            </span>
            <Link className="btn btn-primary h-12 ml-auto" to={`/bench/${r.runId}`}>
              Go on
            </Link>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-3 items-center">
        <h2>Take a probe to the bench</h2>
        <Link className="btn btn-outline border-base-300 h-12 ml-auto" to="/walk">
          Walk along the displays
        </Link>
        <Link className="btn btn-outline border-base-300 h-12" to="/bench/many">
          {runs.length > 1 ? 'All of them at once' : 'Several at once'}
        </Link>
      </div>
      {rows.length === 0 && (
        <p className="sub mt-2">
          No sensor is free.{' '}
          <Link className="underline" to="/set-up">
            Add one in Set-up.
          </Link>
        </p>
      )}
      <ul className="mt-2">
        {rows.map((r) => {
          const due = dueWords(r.due.atMs, data.nowMs, r.timeZone);
          return <Free key={r.loopId} r={r} due={due} />;
        })}
      </ul>
    </main>
  );
}

/** A sensor that could be taken to the bench. */
function Free({
  r,
  due,
}: {
  r: LoopRow;
  due: { readonly main: string; readonly day: string; readonly overdue: boolean };
}) {
  return (
    <li className="border-t border-base-300 flex items-center gap-3 py-2.5">
      <span className="min-w-0">
        <b className="font-[650]">{r.loopName}</b>
        <span className="sub block text-sm">{besides(r.place, due.main)}</span>
      </span>
      <Link
        className="btn btn-outline border-base-300 h-12 ml-auto"
        to={`/bench/start/${r.sensorId}`}
        aria-label={`Bench for ${r.loopName}`}
      >
        Bench
      </Link>
    </li>
  );
}
