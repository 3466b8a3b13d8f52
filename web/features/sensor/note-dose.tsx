import { useState } from 'react';
import { DOSE_UNITS, type DoseRow } from '@frustum/contract';
import { figure } from '@frustum/core';
import { useNoteDosesMutation } from '../../app/api.ts';
import { RowField, RowForm } from '../../ui/row-form.tsx';

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
    <RowForm
      error={error}
      onSave={() => {
        if (what.trim() && much !== null) void save();
      }}
    >
      <RowField label="What was dosed">
        <input className="input w-44" maxLength={60} value={what} onChange={(e) => setWhat(e.target.value)} />
      </RowField>
      <RowField label="How much">
        <input
          className="input fig w-24"
          inputMode="decimal"
          aria-invalid={amount !== '' && much === null}
          value={amount}
          onChange={(e) => setAmount(e.target.value)}
        />
      </RowField>
      <RowField label="Unit" className="w-24">
        <select className="select w-24" value={unit} onChange={(e) => setUnit(e.target.value as typeof unit)}>
          {DOSE_UNITS.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
      </RowField>
      <RowField label="When, if not just now">
        <input type="datetime-local" className="input fig" value={when} onChange={(e) => setWhen(e.target.value)} />
      </RowField>
      <button className="btn h-12" disabled={isLoading || !what.trim() || much === null}>
        Note it
      </button>
    </RowForm>
  );
}
