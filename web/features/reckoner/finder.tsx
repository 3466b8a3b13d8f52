import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { inWords, lookFor, type Hit } from '@frustum/core';
import { useKeys, type Keys } from '../../app/keys.ts';
import { useAppDispatch } from '../../app/store.ts';
import { typed } from '../../app/reckoner-memory.ts';

/** Through the sums; the list listens to these itself. */
const WALKED: Keys = { ArrowDown: ['Next sum'], ArrowUp: ['Sum before'] };

/** Up and down through the list, and from its top back into the field. */
function walk(event: KeyboardEvent, field: HTMLElement | null, list: HTMLElement | null): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  if (by === 0) return;
  const all = [...(list?.querySelectorAll('a') ?? [])];
  const to = all.indexOf(event.target as HTMLAnchorElement) + by;
  event.preventDefault();
  if (to < 0) field?.focus();
  else all[to]?.focus();
}

/** One field for a figure with its unit, or for words; below it the sums that fit, a figure's answers already in them. */
export function Finder({ current, takesFocus }: { current: string; takesFocus: boolean }) {
  const [text, setText] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLDivElement>(null);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { hits, read } = lookFor(text);
  useEffect(() => {
    if (takesFocus) field.current?.focus();
  }, [takesFocus]);

  const open = ({ sum, input, solved }: Hit) => {
    if (solved) dispatch(typed({ sumId: sum.id, input }));
    void navigate(`/reckoner/${sum.id}`, { state: { typing: true } });
  };
  const keys = (event: KeyboardEvent) => walk(event, field.current, list.current);
  useKeys(WALKED);
  const groups = text.trim() ? [''] : [...new Set(hits.map((h) => h.sum.group))];
  return (
    <nav aria-label="Sums" className="px-4 lg:px-[22px] py-4 lg:py-5" onKeyDown={keys}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (hits[0]) open(hits[0]);
        }}
      >
        <label className="font-[650] text-[17px] block mb-2" htmlFor="look-for">
          A figure with its unit, or a word
        </label>
        <input
          id="look-for"
          ref={field}
          className="input w-full h-12 text-[17px]"
          autoComplete="off"
          maxLength={60}
          placeholder="81.3 F, 1.41 mS/cm, gravity"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </form>
      <div ref={list} className="mt-3 lg:max-h-[calc(100dvh-220px)] lg:overflow-y-auto -mx-2 px-2">
        {groups.map((group) => (
          <Group key={group} group={group} hits={hits} current={current} open={open} />
        ))}
        {hits.length === 0 && (
          <p className="sub mt-2">
            {read
              ? `No sum here takes ${read.value} ${read.unit}.`
              : 'No sum is called that. Try another word, or a figure with its unit.'}
          </p>
        )}
      </div>
    </nav>
  );
}

function Group({
  group,
  hits,
  current,
  open,
}: {
  group: string;
  hits: readonly Hit[];
  current: string;
  open: (hit: Hit) => void;
}) {
  return (
    <section className="mb-3">
      {group && <h2 className="sub text-sm font-normal mb-1">{group}</h2>}
      <ul>
        {hits
          .filter((h) => !group || h.sum.group === group)
          .map((hit) => (
            <HitRow key={hit.sum.id} hit={hit} current={current} open={open} />
          ))}
      </ul>
    </section>
  );
}

function HitRow({ hit, current, open }: { hit: Hit; current: string; open: (hit: Hit) => void }) {
  return (
    <li>
      <Link
        to={`/reckoner/${hit.sum.id}`}
        aria-current={hit.sum.id === current ? 'page' : undefined}
        className={`block rounded px-2 py-1.5 max-lg:py-3 leading-snug ${hit.sum.id === current ? 'font-semibold bg-base-200' : 'hover:bg-base-200'}`}
        onClick={(event) => {
          event.preventDefault();
          open(hit);
        }}
      >
        {hit.sum.title}
        {hit.solved && <AtOnce hit={hit} />}
      </Link>
    </li>
  );
}

/** The answer, before the sum is even opened. */
function AtOnce({ hit: { sum, solved } }: { hit: Hit }) {
  if (!solved?.answer) return <span className="block sub text-sm">refuses this figure: open it to see why</span>;
  const asked = sum.fields.find((f) => f.id === solved.way.finds[0])!;
  return (
    <span className="block fig text-[15px] font-normal">
      {asked.name.length < 16 && asked.name !== asked.unit ? `${asked.name} ` : ''}
      {inWords(asked, solved.answer.found[asked.id]!)}
    </span>
  );
}
