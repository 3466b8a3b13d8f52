import { useState } from 'react';
import { figure } from '@frustum/core';
import { decodeLotTable } from '@frustum/formats';
import { useAddLotMutation } from '../../../app/api.ts';
import { Notice } from '../../../ui/notice.tsx';
import { problemOf } from '../../../format/problem.ts';

/** What a label prints, as it is typed. */
interface OwnTableText {
  readonly shown: boolean;
  readonly table: string;
  readonly plusMinus: string;
}

/** Puts a bottle on the shelf, once its own table can be read. */
function useNewLot(standardId: string, today: string, onAdded: (lotId: string) => void) {
  const [unread, setUnread] = useState<string | null>(null);
  const [add, { error, isLoading }] = useAddLotMutation();
  const submit = async (label: string, expiresOn: string, own: OwnTableText) => {
    const read = own.shown ? decodeLotTable(own.table) : null;
    const plusMinus = own.plusMinus.trim() === '' ? null : figure(own.plusMinus.trim());
    if (read && !read.ok) return setUnread(read.message);
    if (own.shown && own.plusMinus.trim() && plusMinus === null)
      return setUnread(`“${own.plusMinus}” is not a figure. Type the ± like 0.02, or leave it empty.`);
    setUnread(null);
    const table = read?.rows.map(([t, v]): [number, number] => [t, v]) ?? null;
    const answer = await add({ standardId, label, expiresOn, openedOn: today, table, plusMinus: table && plusMinus });
    if (answer.data) onAdded(answer.data.lotId);
  };
  return { submit, isLoading, trouble: unread ?? (error ? problemOf(error).detail : null) };
}

/** A bottle for the shelf: its number, its date, and the table that its label prints, if any. */
export function NewLot(props: { standardId: string; today: string; onAdded: (lotId: string) => void }) {
  const { standardId, today, onAdded } = props;
  const [label, setLabel] = useState('');
  const [expiresOn, setExpiresOn] = useState('');
  const [own, setOwn] = useState<OwnTableText>({ shown: false, table: '', plusMinus: '' });
  const { submit, isLoading, trouble } = useNewLot(standardId, today, onAdded);
  return (
    <form
      className="flex gap-2 mt-2 flex-wrap items-end"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        void submit(label, expiresOn, own);
      }}
    >
      <label className="text-sm sub">
        Lot number
        <input
          className="input h-12 block text-base-content"
          value={label}
          onChange={(e) => setLabel(e.target.value)}
        />
      </label>
      <label className="text-sm sub">
        Good until
        <input
          type="date"
          className="input h-12 block text-base-content"
          value={expiresOn}
          onChange={(e) => setExpiresOn(e.target.value)}
        />
      </label>
      <button
        type="button"
        className="btn btn-ghost h-12"
        aria-expanded={own.shown}
        onClick={() => setOwn({ ...own, shown: !own.shown })}
      >
        Its own table
      </button>
      {own.shown && <OwnTable own={own} setOwn={setOwn} />}
      <button className="btn h-12" disabled={isLoading}>
        Put on the shelf
      </button>
      {trouble && (
        <div className="w-full">
          <Notice kind="trouble" role="alert">
            {trouble}
          </Notice>
        </div>
      )}
    </form>
  );
}

function OwnTable({ own, setOwn }: { own: OwnTableText; setOwn: (own: OwnTableText) => void }) {
  return (
    <div className="w-full flex gap-4 flex-wrap items-start">
      <label className="text-sm sub">
        As the label prints it, °C and value on each line
        <textarea
          className="textarea block w-72 fig text-base-content text-base"
          rows={5}
          placeholder={'15 7.04\n20 7.02\n25 7.00'}
          value={own.table}
          onChange={(e) => setOwn({ ...own, table: e.target.value })}
        />
      </label>
      <label className="text-sm sub">
        ± on the label (k = 2), if any
        <input
          className="input h-12 block w-28 fig text-base-content"
          inputMode="decimal"
          value={own.plusMinus}
          onChange={(e) => setOwn({ ...own, plusMinus: e.target.value })}
        />
      </label>
    </div>
  );
}
