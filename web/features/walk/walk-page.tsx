import { useState } from 'react';
import { Link } from 'react-router';
import type { WalkStop, WalkView } from '@frustum/contract';
import { useBeginWalkMutation, useEndWalkMutation, useWalkQuery } from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { timeOf } from '../../format/dates.ts';
import { problemOf } from '../../format/problem.ts';
import { Notice } from '../../ui/notice.tsx';
import { Stop } from './walk-stop.tsx';
import { useWalkReadings, type Waiting } from './use-walk-readings.ts';

/** One pass along the displays that are read by eye: a figure, Enter, the next one. */
export function Page() {
  const { data, error } = useWalkQuery();
  if (!data) return <NotYet what="Reading the displays of the walk" error={error} />;
  return (
    <main className="px-4 lg:px-7 py-5 w-full max-w-3xl mx-auto">
      {data.stops.length === 0 ? <NoDisplays /> : <Walk view={data} />}
    </main>
  );
}

const NoDisplays = () => (
  <>
    <h1>No display is read by eye here.</h1>
    <p className="sub mt-2 max-w-prose">
      A loop whose channel is “a display that somebody reads” stands on the walk.{' '}
      <Link className="underline" to="/set-up/display">
        Add a display
      </Link>
    </p>
  </>
);

function Walk({ view }: { view: WalkView }) {
  const [begin, { isLoading, error }] = useBeginWalkMutation();
  if (view.walk?.endedAt === null) return <UnderWay view={view} walkId={view.walk.walkId} />;
  const { stops, walk } = view;
  return (
    <>
      <h1>{stops.length === 1 ? 'One display to read' : `${stops.length} displays to read`}</h1>
      <p className="sub mt-2 max-w-prose">
        In the order of your own, from Set-up. Type what each one shows and press Enter. Each figure is held against
        what that display usually shows at this hour, and kept as a reading.
      </p>
      {walk && (
        <p className="mt-2">
          The last walk was {timeOf(walk.begunAt)}, by {walk.by}.
        </p>
      )}
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      <button
        type="button"
        className="btn btn-primary h-16 text-xl w-full sm:w-72 mt-5"
        disabled={isLoading}
        onClick={() => void begin()}
        autoFocus
      >
        Begin the walk
      </button>
    </>
  );
}

function UnderWay({ view, walkId }: { view: WalkView; walkId: string }) {
  const readings = useWalkReadings(walkId);
  const { stops } = view;
  const waits = (stop: WalkStop) => readings.waiting.find((w) => w.body.loopId === stop.loopId) ?? null;
  const isDone = (stop: WalkStop) => stop.done !== null || waits(stop) !== null || stop.atBench;
  const [at, setAt] = useState<string | null>(null);
  const next = (after: string) => {
    const from = stops.findIndex((s) => s.loopId === after);
    const order = [...stops.slice(from + 1), ...stops.slice(0, from)];
    return order.find((s) => !isDone(s))?.loopId ?? '';
  };
  const current = at === null ? (stops.find((s) => !isDone(s))?.loopId ?? '') : at;
  const stop = stops.find((s) => s.loopId === current) ?? null;
  const left = stops.filter((s) => !isDone(s)).length;
  return (
    <>
      <div className="flex items-baseline gap-4 flex-wrap">
        <h1>{left === 0 ? 'Every display is read.' : `${left} of ${stops.length} still to read`}</h1>
        <progress
          className="progress progress-primary w-40"
          value={stops.length - left}
          max={stops.length}
          aria-label="Read so far"
        />
      </div>
      {stop && (
        <Stop
          key={stop.loopId}
          stop={stop}
          waiting={waits(stop)}
          onKeep={(typed, unit, doubt) => {
            readings.keep({ loopId: stop.loopId, typed, unit, doubt, replaces: stop.done?.id ?? null });
            setAt(next(stop.loopId));
          }}
          onPass={() => setAt(next(stop.loopId))}
        />
      )}
      <Troubles readings={readings} stops={stops} />
      {left === 0 && <End walkId={walkId} waiting={readings.waiting.length} />}
      <AllStops stops={stops} current={current} waits={waits} onPick={setAt} />
      {left > 0 && <End walkId={walkId} waiting={readings.waiting.length} early />}
    </>
  );
}

/** What the server would not take, or has not got yet. Nothing of it is lost. */
function Troubles({ readings, stops }: { readings: ReturnType<typeof useWalkReadings>; stops: readonly WalkStop[] }) {
  const { waiting, refused, drop, replace } = readings;
  const nameOf = (loopId: string) => stops.find((s) => s.loopId === loopId)?.loopName ?? 'A display';
  const unsent = waiting.filter((w) => w.tried);
  return (
    <div className="grid gap-2 mt-3" aria-live="polite">
      {refused.map(({ body, problem }) => (
        <Notice key={body.id} kind="trouble" role="alert">
          <p>
            {nameOf(body.loopId)}, {body.typed} {body.unit}: {problem.detail}
          </p>
          <span className="flex gap-2 mt-1.5">
            {problem.code === 'walk-reading-there' && (
              <button
                type="button"
                className="btn h-12"
                onClick={() => replace(body, (problem.facts as { id: string }).id)}
              >
                Mine takes its place
              </button>
            )}
            <button type="button" className="btn btn-ghost h-12 font-normal" onClick={() => drop(body.id)}>
              Leave it
            </button>
          </span>
        </Notice>
      ))}
      {unsent.length > 0 && (
        <Notice kind="care">
          {unsent.length === 1 ? 'One figure waits' : `${unsent.length} figures wait`} here until Frustum’s server
          answers. Go on: nothing is lost.
        </Notice>
      )}
    </div>
  );
}

function AllStops({
  stops,
  current,
  waits,
  onPick,
}: {
  stops: readonly WalkStop[];
  current: string;
  waits: (stop: WalkStop) => Waiting | null;
  onPick: (loopId: string) => void;
}) {
  return (
    <ol className="mt-6" aria-label="Displays on the way">
      {stops.map((stop) => {
        const waiting = waits(stop);
        const shown = waiting
          ? `${waiting.body.typed} ${waiting.body.unit}`
          : stop.done
            ? `${stop.done.typed} ${stop.done.unit}`
            : '';
        return (
          <li key={stop.loopId} className="border-t border-base-300">
            <button
              type="button"
              aria-current={stop.loopId === current ? 'step' : undefined}
              className={`w-full min-h-12 flex items-center gap-3 text-left py-1.5 px-2 ${stop.loopId === current ? 'bg-base-200 font-semibold' : ''}`}
              onClick={() => onPick(stop.loopId)}
            >
              <span className="min-w-0 flex-1">
                {stop.loopName}
                {stop.place && <span className="sub font-normal">, {stop.place}</span>}
              </span>
              <span className="fig">{shown || (stop.atBench ? 'at the bench' : '–')}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

function End({ walkId, waiting, early = false }: { walkId: string; waiting: number; early?: boolean }) {
  const [end, { isLoading, error }] = useEndWalkMutation();
  return (
    <div className="mt-5">
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
      <button
        type="button"
        className={`btn h-14 text-lg ${early ? 'btn-ghost font-normal' : 'btn-primary w-full sm:w-72'}`}
        disabled={isLoading || waiting > 0}
        onClick={() => void end(walkId)}
      >
        {early ? 'End the walk here' : 'End the walk'}
      </button>
      {early && <p className="sub text-sm mt-1">A walk that is not ended can be gone on with later, on any device.</p>}
    </div>
  );
}
