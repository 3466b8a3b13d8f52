import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { courseAt, type AlarmLimits } from '@frustum/core';
import type { KeepLimits, LimitsView, LoopRow } from '@frustum/contract';
import { useAlarmLimitsQuery, useKeepAlarmLimitsMutation, useMarginsQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { inFamily, type InFamily } from '../../format/in-family.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { LimitFieldset } from './limit-fields.tsx';
import { limitsFrom, textsOf, type LimitTexts } from './limit-texts.ts';

const LimitsChart = lazy(() => import('../../charts/limits-chart.tsx'));

/** What each loop's row says so far, once it has been read. */
interface Asked {
  readonly version: number;
  readonly kept: Partial<AlarmLimits>;
  readonly texts: LimitTexts;
  readonly taken: boolean;
}

/** As people count: bed 2 comes before bed 10. */
const byName = new Intl.Collator('en', { numeric: true }).compare;

/** Where the water of each loop should stay: proposed from what it has shown, looked at, and kept for several loops at once. */
export function Page() {
  const { data, error } = useMarginsQuery();
  if (!data) return <NotYet what="Reading the loops" error={error} />;
  const inOrder = (a: LoopRow, b: LoopRow) =>
    byName(a.siteName, b.siteName) || a.position - b.position || byName(a.loopName, b.loopName);
  return <Limits rows={data.rows.toSorted(inOrder)} />;
}

function Limits({ rows }: { rows: readonly LoopRow[] }) {
  const [params] = useSearchParams();
  const only = params.get('loop');
  const shown = only ? rows.filter((r) => r.loopId === only) : rows;
  const [asked, setAsked] = useState<Readonly<Record<string, Asked>>>({});
  const taken = shown.filter((r) => asked[r.loopId]?.taken);
  return (
    <main className="px-4 lg:px-7 py-5 pb-32 w-full max-w-4xl mx-auto">
      <h1>Where should the water stay?</h1>
      <p className="sub mt-2 max-w-prose">
        Proposed from the last 14 days, with the usual course of the day where there is one. Look at each, tick it, and
        keep them together. A probe at the bench never alarms. Alarms are no safety device: what must stop by itself has
        its own interlock.
      </p>
      {only && (
        <p className="mt-1">
          <Link className="underline" to="/limits">
            All loops
          </Link>
        </p>
      )}
      <ul className="mt-4">
        {shown.map((row) => (
          <Line
            key={row.loopId}
            row={row}
            asked={asked[row.loopId]}
            open={only !== null}
            onAsk={(to) => setAsked((all) => ({ ...all, [row.loopId]: to }))}
          />
        ))}
      </ul>
      <KeepBar taken={taken} asked={asked} onKept={() => setAsked({})} />
    </main>
  );
}

/** A row asks for its readings once it is nearly in view: two weeks of minutes are not read for a hundred loops at once. */
function useNear() {
  const ref = useRef<HTMLLIElement>(null);
  const [near, setNear] = useState(false);
  useEffect(() => {
    const seen = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setNear(true), {
      rootMargin: '200px',
    });
    if (ref.current) seen.observe(ref.current);
    return () => seen.disconnect();
  }, []);
  return { ref, near };
}

interface LineProps {
  readonly row: LoopRow;
  readonly asked: Asked | undefined;
  readonly open: boolean;
  readonly onAsk: (to: Asked) => void;
}

function Line({ row, asked, open, onAsk }: LineProps) {
  const { ref, near } = useNear();
  const { data, error } = useAlarmLimitsQuery(row.loopId, { skip: !near });
  const figures = inFamily(row);
  const start = data && { version: data.version, kept: data.kept, texts: textsOf(Object.keys(data.kept).length ? data.kept : (data.proposed ?? {}), figures), taken: false }; // prettier-ignore
  const now = asked?.version === data?.version ? (asked ?? start) : start;
  const hasKept = data !== undefined && Object.keys(data.kept).length > 0;
  return (
    <li ref={ref} className="border-t border-base-300 py-4 min-h-64">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2>{row.loopName}</h2>
        <span className="sub">{[row.siteName, row.place].filter(Boolean).join(', ')}</span>
        <span className="ml-auto sub">
          {data && (hasKept ? 'watched' : data.proposed ? 'proposed' : 'not watched')}
        </span>
      </div>
      {!data ? (
        <p className="sub mt-2">{error ? problemOf(error).detail : 'Reading two weeks …'}</p>
      ) : (
        <>
          <Readings view={data} texts={now!.texts} figures={figures} name={row.loopName} />
          <InWords view={data} figures={figures} hasKept={hasKept} />
          <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
            <label className="flex items-center gap-3 min-h-12 cursor-pointer">
              <input
                type="checkbox"
                className="checkbox"
                checked={now!.taken}
                onChange={(e) => onAsk({ ...now!, taken: e.target.checked })}
              />
              {hasKept ? 'Keep these instead' : 'Take these'}
              <span className="sr-only"> for {row.loopName}</span>
            </label>
            {data.proposed && hasKept && (
              <button
                type="button"
                className="btn btn-ghost h-12 font-normal"
                onClick={() => onAsk({ ...now!, texts: textsOf(data.proposed!, figures), taken: true })}
              >
                Show what is usual now
              </button>
            )}
          </div>
          <details open={open || undefined}>
            <summary className="cursor-pointer py-2 sub">Other figures</summary>
            <LimitFieldset
              unit={figures.unit}
              texts={now!.texts}
              onChange={(texts) => onAsk({ ...now!, texts, taken: true })}
            />
          </details>
        </>
      )}
    </li>
  );
}

