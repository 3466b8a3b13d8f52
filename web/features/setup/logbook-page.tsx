import { Link } from 'react-router';
import type { LogbookRun, LogbookView, LoopRow } from '@frustum/contract';
import { useMarginsQuery, useRehearseLogbookMutation, useTakeLogbookMutation } from '../../app/api.ts';
import { dayOf } from '../../format/dates.ts';
import { inFamily } from '../../format/in-family.ts';
import { fixed } from '../../format/numbers.ts';
import { problemOf } from '../../format/problem.ts';
import { SomeFaults } from '../../ui/file-faults.tsx';
import { Notice } from '../../ui/notice.tsx';
import { PickFile } from '../../ui/pick-file.tsx';
import { useTakenFile } from './use-taken-file.ts';

/** More lines than this are counted, and not shown. */
const MAX_SHOWN = 100;

const useLogbook = () => useTakenFile(useRehearseLogbookMutation(), useTakeLogbookMutation());
type Taking = ReturnType<typeof useLogbook>;

/** Past runs from paper: rehearsed first, then taken in as a whole or not at all. */
export function Page() {
  const at = useLogbook();
  const { view, error } = at;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Past runs from paper</h1>
      <p className="sub mt-1 max-w-prose">
        Runs from before Frustum draw the cones of years. They are marked <i>from paper</i> and count with a wider ±.
        Nothing is kept before you say so.{' '}
        <Link className="underline" to="/set-up">
          Back to Set-up
        </Link>
      </p>
      <Columns />
      <PickFile label="The logbook, as CSV" accept=".csv,.txt,text/csv" load={at.load} />
      <Progress at={at} />
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      {view && <SomeFaults faults={view.faults} count={view.faultCount} />}
      {view?.faultCount === 0 && (
        <>
          <Rehearsed view={view} />
          <button type="button" className="btn btn-primary h-14 text-lg mt-4" disabled={at.taking} onClick={at.take}>
            Take in {view.runs.length === 1 ? 'this run' : `these ${view.runs.length} runs`}
          </button>
        </>
      )}
    </main>
  );
}

const Progress = ({ at: { rehearsing, taking, kept, name } }: { at: Taking }) => (
  <p role="status" className="mt-3">
    {rehearsing && `Reading ${name} …`}
    {taking && 'Taking it in …'}
    {kept && (
      <>
        {kept.runs.length} {kept.runs.length === 1 ? 'run' : 'runs'} taken in from {name}.{' '}
        <Link className="underline" to="/">
          See Margins
        </Link>
      </>
    )}
  </p>
);

/** What the file has to look like, and a sheet to fill in. */
const Columns = () => (
  <p className="mt-3 max-w-prose text-[15px]">
    One line for each standard of a run:{' '}
    <span className="fig">when, sensor, standard, value, as found, as left, temperature, by</span>. As found and as left
    are what the display showed. Leave as left empty where nothing was adjusted; write{' '}
    <span className="fig">sample</span> as the standard, and the lab’s figure as the value, for a grab sample. Times go
    by the clock of the site.{' '}
    <a className="underline" href="/api/logbook.csv">
      A sheet to fill in
    </a>
  </p>
);

/** What would be kept, run by run. */
function Rehearsed({ view: { runs } }: { view: LogbookView }) {
  const { data } = useMarginsQuery();
  const rowOf = new Map((data?.rows ?? []).map((row) => [row.sensorId, row]));
  const sensors = new Set(runs.map((r) => r.sensorId)).size;
  return (
    <section aria-label="What it gives" className="mt-4">
      <h2>
        {runs.length} {runs.length === 1 ? 'run' : 'runs'} of {sensors} {sensors === 1 ? 'sensor' : 'sensors'}
      </h2>
      <div className="overflow-x-auto max-h-[60vh]" tabIndex={0} role="group" aria-label="Runs, one a line">
        <table className="w-full text-[15px] mt-2 min-w-[640px]">
          <thead>
            <tr className="sub text-[13px] text-right">
              <th className="font-normal text-left py-1.5">when</th>
              <th className="font-normal text-left">loop</th>
              <th className="font-normal text-left">in</th>
              <th className="font-normal">as found</th>
              <th className="font-normal">zero</th>
              <th className="font-normal">slope or gain</th>
              <th className="font-normal text-left pl-6">then</th>
            </tr>
          </thead>
          <tbody>
            {runs.slice(0, MAX_SHOWN).map((run) => (
              <RunLine key={`${run.sensorId} ${run.at}`} run={run} row={rowOf.get(run.sensorId)} />
            ))}
          </tbody>
        </table>
      </div>
      {runs.length > MAX_SHOWN && <p className="sub mt-1">The first {MAX_SHOWN} are shown.</p>}
    </section>
  );
}

function RunLine({ run, row }: { run: LogbookRun; row: LoopRow | undefined }) {
  const figures = row && inFamily(row);
  return (
    <tr className="border-t border-base-300 text-right">
      <td className="text-left py-1.5 fig">{dayOf(run.at)}</td>
      <td className="text-left">{run.loopName}</td>
      <td className="text-left">{run.standards.join(', ')}</td>
      <td className="fig">{figures && `${figures.off(run.error, 1)} ${figures.unit}`}</td>
      <td className="fig">{figures && `${figures.signal(run.zero)} ${figures.signalUnit}`}</td>
      <td className="fig">{run.sensitivity === null ? '–' : `${fixed(100 * run.sensitivity, 1)} %`}</td>
      <td className="text-left pl-6">{run.adjusted ? 'adjusted' : 'left'}</td>
    </tr>
  );
}
