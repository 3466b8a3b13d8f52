import { useState } from 'react';
import { DOSE_UNITS, type DoseRow } from '@frustum/contract';
import { figure } from '@frustum/core';
import { problemOf, useNoteDosesMutation } from '../../app/api.ts';
import { Notice } from '../../ui/notice.tsx';

/** Notes one dose, just now or earlier. What and unit are those of the last one to begin with. */
export function NoteDose({ loopId, usual }: { loopId: string; usual: DoseRow | undefined }) {
  const [what, setWhat] = useState(usual?.what ?? '');
  const [amount, setAmount] = useState('');
  const [unit, setUnit] = useState<(typeof DOSE_UNITS)[number]>(usual?.unit ?? 'mL');
  const [when, setWhen] = useState('');
  const [write, { isLoading, error }] = useNoteDosesMutation();
  const much = figure(amount.trim());
  const save = async () => {
    // Without a moment it was just now, by the server's clock.
    const at = when ? { at: new Date(when).toISOString() } : {};
    const answer = await write({ loopId, body: { doses: [{ what, amount: much!, unit, ...at }] } });
    if (answer.data) setAmount('');
  };
  return (
    <form
      className="flex flex-wrap gap-x-4 gap-y-2 items-end mt-3"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        if (what.trim() && much !== null) void save();
      }}
    >
      <label className="text-sm sub">
        What was dosed
        <input
          className="input h-12 w-44 text-base text-base-content block"
          maxLength={60}
          value={what}
          onChange={(e) => setWhat(e.target.value)}
        />
      </label>
      <label className="text-sm sub">
        How much
        <input
          className="input fig h-12 w-24 text-base text-base-content block"
          inputMode="decimal"
          aria-invalid={amount !== '' && much === null}
          value={amount}
          onChange={(e) => setAmount(e.target.value)}
        />
      </label>
      <label className="text-sm sub w-24">
        Unit
        <select
          className="select h-12 w-24 text-base text-base-content"
          value={unit}
          onChange={(e) => setUnit(e.target.value as typeof unit)}
        >
          {DOSE_UNITS.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
      </label>
      <label className="text-sm sub">
        When, if not just now
        <input
          type="datetime-local"
          className="input fig h-12 text-base text-base-content block"
          value={when}
          onChange={(e) => setWhen(e.target.value)}
        />
      </label>
      <button className="btn h-12" disabled={isLoading || !what.trim() || much === null}>
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
