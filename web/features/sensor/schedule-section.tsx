import { useState } from 'react';
import type { DueBy } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { problemOf, useChangeScheduleMutation } from '../../app/api.ts';
import { DUE_BY_WORDS } from '../../format/due-by.ts';
import { Notice } from '../../ui/notice.tsx';

type Schedule = Pick<LoopRow, 'dueBy' | 'intervalDays'>;

/** What decides when the next run is due, and a way back. */
export function ScheduleSection({ row }: { row: LoopRow }) {
  const { dueBy, intervalDays, sensorId } = row;
  const [days, setDays] = useState(String(intervalDays));
  const [by, setBy] = useState<DueBy>(dueBy);
  const [before, setBefore] = useState<Schedule | null>(null);
  const [change, { isLoading, error }] = useChangeScheduleMutation();
  const save = async (to: { readonly dueBy: DueBy; readonly intervalDays: number }, undo: Schedule | null) => {
    const was = { dueBy, intervalDays };
    const answer = await change({ sensorId, body: { ...to, was } });
    if (!answer.data) return;
    setBefore(undo);
    setBy(to.dueBy);
    setDays(String(to.intervalDays));
  };
  const changed = by !== dueBy || days.trim() !== String(intervalDays);
  return (
    <section aria-label="Schedule" className="border-t border-base-300 mt-5 pt-4">
      <h2>Schedule</h2>
      <form
        className="flex flex-wrap gap-x-4 gap-y-2 items-end mt-2"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          void save({ dueBy: by, intervalDays: Number(days.replace(',', '.')) }, { dueBy, intervalDays });
        }}
      >
        <label className="text-sm sub">
          The next run is due
          <select
            className="select h-12 w-full text-base text-base-content"
            value={by}
            onChange={(e) => setBy(e.target.value as DueBy)}
          >
            {DUE_BY_WORDS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm sub">
          Days
          <input
            className="input fig h-12 w-24 text-base text-base-content block"
            inputMode="decimal"
            value={days}
            onChange={(e) => setDays(e.target.value)}
          />
        </label>
        <button className="btn btn-primary h-12" disabled={!changed || isLoading}>
          Change the schedule
        </button>
        {before && !changed && (
          <button type="button" className="btn h-12" disabled={isLoading} onClick={() => void save(before, null)}>
            Back to {before.dueBy === 'calendar' ? 'the calendar' : 'the forecast'}, {before.intervalDays} days
          </button>
        )}
      </form>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </section>
  );
}
