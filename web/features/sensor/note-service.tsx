import { useState } from 'react';
import { servicesOf, type ServiceKind } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { useNoteServiceMutation } from '../../app/api.ts';
import { fieldDay } from '../../format/dates.ts';
import { RowField, RowForm } from '../../ui/row-form.tsx';

/** Notes what was done to a sensor, today or on an earlier day. */
export function NoteService({
  row: { sensorId, family },
  nowMs,
}: {
  row: Pick<LoopRow, 'sensorId' | 'family'>;
  nowMs: number;
}) {
  const today = fieldDay(nowMs);
  const [kind, setKind] = useState<ServiceKind>('cleaned');
  const [day, setDay] = useState(today);
  const [note, setNote] = useState('');
  const [write, { isLoading, error }] = useNoteServiceMutation();
  const save = async () => {
    // An earlier day is noted at its noon: nobody knows the hour any more.
    const at = day === today ? {} : { at: new Date(`${day}T12:00`).toISOString() };
    const answer = await write({ sensorId, body: { kind, note, ...at } });
    if (answer.data) setNote('');
  };
  return (
    <RowForm
      error={error}
      onSave={() => {
        if (day) void save();
      }}
    >
      <RowField label="Note what was done">
        <select className="select w-full" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
          {servicesOf(family).map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </RowField>
      <RowField label="On">
        <input
          type="date"
          className="input fig w-44"
          max={today}
          value={day}
          onChange={(e) => setDay(e.target.value)}
        />
      </RowField>
      <RowField label="In your words" className="max-sm:w-full">
        <input
          className="input w-full sm:w-72"
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </RowField>
      <button className="btn h-12" disabled={isLoading || !day}>
        Note it
      </button>
    </RowForm>
  );
}
