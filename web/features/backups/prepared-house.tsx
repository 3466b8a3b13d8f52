import { useState } from 'react';
import type { HouseCounts, Prepared } from '@frustum/contract';
import { useDiscardPreparedMutation, useSwitchHouseMutation } from '../../app/api.ts';
import { timeOf } from '../../format/dates.ts';
import { Notice } from '../../ui/notice.tsx';
import { Progress } from './progress.tsx';
import { problemOf } from '../../format/problem.ts';

const NAMES: readonly (readonly [keyof HouseCounts, string])[] = [
  ['loops', 'Loops'],
  ['sensors', 'Sensors'],
  ['runs', 'Runs'],
  ['events', 'Events of runs'],
  ['minutes', 'Minutes of readings'],
  ['lots', 'Bottles'],
  ['doses', 'Doses'],
  ['services', 'Services'],
  ['procedures', 'Procedures of your own'],
  ['alarms', 'Alarms'],
  ['photos', 'Pictures'],
];

/** A house that is built beside this one: what it has more or less, before it takes its place. */
export function PreparedHouse({ prepared, now }: { prepared: Prepared; now: HouseCounts }) {
  const [sure, setSure] = useState(false);
  const { state, takenAt, counts, trouble } = prepared;
  const from = `the ${prepared.from === 'file' ? 'backup' : 'snapshot'} of ${timeOf(takenAt)}`;
  return (
    <section
      aria-label="A house to restore"
      className={`mt-5 border-l-[3px] pl-4 py-1 ${state === 'failed' ? 'border-error' : 'border-warning'}`}
    >
      {state === 'building' && (
        <>
          <h2>A house is being built from {from}.</h2>
          <p className="sub mt-1">It is built beside this one, which goes on.</p>
          <Progress what="Rows that are loaded" rows={prepared.rows} of={prepared.of} />
        </>
      )}
      {state === 'failed' && (
        <>
          <h2>No house could be built from {from}.</h2>
          <p role="alert" className="mt-1">
            {trouble}
          </p>
        </>
      )}
      {state === 'ready' && counts && (
        <>
          <h2>A house from {from} is ready. Nothing has changed yet.</h2>
          <Compared now={now} ready={counts} />
          <p className="mt-2 max-w-3xl">
            What was written after {timeOf(takenAt)} is not in it. This house is set aside as it is, and can be brought
            back.
          </p>
          <label className="flex items-center gap-3 min-h-12 cursor-pointer">
            <input type="checkbox" className="checkbox" checked={sure} onChange={(e) => setSure(e.target.checked)} />
            Nobody is at the bench, and this house may be set aside.
          </label>
        </>
      )}
      <SwitchOrLetGo state={state} sure={sure} />
    </section>
  );
}

function SwitchOrLetGo({ state, sure }: { state: Prepared['state']; sure: boolean }) {
  const [switchTo, switching] = useSwitchHouseMutation();
  const [discard, { isLoading: lettingGo }] = useDiscardPreparedMutation();
  return (
    <>
      {switching.error && (
        <Notice kind="trouble" role="alert">
          {problemOf(switching.error).detail}
        </Notice>
      )}
      <p className="mt-2 mb-1 flex flex-wrap gap-3">
        {state === 'ready' && (
          <button
            type="button"
            className="btn btn-primary h-12"
            disabled={!sure || switching.isLoading}
            onClick={() => void switchTo()}
          >
            {switching.isLoading ? 'Putting it in its place …' : 'Put it in the place of this house'}
          </button>
        )}
        <button
          type="button"
          className="btn btn-outline border-base-300 h-12"
          disabled={switching.isLoading || lettingGo}
          onClick={() => void discard()}
        >
          {state === 'failed' ? 'Close' : 'Let go of it'}
        </button>
      </p>
    </>
  );
}

function Compared({ now, ready }: { now: HouseCounts; ready: HouseCounts }) {
  return (
    <table className="mt-2 text-[15px]">
      <thead>
        <tr className="sub text-left">
          <th className="font-normal pr-6 py-1">
            <span className="sr-only">Of what</span>
          </th>
          <th className="font-normal pr-6 text-right">This house</th>
          <th className="font-normal pr-6 text-right">The restored one</th>
          <th className="font-normal text-right">Difference</th>
        </tr>
      </thead>
      <tbody>
        {NAMES.map(([key, name]) => {
          const more = ready[key] - now[key];
          return (
            <tr key={key} className="border-t border-base-300">
              <th className="font-normal text-left pr-6 py-1">{name}</th>
              <td className="fig text-right pr-6">{now[key]}</td>
              <td className="fig text-right pr-6">{ready[key]}</td>
              <td className={`fig text-right ${more < 0 ? 'font-semibold text-error' : ''}`}>
                {more === 0 ? '' : more > 0 ? `+${more}` : `−${-more}`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
