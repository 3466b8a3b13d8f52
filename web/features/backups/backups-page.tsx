import { useRef, useState } from 'react';
import type { BackupsView, HouseCounts, SnapshotRow } from '@frustum/contract';
import {
  useBackupsQuery,
  useMakeSnapshotMutation,
  usePrepareFileMutation,
  usePrepareSnapshotMutation,
} from '../../app/api.ts';
import { NotYet } from '../../app/not-yet.tsx';
import { bytesWords } from '../../format/bytes.ts';
import { timeOf } from '../../format/dates.ts';
import { Notice } from '../../ui/notice.tsx';
import { PreparedHouse } from './prepared-house.tsx';
import { Progress } from './progress.tsx';
import { SetAside } from './set-aside.tsx';
import { problemOf } from '../../format/problem.ts';

/** While something is being made it is looked at so often, and else, ms. */
const OFTEN_MS = 700;
const SELDOM_MS = 15_000;

/** What is kept, how far it goes back, and how to get there. */
export function Page() {
  const [busy, setBusy] = useState(false);
  const { data, error } = useBackupsQuery(undefined, { pollingInterval: busy ? OFTEN_MS : SELDOM_MS });
  const now = data?.making != null || data?.prepared?.state === 'building';
  if (data && now !== busy) setBusy(now);
  return data ? <Backups view={data} /> : <NotYet what="Looking at the snapshots" error={error} />;
}

const writes = (n: number) => (n === 1 ? 'One write came' : `${n} writes came`);

const some = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`);
const countedWords = ({ loops, runs, minutes }: HouseCounts) =>
  [some(loops, 'loop', 'loops'), some(runs, 'run', 'runs'), `${some(minutes, 'minute', 'minutes')} of readings`].join(
    ', ',
  );

function headline({ snapshots, writesSince }: BackupsView): string {
  const last = snapshots.find((s) => s.ofThisLine);
  if (!last) return 'There is no snapshot yet.';
  return `The last snapshot is of ${timeOf(last.takenAt)}.${writesSince ? ` ${writes(writesSince)} after it.` : ''}`;
}

function Backups({ view }: { view: BackupsView }) {
  const [make, making] = useMakeSnapshotMutation();
  const { snapshots, prepared, trouble, roomBytes, folder } = view;
  const isMaking = making.isLoading || view.making !== null;
  return (
    <main className="px-4 lg:px-7 py-5 w-full max-w-[1100px] mx-auto">
      <h1>{headline(view)}</h1>
      <p className="sub mt-2 max-w-3xl">
        Whatever is acknowledged stands in the journal on this disk before it is said to be kept; a snapshot is made
        every hour in which something was written. Both lie on this computer: download one now and then, and bring it to
        another machine.
      </p>
      {trouble && (
        <Notice kind="trouble" role="alert">
          {trouble}
        </Notice>
      )}
      {prepared && <PreparedHouse prepared={prepared} now={view.counts} />}
      <div className="mt-5 flex flex-wrap gap-3 items-center">
        <button
          type="button"
          className={`btn h-12 ${prepared ? 'btn-outline border-base-300' : 'btn-primary'}`}
          disabled={isMaking}
          onClick={() => void make()}
        >
          {isMaking ? 'Making a snapshot …' : 'Make a snapshot now'}
        </button>
        <FromFile disabled={prepared?.state === 'building'} />
      </div>
      {view.making && <Progress what="Rows that are copied" {...view.making} />}
      {making.error && !trouble && (
        <Notice kind="trouble" role="alert">
          {problemOf(making.error).detail}
        </Notice>
      )}
      <section aria-label="Snapshots" className="mt-6 border-t border-base-300 pt-4">
        <h2>Snapshots</h2>
        {snapshots.length === 0 && (
          <p className="sub mt-1">None yet. The first one is made within the hour, or now by the button above.</p>
        )}
        <ul className="mt-2">
          {snapshots.map((snapshot) => (
            <Snapshot key={snapshot.name} snapshot={snapshot} busy={prepared?.state === 'building'} />
          ))}
        </ul>
        <p className="sub text-sm mt-2 max-w-3xl">
          Kept are the last two, and the newest of the last six hours, seven days and eight weeks that have one. They
          lie in <span className="fig break-all">{folder}</span>, where {bytesWords(roomBytes)} are free. Log-ins of
          devices are in none of them.
        </p>
      </section>
      <SetAside houses={view.setAside} />
    </main>
  );
}

function Snapshot({ snapshot, busy }: { snapshot: SnapshotRow; busy: boolean }) {
  const [prepare, { isLoading, error }] = usePrepareSnapshotMutation();
  const { name, takenAt, tookMs, bytes, counts, ofThisLine } = snapshot;
  const at = timeOf(takenAt);
  return (
    <li className="border-t border-base-300 py-2.5 flex flex-wrap gap-x-4 gap-y-2 items-center">
      <div className="flex-1 min-w-[15rem]">
        <p className="font-semibold">{at}</p>
        <p className="sub text-sm">
          {countedWords(counts)} · {bytesWords(bytes)}, made in {(tookMs / 1000).toFixed(1)} s
          {!ofThisLine && ' · from before another house was restored'}
        </p>
        {error && (
          <Notice kind="trouble" role="alert">
            {problemOf(error).detail}
          </Notice>
        )}
      </div>
      <span className="flex gap-2.5">
        <a className="btn btn-outline border-base-300 h-12" href={`/api/backups/${name}/backup.tar`} download>
          Download <span className="sr-only">the snapshot of {at}</span>
        </a>
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal"
          disabled={busy || isLoading}
          onClick={() => void prepare(name)}
        >
          Restore … <span className="sr-only">the snapshot of {at}</span>
        </button>
      </span>
    </li>
  );
}

function FromFile({ disabled }: { disabled: boolean }) {
  const [take, { isLoading, error, reset }] = usePrepareFileMutation();
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={field}
        type="file"
        accept=".tar,application/x-tar"
        className="sr-only"
        tabIndex={-1}
        aria-label="Backup file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          // The same file may be chosen again.
          e.target.value = '';
          if (file) void take(file);
        }}
      />
      <button
        type="button"
        className="btn btn-outline border-base-300 h-12"
        disabled={disabled || isLoading}
        onClick={() => {
          reset();
          field.current?.click();
        }}
      >
        {isLoading ? 'Reading the file …' : 'Restore from a file …'}
      </button>
      {error && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </>
  );
}
