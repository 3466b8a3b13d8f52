import { useState } from 'react';
import { SERVICES } from '@frustum/contract';
import { problemOf, useNoteServiceMutation } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';

/** The day of a moment, as a date field has it, in the viewer's zone. */
const dayIn = (ms: number) => {
  const at = new Date(ms);
  return new Date(ms - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
};

/** Notes what was done to a sensor, today or on an earlier day. */
export function NoteService({ sensorId, nowMs }: { sensorId: string; nowMs: number }) {
  const today = dayIn(nowMs);
  const [kind, setKind] = useState<(typeof SERVICES)[number]>('cleaned');
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
    <form
      className="flex flex-wrap gap-x-4 gap-y-2 items-end mt-3"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (day) void save();
      }}
    >
      <label className="text-sm sub">
        Note what was done
        <select
          className="select h-12 w-full text-base text-base-content"
          value={kind}
          onChange={(e) => setKind(e.target.value as typeof kind)}
        >
          {SERVICES.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
      </label>
      <label className="text-sm sub">
        On
        <input
          type="date"
          className="input fig h-12 w-44 text-base text-base-content block"
          max={today}
          value={day}
          onChange={(e) => setDay(e.target.value)}
        />
      </label>
      <label className="text-sm sub max-sm:w-full">
        In your words
        <input
          className="input h-12 w-full sm:w-72 text-base text-base-content block"
          maxLength={500}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      <button className="btn h-12" disabled={isLoading || !day}>
        Note it
      </button>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </form>
  );
}
