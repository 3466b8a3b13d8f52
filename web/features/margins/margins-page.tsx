import { useDeferredValue, useMemo, useState, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import type { LoopRow, MarginsView } from '@frustum/contract';
import { useMarginsQuery } from '../../app/api.ts';
import { useKeys, type Keys } from '../../app/keys.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { Notice } from '../../ui/notice.tsx';
import { GROUPS, linesOf, SORTS, type Choice, type Group, type Sort } from './choose.ts';
import { keepChoice, keptChoice } from './kept-choice.ts';
import { headline, needsHands } from './headline.ts';
import { LongList } from './long-list.tsx';
import { AHEAD_DAYS, BACK_DAYS, benchOf, COLUMNS } from './row.tsx';

const TICKS = [-90, -60, -30, 0, 30];

/** More places than this are chosen from a list. */
const MAX_CHIPS = 6;

export function Page() {
  const { data, error } = useMarginsQuery();
  if (!data) return <NotYet what="Reading the sensors" error={error} />;
  if (!data.rows.length && !data.empty.length) return <Welcome />;
  return (
    <>
      <NothingFitted empty={data.empty} />
      <Margins rows={data.rows} nowMs={data.nowMs} />
    </>
  );
}

/** Loops whose sensor was taken out: nothing is known of them, and nobody should think that they are well. */
function NothingFitted({ empty }: Pick<MarginsView, 'empty'>) {
  if (!empty.length) return null;
  return (
    <section aria-label="Nothing is fitted" className="px-4 lg:px-7 pt-4">
      <Notice kind="care">
        No sensor is fitted at{' '}
        {empty.map(({ loopId, loopName }, i) => (
          <span key={loopId}>
            {i > 0 && ', '}
            <Link className="underline" to={`/set-up/fit/${loopId}`}>
              {loopName}
            </Link>
          </span>
        ))}
        . Fit one, or archive the loop in Set-up.
      </Notice>
    </section>
  );
}

/** What is shown of the house, in which order: as it was chosen on this device. */
function useChoice(rows: readonly LoopRow[], nowMs: number) {
  const [chosen, setChoice] = useState<Choice>(keptChoice);
  const find = useDeferredValue(chosen.find);
  const places = useMemo(() => [...new Set(rows.map((r) => r.place).filter(Boolean))], [rows]);
  // A place that is no more shows everything again.
  const choice = useMemo(
    () => (['all', 'hands', ...places].includes(chosen.filter) ? chosen : { ...chosen, filter: 'all' }),
    [chosen, places],
  );
  const lines = useMemo(() => linesOf(rows, { ...choice, find }, nowMs), [rows, choice, find, nowMs]);
  const choose = (part: Partial<Choice>) => {
    const next = { ...choice, ...part };
    setChoice(next);
    keepChoice(next);
  };
  return { choice, places, lines, choose };
}

/** The row that keys go to. */
function useCurrentRow(loops: readonly LoopRow[]) {
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const current = loops[Math.min(at, loops.length - 1)];
  const keys = useMemo(
    (): Keys => ({
      j: ['Next row', () => setAt((i) => Math.min(i + 1, loops.length - 1))],
      k: ['Row before', () => setAt((i) => Math.max(i - 1, 0))],
      Enter: ['The sensor of the row', () => current && void navigate(`/sensors/${current.sensorId}`)],
      b: ['Bench for the row', () => current && void navigate(benchOf(current))],
    }),
    [loops.length, current, navigate],
  );
  useKeys(keys);
  return { current, toFirst: () => setAt(0) };
}

/** Which sensors can still be trusted, which needs hands next, and why? */
function Margins({ rows, nowMs }: { rows: readonly LoopRow[]; nowMs: number }) {
  const [folded, setFolded] = useState(true);
  const { choice, places, lines, choose: chooseOnly } = useChoice(rows, nowMs);
  const hands = useMemo(() => rows.filter((r) => needsHands(r, nowMs)).length, [rows, nowMs]);
  const loops = useMemo(() => lines.flatMap((l) => (l.kind === 'loop' ? [l.row] : [])), [lines]);
  const { current, toFirst } = useCurrentRow(loops);
  const choose = (part: Partial<Choice>) => {
    chooseOnly(part);
    toFirst();
  };
  const chip = (value: string, text: string) => (
    <button
      key={value}
      type="button"
      aria-pressed={choice.filter === value}
      onClick={() => choose({ filter: value })}
      className={`px-3 py-1.5 rounded-full border text-[15px] ${choice.filter === value ? 'bg-neutral text-neutral-content border-neutral' : 'border-base-300'}`}
    >
      {text}
    </button>
  );
  return (
    <main className="px-4 lg:px-7 pt-5 pb-6 w-full max-w-[1600px] mx-auto">
      <h1>{headline(rows, nowMs)}</h1>
      <div className="flex flex-wrap gap-2 my-4 items-center">
        {chip('all', `All ${rows.length}`)}
        {chip('hands', `Needs hands ${hands}`)}
        <button
          type="button"
          aria-expanded={!folded}
          onClick={() => setFolded(!folded)}
          className="lg:hidden px-3 py-1.5 rounded-full border text-[15px] border-base-300"
        >
          {places.includes(choice.filter) ? choice.filter : 'Filter, sort'}
        </button>
        <Refinements folded={folded} places={places} chip={chip} choice={choice} choose={choose} />
      </div>
      <div role="table" aria-label="Loops and their margins" aria-rowcount={lines.length + 1}>
        <TableHead />
        <LongList lines={lines} nowMs={nowMs} current={current ?? null} />
      </div>
      {loops.length === 0 && (
        <p className="sub py-6">
          {choice.find ? `No loop here is called “${choice.find}”.` : 'No sensor here needs hands.'} Pick another
          filter.
        </p>
      )}
      <Legend />
    </main>
  );
}

/** Places, a search, groups and order: folded away on a phone. */
function Refinements({
  folded,
  places,
  chip,
  choice,
  choose,
}: {
  folded: boolean;
  places: string[];
  chip: (value: string, text: string) => ReactNode;
  choice: Choice;
  choose: (part: Partial<Choice>) => void;
}) {
  return (
    <span className={`flex-wrap gap-2 items-center lg:contents ${folded ? 'hidden' : 'flex'}`}>
      {places.length <= MAX_CHIPS && places.map((p) => chip(p, p))}
      {places.length > MAX_CHIPS && (
        <Select
          label="Place"
          value={places.includes(choice.filter) ? choice.filter : ''}
          options={[['', 'every place'], ...places.map((p) => [p, p] as const)]}
          onChange={(place) => choose({ filter: place || 'all' })}
        />
      )}
      <span className="lg:ml-auto flex flex-wrap gap-2 items-center">
        <input
          type="search"
          aria-label="Find a loop"
          placeholder="Find a loop"
          className="input input-sm h-9 w-40 text-[15px]"
          value={choice.find}
          onChange={(e) => choose({ find: e.target.value })}
        />
        <Select
          label="Group"
          value={choice.group}
          options={Object.entries(GROUPS)}
          onChange={(group) => choose({ group: group as Group })}
        />
        <Select
          label="Sort"
          value={choice.sort}
          options={Object.entries(SORTS)}
          onChange={(sort) => choose({ sort: sort as Sort })}
        />
      </span>
    </span>
  );
}

function TableHead() {
  return (
    <div role="row" className={`hidden lg:grid ${COLUMNS} items-end h-8 sub text-sm`}>
      <span role="columnheader" className="pl-2.5">
        State
      </span>
      <span role="columnheader">Loop</span>
      <span role="columnheader" aria-label="Error over time" className="relative h-5">
        {TICKS.map((d) => (
          <span
            key={d}
            className="fig absolute -translate-x-1/2 text-[13px]"
            style={{ left: `${(100 * (d + BACK_DAYS)) / (BACK_DAYS + AHEAD_DAYS)}%` }}
          >
            {d === 0 ? 'now' : d > 0 ? `+${d} d` : `−${-d} d`}
          </span>
        ))}
      </span>
      <span role="columnheader" className="text-right pr-5">
        Off now
      </span>
      <span role="columnheader">Due</span>
      <span role="columnheader" className="sr-only">
        Action
      </span>
    </div>
  );
}

function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <label className="sub text-[15px] flex items-center gap-1.5">
      <span className="max-lg:hidden">{label}</span>
      <select
        aria-label={label}
        className="select select-sm h-9 w-auto text-[15px] text-base-content"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      >
        {options.map(([id, text]) => (
          <option key={id} value={id}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

function Legend() {
  return (
    <p className="sub text-sm mt-5 max-w-4xl">
      Rails are the tolerance. The band is where the shown error lies: dark half of the time, light 95 %. A full dot is
      a calibration, an open one a verification, a diamond a grab sample; the small trapezoid is the next run.
    </p>
  );
}

function Welcome() {
  return (
    <main className="px-4 lg:px-7 py-8 max-w-2xl">
      <h1>Welcome. No sensor is known here yet.</h1>
      <p className="my-4 text-lg">
        Frustum calibrates fixed sensors with you, keeps what it found, and says how far each can still be trusted and
        when to come back. Name a first sensor: it takes less than a minute.
      </p>
      <Link className="btn btn-primary h-14 text-lg px-6" to="/set-up/add">
        Add a sensor
      </Link>
      <p className="sub mt-6">
        Only want to look around? Stop this and start it with <span className="fig">npm run demo</span>: an invented
        house with twenty sensors and a year and a half of history.
      </p>
    </main>
  );
}
