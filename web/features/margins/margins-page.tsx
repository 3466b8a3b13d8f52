import { lazy, Suspense, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { MS_PER_DAY } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { useMarginsQuery, problemOf } from '../../app/api.ts';
import { useKeys } from '../../app/keys.ts';
import { useLiveChannel } from '../../app/live.ts';
import { dueWords } from '../../format/dates.ts';
import { inFamily } from '../../format/in-family.ts';
import { ChannelMark } from '../../ui/channel-mark.tsx';
import { Notice } from '../../ui/notice.tsx';
import { StateWord } from '../../ui/state-word.tsx';
import { Waiting } from '../../ui/waiting.tsx';
import { headline, needsHands } from './headline.ts';

// Fetched while the sensors are being read, not after: the cones are what this page is for.
const chart = import('../../charts/cone-chart.tsx');
const ConeChart = lazy(() => chart);

/** The shared time axis: this far back, this far ahead. */
const BACK_DAYS = 120;
const AHEAD_DAYS = 60;
const TICKS = [-90, -60, -30, 0, 30];

const COLUMNS = 'lg:grid-cols-[158px_196px_minmax(280px,1fr)_104px_184px_84px]';

export function Page() {
  const { data, error, isLoading } = useMarginsQuery();
  if (isLoading) return <Waiting what="Reading the sensors" />;
  if (!data) {
    return (
      <main className="p-6">
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      </main>
    );
  }
  return data.rows.length ? <Margins rows={data.rows} nowMs={data.nowMs} /> : <Welcome />;
}

/** Which sensors can still be trusted, which needs hands next, and why? */
function Margins({ rows, nowMs }: { rows: readonly LoopRow[]; nowMs: number }) {
  const [filter, setFilter] = useState<string>('all');
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  const places = [...new Set(rows.map((r) => r.place).filter(Boolean))];
  const hands = rows.filter((r) => needsHands(r, nowMs));
  const shown = filter === 'all' ? rows : filter === 'hands' ? hands : rows.filter((r) => r.place === filter);
  const current = shown[Math.min(at, shown.length - 1)];
  const keys = useMemo(
    () => ({
      j: () => setAt((i) => Math.min(i + 1, shown.length - 1)),
      k: () => setAt((i) => Math.max(i - 1, 0)),
      Enter: () => current && void navigate(`/sensors/${current.sensorId}`),
      b: () => current && void navigate(benchOf(current)),
    }),
    [shown.length, current, navigate],
  );
  useKeys(keys);
  const chip = (value: string, text: string) => (
    <button
      key={value}
      type="button"
      aria-pressed={filter === value}
      onClick={() => setFilter(value)}
      className={`px-3 py-1.5 rounded-full border text-[15px] ${filter === value ? 'bg-neutral text-neutral-content border-neutral' : 'border-base-300'}`}
    >
      {text}
    </button>
  );
  return (
    <main className="px-4 lg:px-7 pt-5 pb-6 w-full max-w-[1600px] mx-auto">
      <h1>{headline(rows, nowMs)}</h1>
      <div className="flex flex-wrap gap-2 my-4 items-center">
        {chip('all', `All ${rows.length}`)}
        {places.map((p) => chip(p, p))}
        {chip('hands', `Needs hands ${hands.length}`)}
        <span className="ml-auto sub text-[15px] max-lg:hidden">Sorted by due date</span>
      </div>
      <div role="table" aria-label="Loops and their margins">
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
        {shown.map((row) => (
          <Row key={row.loopId} row={row} nowMs={nowMs} current={row === current} urgent={needsHands(row, nowMs)} />
        ))}
      </div>
      {shown.length === 0 && <p className="sub py-6">No sensor here needs hands. Pick another filter.</p>}
      <Legend />
    </main>
  );
}

const benchOf = (row: LoopRow) => (row.openRunId ? `/bench/${row.openRunId}` : `/bench/start/${row.sensorId}`);

function Row({ row, nowMs, current, urgent }: { row: LoopRow; nowMs: number; current: boolean; urgent: boolean }) {
  const due = dueWords(row.due.atMs, nowMs);
  const { margin } = row;
  const figures = inFamily(row);
  const overdue = row.due.atMs !== null && due.main.startsWith('overdue');
  return (
    <div
      role="row"
      className={`grid grid-cols-[1fr_auto] ${COLUMNS} items-center border-t border-base-300 gap-x-3 lg:gap-x-0 max-lg:py-3 ${current ? 'lg:bg-base-200 lg:shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
    >
      <span role="cell" className="lg:pl-2.5 max-lg:order-2 max-lg:justify-self-end">
        <StateWord state={margin.state} />
      </span>
      <span role="cell" className="max-lg:order-1">
        <Link to={`/sensors/${row.sensorId}`} className="font-[650] block leading-tight hover:underline">
          {row.loopName}
        </Link>
        <span className="sub text-sm">
          {row.place}
          <LiveValue row={row} />
        </span>
      </span>
      <span role="cell" className="max-lg:order-3 max-lg:col-span-2 max-lg:my-1.5 min-w-0">
        {row.cone.segments.length ? (
          <Suspense fallback={<div className="h-[60px]" />}>
            <ConeChart
              variant="strip"
              cone={row.cone}
              tolerance={row.tolerance}
              nowMs={nowMs}
              dueMs={row.due.atMs}
              state={margin.state}
              fromMs={nowMs - BACK_DAYS * MS_PER_DAY}
              toMs={nowMs + AHEAD_DAYS * MS_PER_DAY}
              label={`${row.loopName}: ${margin.state}, off by ${figures.value(margin.error)} ± ${figures.value(margin.expanded)} ${figures.unit}, due ${due.main}`}
            />
          </Suspense>
        ) : (
          <p className="h-[60px] flex items-center text-sm sub border-y border-base-300 my-0 px-3">
            No run yet. A first calibration opens its cone.
          </p>
        )}
      </span>
      <span role="cell" className="fig lg:text-right lg:pr-5 max-lg:order-4 text-[15px]">
        {margin.error === null ? '–' : figures.value(Math.abs(margin.error))}
        <span className="sub text-[13px] lg:block max-lg:ml-2">
          {margin.expanded === null ? figures.unit : `±${figures.value(margin.expanded)} ${figures.unit}`}
        </span>
      </span>
      <span role="cell" className="max-lg:order-5 max-lg:row-start-4 max-lg:text-[15px]">
        <b className="font-semibold whitespace-nowrap">{due.main}</b>
        {due.day && !overdue && <span className="whitespace-nowrap">, {due.day}</span>}
        <span className="sub text-[13px] block">
          {overdue ? `since ${due.day}, ${row.due.reason}` : row.due.reason}
        </span>
      </span>
      <span
        role="cell"
        className="max-lg:order-6 max-lg:row-start-3 max-lg:row-span-2 max-lg:col-start-2 justify-self-end"
      >
        <Link
          to={benchOf(row)}
          className={`btn h-12 lg:h-10 px-4 text-base ${urgent ? 'btn-primary' : 'btn-outline border-base-300'}`}
          aria-label={`Bench for ${row.loopName}`}
        >
          {row.openRunId ? 'Go on' : 'Bench'}
        </Link>
      </span>
    </div>
  );
}

/** What the loop shows just now, and the channel's state whenever that is not simply live. */
function LiveValue({ row }: { row: LoopRow }) {
  const { state, message, sample } = useLiveChannel(row.channelId);
  if (row.channel.kind === 'hand' || (!sample && state === 'live')) return null;
  const figures = inFamily(row);
  return (
    <span className="whitespace-nowrap" title={message || undefined}>
      {' · '}
      {sample && (
        <span className="fig">
          {figures.value(figures.valueOf(sample.signal, sample.unit, sample.temperatureC, row.inForce))} {figures.unit}
        </span>
      )}{' '}
      {state !== 'live' && <ChannelMark state={state} />}
    </span>
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
      <Link className="btn btn-primary h-14 text-lg px-6" to="/set-up">
        Add a sensor
      </Link>
      <p className="sub mt-6">
        Only want to look around? Stop this and start it with <span className="fig">npm run demo</span>: an invented
        house with twenty sensors and a year and a half of history.
      </p>
    </main>
  );
}
