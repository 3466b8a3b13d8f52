import { useEffect, useRef, useState, type RefObject } from 'react';
import { figure, oddOf, oddRecord, scalesOf, walkDoubt, type Warning } from '@frustum/core';
import type { WalkStop } from '@frustum/contract';
import { hourOf } from '../../format/dates.ts';
import { inFamily, type InFamily } from '../../format/in-family.ts';
import { Doubted } from '../../ui/doubted.tsx';
import type { Waiting } from './use-walk-readings.ts';

interface StopProps {
  readonly stop: WalkStop;
  readonly waiting: Waiting | null;
  readonly onKeep: (typed: string, unit: string, doubt: string) => void;
  readonly onPass: () => void;
}

/** What is typed at a display, and what is wrong or doubtful about it. */
function useTyped(stop: WalkStop, figures: InFamily, onKeep: StopProps['onKeep']) {
  const [typed, setTyped] = useState('');
  const [unit, setUnit] = useState(figures.unit);
  const [doubt, setDoubt] = useState<Warning | null>(null);
  const [trouble, setTrouble] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const keep = (stands: Warning | null) => {
    setTrouble('');
    const text = typed.trim();
    if (figure(text) === null) {
      setTrouble(text ? `“${text}” is not a figure. Type it as the display shows it.` : 'Type what the display shows, or pass it over.'); // prettier-ignore
      field.current?.focus();
      return;
    }
    const odd = stands ? null : walkDoubt(stop, text, unit);
    setDoubt(odd);
    if (!odd) onKeep(text, unit, stands ? oddRecord(oddOf(stands)!, true).slice(0, 200) : '');
  };
  /** What is typed anew is doubted anew. */
  const changed = (set: (text: string) => void) => (text: string) => {
    setDoubt(null);
    set(text);
  };
  const again = () => {
    setDoubt(null);
    setTyped('');
    field.current?.focus();
  };
  return { typed, unit, doubt, trouble, field, keep, again, type: changed(setTyped), pick: changed(setUnit) };
}

/** The display that is read now. */
export function Stop({ stop, waiting, onKeep, onPass }: StopProps) {
  const figures = inFamily(stop);
  const { doubt, trouble, keep, again, ...entry } = useTyped(stop, figures, onKeep);
  return (
    <form
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        keep(null);
      }}
      aria-label={`Display of ${stop.loopName}`}
      className="border-l-[3px] border-primary pl-4 mt-4"
    >
      <About stop={stop} figures={figures} waiting={waiting} />
      <Entry {...entry} figures={figures} isWrong={trouble !== ''} />
      {trouble && (
        <p id="walk-trouble" role="alert" className="text-error mt-1">
          {trouble}
        </p>
      )}
      {doubt ? (
        <div className="mt-3">
          <Doubted warning={doubt} onAgain={again} onStands={() => keep(doubt)} />
        </div>
      ) : (
        <span className="flex gap-2.5 mt-3">
          <button className="btn btn-primary h-14 text-lg flex-1">Keep, and on</button>
          <button type="button" className="btn btn-ghost h-14 font-normal" onClick={onPass}>
            Pass over
          </button>
        </span>
      )}
    </form>
  );
}

/** Where it is, what it usually shows, and what was read there already. */
function About({ stop, figures, waiting }: { stop: WalkStop; figures: InFamily; waiting: Waiting | null }) {
  const { usual, done } = stop;
  const read = waiting ? waiting.body : done;
  return (
    <>
      <p className="text-2xl font-semibold leading-tight">{stop.loopName}</p>
      <p className="sub">
        {[stop.siteName, stop.place].filter(Boolean).join(', ')}
        {usual.from === 'readings' ? ' · at this hour usually ' : ' · works at '}
        <span className="fig">{figures.value(usual.value)}</span> {figures.unit}
      </p>
      {read && (
        <p className="mt-1">
          Read already: <span className="fig">{read.typed}</span> {read.unit}
          {!waiting && done ? `, ${done.by}, ${hourOf(done.at)}` : ''}. What you type takes its place.
        </p>
      )}
    </>
  );
}

function Entry({
  typed,
  unit,
  type,
  pick,
  field,
  figures,
  isWrong,
}: {
  typed: string;
  unit: string;
  type: (text: string) => void;
  pick: (unit: string) => void;
  field: RefObject<HTMLInputElement | null>;
  figures: InFamily;
  isWrong: boolean;
}) {
  const units = [...new Set([figures.unit, ...scalesOf(figures.model).map((s) => s.id)])];
  return (
    <>
      <label htmlFor="walk-reading" className="sub text-sm block mt-2 mb-1">
        It shows
      </label>
      <div className="join w-full">
        <input
          ref={field}
          id="walk-reading"
          inputMode="decimal"
          enterKeyHint="next"
          autoComplete="off"
          className="input join-item h-16 text-3xl fig w-full min-w-0"
          aria-invalid={isWrong ? true : undefined}
          aria-describedby={isWrong ? 'walk-trouble' : undefined}
          value={typed}
          onChange={(e) => type(e.target.value)}
        />
        <select
          aria-label="Unit of the display"
          className="select join-item h-16 shrink-0 w-[128px]"
          value={unit}
          onChange={(e) => pick(e.target.value)}
        >
          {units.map((u) => (
            <option key={u}>{u}</option>
          ))}
        </select>
      </div>
    </>
  );
}
