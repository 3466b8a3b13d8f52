import { typedNumber } from '../../format/typed.ts';
import { useState } from 'react';
import type { DueBy } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { useChangeScheduleMutation } from '../../app/api.ts';
import { DUE_BY_WORDS } from '../../format/due-by.ts';
import { RowField, RowForm } from '../../ui/row-form.tsx';

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
      <RowForm
        error={error}
        onSave={() => void save({ dueBy: by, intervalDays: Number(typedNumber(days)) }, { dueBy, intervalDays })}
      >
        <RowField label="The next run is due">
          <select className="select w-full" value={by} onChange={(e) => setBy(e.target.value as DueBy)}>
            {DUE_BY_WORDS.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </RowField>
        <RowField label="Days">
          <input
            className="input fig w-24"
            inputMode="decimal"
            value={days}
            onChange={(e) => setDays(e.target.value)}
          />
        </RowField>
        <button className="btn btn-primary h-12" disabled={!changed || isLoading}>
          Change the schedule
        </button>
        {before && !changed && (
          <button type="button" className="btn h-12" disabled={isLoading} onClick={() => void save(before, null)}>
            Back to {before.dueBy === 'calendar' ? 'the calendar' : 'the forecast'}, {before.intervalDays} days
          </button>
        )}
      </RowForm>
    </section>
  );
}
