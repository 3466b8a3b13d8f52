import { useState } from 'react';
import { ZERO_PLUG, type Standard } from '@frustum/core';
import type { LoopRow, LotRow, ProcedureRow, ShelfView } from '@frustum/contract';
import { useEndLotMutation } from '../../../app/api.ts';
import { dayOf } from '../../../format/dates.ts';
import { NewLot } from './new-lot.tsx';
import { pouredFrom, setsFor, standardsFor, type Choice } from './start-choice.ts';

const MAX_POINTS = 5;

/** Standards in their order, usual sets first, and the bottle that each is poured from. */
export function StartPoints({
  row,
  own,
  choice,
  shelf,
  today,
  onChange,
}: {
  row: LoopRow;
  own: ProcedureRow | null;
  choice: Choice;
  shelf: ShelfView;
  today: string;
  onChange: (part: Partial<Choice>) => void;
}) {
  const { points } = choice;
  const [ordering, setOrdering] = useState(false);
  const nameOf = (id: string) => shelf.standards.find((s) => s.id === id)?.name ?? id;
  const calledIn = (set: readonly string[]) => (id: string, i: number) =>
    set.indexOf(id) < i ? `${nameOf(id)} as warm as the water` : nameOf(id);
  const usual = setsFor(row, own, shelf.standards);
  const sets = usual.some((s) => s.join() === points.join()) || !points.length ? usual : [points, ...usual];
  const from = pouredFrom(choice, shelf.lots, today);
  const offered = standardsFor(row, shelf.standards).filter((s) => !points.includes(s.id));
  return (
    <>
      <fieldset className="mt-6">
        <legend className="font-[650]">Standards, in this order</legend>
        <Sets
          sets={sets}
          points={points}
          onChange={onChange}
          calledIn={calledIn}
          ordering={ordering}
          setOrdering={setOrdering}
        />
        {ordering && (
          <Order points={points} calledIn={calledIn} nameOf={nameOf} onChange={onChange} offered={offered} />
        )}
      </fieldset>
      <section className="mt-6" aria-label="Bottles">
        <h2>From which bottles</h2>
        {points.length === 0 && <p className="sub mt-2">No standard is chosen yet. Pick a set above.</p>}
        {[...new Set(points)].map((id) => (
          <LotChoice
            key={id}
            name={nameOf(id)}
            standardId={id}
            inAir={shelf.standards.find((s) => s.id === id)?.inAir ?? false}
            lots={shelf.lots.filter((l) => l.standardId === id)}
            value={from[id] ?? ''}
            today={today}
            onPick={(lot) => onChange({ lots: { ...choice.lots, [id]: lot } })}
          />
        ))}
      </section>
    </>
  );
}

function Sets({
  sets,
  points,
  onChange,
  calledIn,
  ordering,
  setOrdering,
}: {
  sets: readonly (readonly string[])[];
  points: readonly string[];
  onChange: (part: Partial<Choice>) => void;
  calledIn: (set: readonly string[]) => (id: string, i: number) => string;
  ordering: boolean;
  setOrdering: (value: boolean) => void;
}) {
  return (
    <div className="flex flex-wrap gap-2 mt-2">
      {sets.map((set) => (
        <label
          key={set.join()}
          className={`btn h-14 font-normal has-focus-visible:outline-2 ${set.join() === points.join() ? 'btn-neutral' : 'btn-outline border-base-300'}`}
        >
          <input
            type="radio"
            name="points"
            className="sr-only"
            checked={set.join() === points.join()}
            onChange={() => onChange({ points: set })}
          />
          {set.map(calledIn(set)).join(', then ')}
        </label>
      ))}
      <button
        type="button"
        className="btn btn-ghost h-14 font-normal"
        aria-expanded={ordering}
        onClick={() => setOrdering(!ordering)}
      >
        Another set or order
      </button>
    </div>
  );
}

function Order({
  points,
  calledIn,
  nameOf,
  onChange,
  offered,
}: {
  points: readonly string[];
  calledIn: (set: readonly string[]) => (id: string, i: number) => string;
  nameOf: (id: string) => string;
  onChange: (part: Partial<Choice>) => void;
  offered: Standard[];
}) {
  return (
    <div className="mt-2 flex flex-wrap gap-2 items-center">
      {points.map((id, i) => (
        <span key={`${id}/${i}`} className="inline-flex items-center border border-base-300 rounded-lg pl-3">
          {calledIn(points)(id, i)}
          {i > 0 && (
            <button
              type="button"
              className="btn btn-ghost h-12 px-3"
              aria-label={`${nameOf(id)} earlier`}
              onClick={() => onChange({ points: swapped(points, i) })}
            >
              ←
            </button>
          )}
          <button
            type="button"
            className="btn btn-ghost h-12 px-3"
            aria-label={`Without ${nameOf(id)}`}
            onClick={() => onChange({ points: points.filter((_, at) => at !== i) })}
          >
            ×
          </button>
        </span>
      ))}
      {points.length < MAX_POINTS && offered.length > 0 && (
        <select
          className="select h-12 w-48"
          aria-label="Add a standard"
          value=""
          onChange={(e) => onChange({ points: [...points, e.target.value] })}
        >
          <option value="">add a standard</option>
          {offered.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

const swapped = (points: readonly string[], i: number) =>
  points.map((p, k) => (k === i - 1 ? points[i]! : k === i ? points[i - 1]! : p));

function LotChoice(props: {
  name: string;
  standardId: string;
  inAir: boolean;
  lots: readonly LotRow[];
  value: string;
  today: string;
  onPick: (lotId: string) => void;
}) {
  const { name, standardId, inAir, lots, value, today, onPick } = props;
  const [adding, setAdding] = useState(false);
  const [end] = useEndLotMutation();
  // Air and a shorting plug come from no bottle.
  if (inAir || standardId === ZERO_PLUG.id) return null;
  const picked = lots.find((l) => l.lotId === value);
  return (
    <div className="border-t border-base-300 py-2.5 mt-2">
      <div className="flex items-center gap-3 flex-wrap">
        <span className="fig text-xl min-w-28">{name}</span>
        <Bottles name={name} value={value} onPick={onPick} lots={lots} />
        <button type="button" className="btn btn-ghost h-12" aria-expanded={adding} onClick={() => setAdding(!adding)}>
          New bottle
        </button>
        {picked && !picked.usedUpOn && (
          <button
            type="button"
            className="btn btn-ghost h-12 font-normal"
            onClick={() => {
              void end(picked.lotId);
              onPick('');
            }}
          >
            {picked.label} is used up
          </button>
        )}
      </div>
      {adding && (
        <NewLot
          standardId={standardId}
          today={today}
          onAdded={(lotId) => {
            onPick(lotId);
            setAdding(false);
          }}
        />
      )}
    </div>
  );
}

function Bottles({
  name,
  value,
  onPick,
  lots,
}: {
  name: string;
  value: string;
  onPick: (lotId: string) => void;
  lots: readonly LotRow[];
}) {
  return (
    <select
      className="select h-12 w-auto min-w-52"
      aria-label={`Lot of ${name}`}
      value={value}
      onChange={(e) => onPick(e.target.value)}
    >
      <option value="">no lot noted</option>
      {[...lots].reverse().map((l) => (
        <option key={l.lotId} value={l.lotId}>
          {l.label}, {l.usedUpOn ? `used up ${dayOf(l.usedUpOn)}` : `good until ${dayOf(l.expiresOn)}`}
          {l.table ? ', its own table' : ''}
        </option>
      ))}
    </select>
  );
}
