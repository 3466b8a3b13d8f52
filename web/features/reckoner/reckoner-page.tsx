import { useParams } from 'react-router';
import { SUMS } from '@frustum/core';
import { Finder } from './finder.tsx';
import { LastSums } from './last-sums.tsx';
import { SumPanel } from './sum-panel.tsx';
import { useAppSelector } from '../../app/store.ts';

/** The bench sums: look one up, type, read the answer. */
export function Page() {
  const { sumId } = useParams();
  const latest = useAppSelector((s) => s.reckoner.last[0]?.sumId);
  const shownId = sumId ?? latest ?? SUMS[0]!.id;
  const sum = SUMS.find((s) => s.id === shownId) ?? SUMS[0]!;
  // On a phone there is room for one thing: the list, or the sum.
  const listOnPhone = sumId === undefined;
  return (
    <main className="flex-1 grid lg:grid-cols-[300px_1fr_300px] content-start lg:content-stretch">
      <h1 className="sr-only">Reckoner</h1>
      <div className={listOnPhone ? '' : 'max-lg:hidden'}>
        <Finder current={sum.id} takesFocus={listOnPhone} />
      </div>
      <div className={`lg:border-x border-base-300 min-w-0 ${listOnPhone ? 'max-lg:hidden' : ''}`}>
        <SumPanel key={sum.id} sum={sum} />
      </div>
      <LastSums />
    </main>
  );
}
