import { useState } from 'react';
import type { SetAsideRow } from '@frustum/contract';
import { useBringBackMutation, useRemoveAsideMutation } from '../../app/api.ts';
import { bytesWords } from '../../format/bytes.ts';
import { timeOf } from '../../format/dates.ts';
import { Notice } from '../../ui/notice.tsx';
import { problemOf } from '../../format/problem.ts';

/** Houses that were set aside when a backup was restored in their place. */
export function SetAside({ houses }: { houses: readonly SetAsideRow[] }) {
  if (!houses.length) return null;
  return (
    <section aria-label="Set aside" className="mt-6 border-t border-base-300 pt-4">
      <h2>Set aside</h2>
      <ul className="mt-2">
        {houses.map((house) => (
          <SetAsideHouse key={house.name} house={house} />
        ))}
      </ul>
    </section>
  );
}

function SetAsideHouse({ house: { name, at, because, bytes } }: { house: SetAsideRow }) {
  const [bringBack, coming] = useBringBackMutation();
  const [remove, removing] = useRemoveAsideMutation();
  const [sure, setSure] = useState(false);
  const error = coming.error ?? removing.error;
  const busy = coming.isLoading || removing.isLoading;
  const of = `the house of before ${timeOf(at)}`;
  return (
    <li className="border-t border-base-300 py-2.5 flex flex-wrap gap-x-4 gap-y-2 items-center">
      <div className="flex-1 min-w-[15rem]">
        <p className="font-semibold">Before {timeOf(at)}</p>
        <p className="sub text-sm">
          {because} · {bytesWords(bytes)}
        </p>
        {error && (
          <Notice kind="trouble" role="alert">
            {problemOf(error).detail}
          </Notice>
        )}
      </div>
      <span className="flex gap-2.5">
        <button
          type="button"
          className="btn btn-outline border-base-300 h-12"
          disabled={busy}
          onClick={() => void bringBack(name)}
        >
          {coming.isLoading ? 'Bringing it back …' : 'Bring it back'} <span className="sr-only">: {of}</span>
        </button>
        <button
          type="button"
          className={`btn btn-ghost h-12 font-normal ${sure ? 'text-error' : ''}`}
          disabled={busy}
          onClick={() => (sure ? void remove(name) : setSure(true))}
          onBlur={() => setSure(false)}
        >
          {sure ? 'Remove it for good' : 'Remove …'} <span className="sr-only">: {of}</span>
        </button>
      </span>
    </li>
  );
}
