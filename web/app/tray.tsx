import { useEffect, useState } from 'react';
import { Link, useMatch } from 'react-router';
import type { OpenRunRow } from '@frustum/contract';
import { clock } from '../format/numbers.ts';
import { useOpenRunsQuery } from './api.ts';
import type { OutboxState } from './outbox.ts';
import { serverClock } from './server-clock.ts';
import { useAppSelector } from './store.ts';

/** Seconds that pass, for chips that count. */
function useNowMs(): number {
  const [now, setNow] = useState(() => serverClock.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(serverClock.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return now;
}

/** Along the bottom, only while something runs: the hold of the run on screen first and loudest, one chip a run. */
export function Tray({ onKeys }: { onKeys: () => void }) {
  const { data: runs = [] } = useOpenRunsQuery(undefined, { refetchOnReconnect: true });
  const here = useMatch('/bench/:runId')?.params.runId;
  const now = useNowMs();
  const outbox = useAppSelector((s) => s.outbox);
  const waiting = Object.values(outbox.pending).reduce((n, list) => n + list.length, 0);
  const [setAside] = Object.entries(outbox.refused);
  if (!runs.length && !waiting && !setAside) return null;
  const held = runs.filter((r) => r.holdSince);
  // Of several holds the one on screen comes first; a narrow screen says of the others that there are more.
  const told = held.find((r) => r.runId === here) ?? held[0];
  const more = held.filter((r) => r !== told);
  return (
    <footer
      className="sticky bottom-0 z-10 border-t-2 border-base-content bg-base-200 px-4 lg:px-7 py-2 flex items-center gap-3 overflow-x-auto"
      aria-label="Tray"
    >
      {told && <Hold run={told} here={here} now={now} />}
      {more.map((r) => (
        <Hold key={r.runId} run={r} here={here} now={now} className="max-lg:hidden" />
      ))}
      {more.length > 0 && (
        <Link
          to="/bench"
          className="lg:hidden inline-flex px-3.5 py-2 border rounded-lg text-[15px] whitespace-nowrap border-error text-error font-semibold"
        >
          {more.length} more on hold
        </Link>
      )}
      {runs
        .filter((r) => r.status === 'open' && !r.holdSince)
        .map((r) => (
          <Chip key={r.runId} run={r}>
            {r.loopName}: {r.stepTitle}
          </Chip>
        ))}
      {setAside && (
        <Link
          to={`/bench/${setAside[0]}`}
          className="inline-flex px-3.5 py-2 border rounded-lg text-[15px] whitespace-nowrap border-error text-error font-semibold"
        >
          {setAside[1].length} not taken by the server
        </Link>
      )}
      <span className="ml-auto flex items-center gap-3 sub text-[15px] whitespace-nowrap" role="status">
        {savedWords(outbox, waiting)}
        <button type="button" className="btn btn-ghost btn-sm font-normal text-[15px] max-lg:hidden" onClick={onKeys}>
          <kbd className="key">?</kbd> keys
        </button>
      </span>
    </footer>
  );
}

/** Where it is what was done here. */
function savedWords({ full, offline, savedAtMs }: OutboxState, waiting: number): string {
  if (waiting && full) return `${waiting} on this page only: the device’s storage is full. Leave it open.`;
  if (offline) return `${waiting} kept here, server away`;
  if (waiting) return 'Saving …';
  return savedAtMs ? 'Saved' : '';
}

/** What is on hold, for how long, and whose it is. */
function Hold({
  run,
  here,
  now,
  className,
}: {
  run: OpenRunRow;
  here: string | undefined;
  now: number;
  className?: string;
}) {
  return (
    <Chip run={run} loud className={className}>
      {capital(run.controls)} on hold <span className="fig">{clock((now - Date.parse(run.holdSince!)) / 1000)}</span>
      {run.runId !== here && ` · ${run.loopName}`}
    </Chip>
  );
}

function Chip({
  run,
  loud = false,
  className = '',
  children,
}: {
  run: OpenRunRow;
  loud?: boolean;
  className?: string;
  children: React.ReactNode;
}) {
  const here = useMatch(`/bench/${run.runId}`) !== null;
  const look = loud
    ? 'bg-error text-error-content border-error font-semibold'
    : `bg-base-100 ${here ? 'border-base-content' : 'border-base-300'}`;
  return (
    <Link
      to={`/bench/${run.runId}`}
      className={`inline-flex items-baseline gap-2.5 px-3.5 py-2 border rounded-lg text-[15px] whitespace-nowrap ${look} ${className}`}
    >
      <span>{children}</span>
    </Link>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
