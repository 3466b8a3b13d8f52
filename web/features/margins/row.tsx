import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { MS_PER_DAY } from '@frustum/core';
import type { LoopRow } from '@frustum/contract';
import { useConeQuery } from '../../app/api.ts';
import { useLiveChannel, useLiveState } from '../../app/live.ts';
import { ValueNow } from '../../app/value-now.tsx';
import { dueWords } from '../../format/dates.ts';
import { coneAsWritten } from '../../format/as-written.ts';
import { inFamily } from '../../format/in-family.ts';
import { restsOnLine } from '../../format/rests-on.ts';
import { ChannelMark } from '../../ui/channel-mark.tsx';
import { StateWord } from '../../ui/state-word.tsx';

// Fetched while the sensors are being read, not after: the cones are what this page is for.
const chart = import('../../charts/cone-chart.tsx');
const ConeChart = lazy(() => chart);

/** The shared time axis: this far back, this far ahead. */
export const BACK_DAYS = 120;
export const AHEAD_DAYS = 60;
export const COLUMNS = 'lg:grid-cols-[158px_196px_minmax(280px,1fr)_104px_184px_84px]';

export const benchOf = (row: LoopRow) => (row.openRunId ? `/bench/${row.openRunId}` : `/bench/start/${row.sensorId}`);

export function Row({
  row,
  nowMs,
  current,
  urgent,
  rowIndex,
  drawn,
}: {
  row: LoopRow;
  nowMs: number;
  current: boolean;
  urgent: boolean;
  /** its place in the table, counted from 1 with the heading */
  rowIndex: number;
  /** its cone is drawn; until then its place is kept */
  drawn: boolean;
}) {
  const due = dueWords(row.due.atMs, nowMs, row.timeZone);
  const { margin } = row;
  const figures = inFamily(row);
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className={`grid grid-cols-[1fr_auto] ${COLUMNS} items-center border-t border-base-300 gap-x-3 lg:gap-x-0 max-lg:py-3 ${current ? 'lg:bg-base-200 lg:shadow-[inset_3px_0_0_var(--color-primary)]' : ''}`}
    >
      <span role="cell" className="lg:pl-2.5 max-lg:order-2 max-lg:justify-self-end">
        <StateWord state={margin.state} />
      </span>
      <span role="cell" className="max-lg:order-1 lg:py-1.5">
        <Link to={`/sensors/${row.sensorId}`} className="font-[650] block leading-tight hover:underline">
          {row.loopName}
        </Link>
        <span className="sub text-sm">
          {row.place}
          <LiveValue row={row} />
        </span>
        {row.restsOn && <span className="block text-[13px] leading-tight pr-2">{restsOnLine(row.restsOn)}</span>}
      </span>
      <ConeCell row={row} drawn={drawn} nowMs={nowMs} />
      <span role="cell" className="fig lg:text-right lg:pr-5 lg:py-1.5 max-lg:order-4 text-[15px]">
        {margin.error === null ? '–' : figures.off(margin.error)}
        <span className="sub text-[13px] lg:block max-lg:ml-2">
          {margin.expanded === null ? figures.unit : `±${figures.size(margin.expanded)} ${figures.unit}`}
        </span>
      </span>
      <DueCell due={due} row={row} />
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

/** Its cone, or why there is none. */
function ConeCell({ row, drawn, nowMs }: { row: LoopRow; drawn: boolean; nowMs: number }) {
  const { data: cone } = useConeQuery(row.sensorId, { skip: !row.hasCone });
  const due = dueWords(row.due.atMs, nowMs, row.timeZone);
  const figures = inFamily(row);
  const { margin } = row;
  return (
    <span role="cell" className="max-lg:order-3 max-lg:col-span-2 max-lg:my-1.5 min-w-0">
      {row.hasCone ? (
        <Suspense fallback={<RowPlaceholder />}>
          {drawn && cone ? (
            <ConeChart
              variant="strip"
              cone={coneAsWritten(cone, figures)}
              tolerance={figures.written.size(row.tolerance)}
              nowMs={nowMs}
              dueMs={row.due.atMs}
              state={margin.state}
              fromMs={nowMs - BACK_DAYS * MS_PER_DAY}
              toMs={nowMs + AHEAD_DAYS * MS_PER_DAY}
              digits={figures.digits}
              label={`${row.loopName}: ${margin.state}, off by ${figures.off(margin.error)} ± ${figures.size(margin.expanded)} ${figures.unit}, due ${due.main}`}
            />
          ) : (
            <RowPlaceholder />
          )}
        </Suspense>
      ) : (
        <p className="h-[60px] flex items-center text-sm sub border-y border-base-300 my-0 px-3">
          No run yet. A first calibration opens its cone.
        </p>
      )}
    </span>
  );
}

function DueCell({ due, row }: { due: ReturnType<typeof dueWords>; row: LoopRow }) {
  const { overdue } = due;
  return (
    <span role="cell" className="max-lg:order-5 max-lg:row-start-4 max-lg:text-[15px]">
      <b className="font-semibold whitespace-nowrap">{due.main}</b>
      {due.day && !overdue && <span className="whitespace-nowrap">, {due.day}</span>}
      <span className="sub text-[13px] block">{overdue ? `since ${due.day}, ${row.due.reason}` : row.due.reason}</span>
    </span>
  );
}

/** A sound loop on a phone: all is well in one line, and the rest is a tap away. */
export function SlimRow({ row, nowMs, rowIndex }: { row: LoopRow; nowMs: number; rowIndex: number }) {
  const due = dueWords(row.due.atMs, nowMs, row.timeZone);
  const figures = inFamily(row);
  const { state } = useLiveState(row.channelId);
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className="grid grid-cols-[1fr_auto_auto] items-center gap-x-3 border-t border-base-300 min-h-14"
    >
      <span role="cell" className="min-w-0">
        <Link
          to={`/sensors/${row.sensorId}`}
          className="font-[650] min-h-14 flex items-center hover:underline"
          aria-label={row.loopName}
        >
          <span className="truncate">{row.loopName}</span>
        </Link>
      </span>
      <span role="cell" className="fig text-[15px] text-right">
        {row.channel.kind !== 'hand' && state !== 'live' && <ChannelMark state={state} />}
        <span className="sr-only">inside, off by </span>
        {row.margin.error === null ? '–' : figures.off(row.margin.error)}
      </span>
      <span role="cell" className="sub text-[15px] text-right whitespace-nowrap">
        {due.main}
      </span>
    </div>
  );
}

const RowPlaceholder = () => <div className="h-[60px]" />;

/** What the loop shows just now, and the channel's state whenever that is not simply live. */
function LiveValue({ row }: { row: LoopRow }) {
  const { state, message, sample } = useLiveChannel(row.channelId);
  if (row.channel.kind === 'hand' || (!sample && state === 'live')) return null;
  return (
    <span title={message || undefined}>
      {' · '}
      {sample && (
        <span className="fig">
          <ValueNow row={row} sample={sample} />
        </span>
      )}{' '}
      {state !== 'live' && <ChannelMark state={state} />}
    </span>
  );
}
