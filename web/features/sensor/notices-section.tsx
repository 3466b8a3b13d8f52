import { useState } from 'react';
import { isReason, LOOK_REASONS, WATER_EVENTS, type NoticeKind } from '@frustum/core';
import type { LoopRow, NoticeRow } from '@frustum/contract';
import { useNoteNoticeMutation, useNoticesQuery, useTakeBackNoticeMutation } from '../../app/api.ts';
import { timeOf } from '../../format/dates.ts';
import { upper } from '../../format/in-family.ts';
import { problemOf } from '../../format/problem.ts';
import { LabelledInput } from '../../ui/labelled.tsx';
import { Notice } from '../../ui/notice.tsx';
import { TakeBack } from '../../ui/take-back.tsx';

const DAYS = 30;
const SHOWN = 6;

/** What somebody notices at a loop: opened and noted in two taps. */
export function NoticesSection({ row: { loopId, loopName } }: { row: LoopRow }) {
  const { data } = useNoticesQuery({ loopId, days: DAYS });
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [write, { error, isLoading }] = useNoteNoticeMutation();
  const [last, setLast] = useState<NoticeRow | null>(null);
  const noted = async (kind: NoticeKind) => {
    const answer = await write({ loopId, body: { kind, note } });
    if (!answer.data) return;
    setLast(answer.data);
    setNote('');
    setOpen(false);
  };
  return (
    <section aria-label="Noticed" className="my-4">
      <button
        type="button"
        className="btn btn-outline border-base-300 h-12"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        Noticed something?
      </button>
      {open && <Pick loopName={loopName} note={note} setNote={setNote} busy={isLoading} onPick={noted} />}
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      <p role="status" className={last ? 'mt-2' : 'sr-only'}>
        {last && `Noted: ${last.kind}.${isReason(last.kind) ? ' Its sensor is due.' : ''}`}
      </p>
      {data && data.length > 0 && (
        <ul className="mt-2 text-[15px]">
          {data.slice(0, SHOWN).map((n) => (
            <Line key={`${n.at} ${n.kind}`} notice={n} loopId={loopId} onGone={() => setLast(null)} />
          ))}
        </ul>
      )}
    </section>
  );
}

function Pick({
  loopName,
  note,
  setNote,
  busy,
  onPick,
}: {
  loopName: string;
  note: string;
  setNote: (note: string) => void;
  busy: boolean;
  onPick: (kind: NoticeKind) => Promise<void>;
}) {
  return (
    <div className="border-l-[3px] border-primary pl-4 mt-3">
      <Choices name="A reason to look: its sensor is due at once" kinds={LOOK_REASONS} busy={busy} onPick={onPick} />
      <Choices name={`Something befell the water of ${loopName}`} kinds={WATER_EVENTS} busy={busy} onPick={onPick} />
      <LabelledInput
        className="mt-3 max-w-xl"
        label="In your words, before you pick; optional"
        maxLength={500}
        value={note}
        onChange={setNote}
      />
    </div>
  );
}

function Choices<K extends NoticeKind>({
  name,
  kinds,
  busy,
  onPick,
}: {
  name: string;
  kinds: readonly K[];
  busy: boolean;
  onPick: (kind: K) => Promise<void>;
}) {
  return (
    <div role="group" aria-label={name} className="mt-2">
      <p className="sub text-sm mb-1">{name}</p>
      <div className="flex flex-wrap gap-2">
        {kinds.map((kind) => (
          <button
            key={kind}
            type="button"
            className="btn h-12 font-normal"
            disabled={busy}
            onClick={() => void onPick(kind)}
          >
            {upper(kind)}
          </button>
        ))}
      </div>
    </div>
  );
}

function Line({ notice, loopId, onGone }: { notice: NoticeRow; loopId: string; onGone: () => void }) {
  const { at, kind, note, by, fresh } = notice;
  const [drop, { isLoading, error }] = useTakeBackNoticeMutation();
  const takeBack = async () => {
    const answer = await drop({ loopId, body: { at, kind } });
    if (answer.error === undefined) onGone();
  };
  return (
    <li className="flex flex-wrap gap-x-3 items-center min-h-8">
      <span className="fig sub">{timeOf(at)}</span>
      <span>
        {upper(kind)}
        {note && `: ${note}`}
      </span>
      <span className="sub">{by}</span>
      <TakeBack can={fresh} busy={isLoading} error={error} onTake={() => void takeBack()} />
    </li>
  );
}