function InWords({ view, figures, hasKept }: { view: LimitsView; figures: InFamily; hasKept: boolean }) {
  const { proposed, calls, days } = view;
  if (!proposed)
    return (
      <p className="sub mt-1">
        Too little was shown in {days} days to propose anything{hasKept ? '' : ': type limits of your own'}.
      </p>
    );
  const often = calls === 0 ? 'never' : calls === 1 ? 'once' : `${calls} times`;
  const print = (own: number | null | undefined) => (own == null ? 'none' : figures.value(own));
  const between = (low: number | null | undefined, high: number | null | undefined) =>
    (figures.written.falls ? [high, low] : [low, high]).map(print).join(' and ');
  return (
    <p className="sub mt-1">
      Proposed: warn beyond {between(proposed.warnLow, proposed.warnHigh)}, act beyond{' '}
      {between(proposed.actLow, proposed.actHigh)} {figures.unit}
      {proposed.daily ? ', moved along with the usual course of the day' : ''}. In {days} days that would have called{' '}
      {often}.
    </p>
  );
}

/** Readings and limits in one picture, as the loop is written. */
function Readings({
  view,
  texts,
  figures,
  name,
}: {
  view: LimitsView;
  texts: LimitTexts;
  figures: InFamily;
  name: string;
}) {
  const { buckets, course } = view;
  const limits = limitsFrom(texts, figures).limits;
  if (buckets.length < 2) return <p className="sub mt-2 h-40 grid items-center">No readings kept in this time.</p>;
  const points = buckets.map(([t, low, mean, high]) => {
    const by = limits.daily ? courseAt(course, t) : 0;
    const at = (own: number | null | undefined) => (own == null ? null : figures.plotted(own + by));
    return {
      t,
      spread: [figures.plotted(low), figures.plotted(high)].sort((a, b) => a - b) as [number, number],
      mean: figures.plotted(mean),
      warnLow: at(limits.warnLow),
      warnHigh: at(limits.warnHigh),
      actLow: at(limits.actLow),
      actHigh: at(limits.actHigh),
    };
  });
  return (
    <Suspense fallback={<div className="h-40" />}>
      <LimitsChart
        points={points}
        digits={figures.digits}
        label={`${name} over ${view.days} days, ${figures.unit}, with its limits`}
      />
    </Suspense>
  );
}

type Loops = KeepLimits['loops'];

/** Keeps what was ticked, in one, and takes it back in one. */
function useKeep(taken: readonly LoopRow[], asked: Readonly<Record<string, Asked>>, onKept: () => void) {
  const [keep, { error, isLoading }] = useKeepAlarmLimitsMutation();
  const [before, setBefore] = useState<Loops | null>(null);
  const [trouble, setTrouble] = useState('');
  const all = async () => {
    const read = taken.map((row) => ({ row, ...limitsFrom(asked[row.loopId]!.texts, inFamily(row)) }));
    const wrong = read.find((r) => r.trouble);
    setTrouble(wrong ? `${wrong.row.loopName}: ${wrong.trouble}` : '');
    if (wrong) return;
    const loopOf = (row: LoopRow, more: number, alarmLimits: Partial<AlarmLimits>) => ({
      loopId: row.loopId,
      version: asked[row.loopId]!.version + more,
      alarmLimits,
    });
    const answer = await keep({ loops: read.map(({ row, limits }) => loopOf(row, 0, limits)), why: '' });
    if (answer.error !== undefined) return;
    setBefore(taken.map((row) => loopOf(row, 1, asked[row.loopId]!.kept)));
    onKept();
  };
  const undo = async () => {
    const answer = await keep({ loops: before!, why: 'undone' });
    if (answer.error === undefined) setBefore(null);
  };
  return { all, undo, before, isLoading, trouble: trouble || (error === undefined ? '' : problemOf(error).detail) };
}

/** All that was ticked, kept in one; undone in one. */
function KeepBar(props: { taken: readonly LoopRow[]; asked: Readonly<Record<string, Asked>>; onKept: () => void }) {
  const { taken } = props;
  const { all, undo, before, isLoading, trouble } = useKeep(taken, props.asked, props.onKept);
  if (!taken.length && !before && !trouble) return null;
  return (
    <div className="fixed bottom-0 inset-x-0 bg-base-100 border-t border-base-300 px-4 py-3 z-10">
      <div className="max-w-4xl mx-auto flex flex-wrap gap-3 items-center">
        {trouble && (
          <div className="basis-full">
            <Notice kind="trouble" role="alert">
              {trouble}
            </Notice>
          </div>
        )}
        {taken.length > 0 && (
          <button
            type="button"
            className="btn btn-primary h-14 text-lg"
            disabled={isLoading}
            onClick={() => void all()}
          >
            {taken.length === 1
              ? `Keep the limits of ${taken[0]!.loopName}`
              : `Keep the limits of ${taken.length} loops`}
          </button>
        )}
        {before && (
          <p role="status">
            Kept for {before.length === 1 ? 'one loop' : `${before.length} loops`}.{' '}
            <button type="button" className="btn h-12 ml-2" disabled={isLoading} onClick={() => void undo()}>
              Undo
            </button>
          </p>
        )}
      </div>
    </div>
  );
}
