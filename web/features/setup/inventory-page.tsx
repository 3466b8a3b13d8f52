import { Link } from 'react-router';
import type { InventoryStep, InventoryView } from '@frustum/contract';
import { useRehearseInventoryMutation, useTakeInventoryMutation } from '../../app/api.ts';
import { problemOf } from '../../format/problem.ts';
import { SomeFaults } from '../../ui/file-faults.tsx';
import { Notice } from '../../ui/notice.tsx';
import { PickFile } from '../../ui/pick-file.tsx';
import { useTakenFile } from './use-taken-file.ts';

/** More rows than this are counted, and not shown. */
const MAX_SHOWN = 200;

/** Loops and sensors as a file: out for a spreadsheet or another house, and in again. */
export function Page() {
  const at = useTakenFile(useRehearseInventoryMutation(), useTakeInventoryMutation());
  const { view, error, kept, rehearsing, taking, name } = at;
  return (
    <main className="px-4 lg:px-7 py-5 max-w-4xl w-full">
      <h1>Inventory, in and out</h1>
      <p className="sub mt-1 max-w-prose">
        Every loop with its sensor and channel, and every sensor on the shelf, one a row. Runs are not in it: a backup
        has them.{' '}
        <Link className="underline" to="/set-up">
          Back to Set-up
        </Link>
      </p>
      <div className="flex flex-wrap gap-2 mt-4">
        <a className="btn btn-outline border-base-300 h-12" href="/api/inventory.csv">
          Take it out as CSV
        </a>
        <a className="btn btn-outline border-base-300 h-12" href="/api/inventory.json">
          Take it out as JSON
        </a>
      </div>
      <p className="mt-4 max-w-prose text-[15px]">
        A file that comes in has the same columns, in any order, and as few as you like: a new loop needs{' '}
        <span className="fig">loop</span>, <span className="fig">measures</span> and{' '}
        <span className="fig">works at</span>. An empty cell leaves what is there, or is the usual for what is new.
        Nothing is kept before you say so.
      </p>
      <PickFile
        label="The inventory, as CSV or JSON"
        accept=".csv,.json,.txt,text/csv,application/json"
        load={at.load}
      />
      <p role="status" className="mt-3">
        {rehearsing && `Reading ${name} …`}
        {taking && 'Taking it in …'}
        {kept && `Taken in from ${name}: ${countWords(kept)}.`}
      </p>
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      {view && <SomeFaults faults={view.faults} count={view.faultCount} />}
      {view?.faultCount === 0 && <Rehearsed view={view} taking={taking} take={at.take} />}
    </main>
  );
}

const of = (view: InventoryView, what: InventoryStep['what']) => view.steps.filter((s) => s.what === what).length;
const countWords = (view: InventoryView) =>
  `${of(view, 'added')} added, ${of(view, 'changed')} changed, ${of(view, 'same')} as they were`;

const WHAT: Readonly<Record<InventoryStep['what'], string>> = {
  added: 'would be added',
  changed: 'would change',
  same: 'stays as it is',
};

/** What would become another, row by row. */
function Rehearsed({ view, taking, take }: { view: InventoryView; taking: boolean; take: () => void }) {
  const makes = view.steps.filter((s) => s.what !== 'same');
  if (!makes.length) return <p>Everything in the file is here already, as it says.</p>;
  return (
    <section aria-label="What it makes" className="mt-4">
      <h2>{countWords(view)}</h2>
      <ul className="mt-2 max-h-[60vh] overflow-y-auto" tabIndex={0} aria-label="Rows, one a line">
        {makes.slice(0, MAX_SHOWN).map((s) => (
          <li key={s.line} className="border-t border-base-300 py-2 flex flex-wrap gap-x-3">
            <b className="font-[650] min-w-0 [overflow-wrap:anywhere]">{s.name}</b>
            <span>
              {s.of === 'sensor' ? 'on the shelf, ' : ''}
              {WHAT[s.what]}
              {s.fields.length > 0 && `: ${s.fields.join(', ')}`}
            </span>
          </li>
        ))}
      </ul>
      {makes.length > MAX_SHOWN && <p className="sub mt-1">The first {MAX_SHOWN} are shown.</p>}
      <button type="button" className="btn btn-primary h-14 text-lg mt-4" disabled={taking} onClick={take}>
        Take in {makes.length === 1 ? 'this row' : `these ${makes.length} rows`}
      </button>
    </section>
  );
}
