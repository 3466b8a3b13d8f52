import { useState } from 'react';
import { oddRecord, stillInCup, type Odd, type OddFacts } from '@frustum/core';
import { inFamily } from '../../format/in-family.ts';
import { Notice } from '../../ui/notice.tsx';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';

/** What it shows, in figures as they stand on the screen; null where it seems to be back. */
export function stillThere({ state }: BenchRun, trace: LiveTrace): StillFacts | null {
  const last = trace.samples.at(-1);
  const still = last && trace.state === 'live' ? stillInCup(state, last) : null;
  if (!last || !still) return null;
  const figures = inFamily(state.plan);
  const inForce = state.adjusted?.coefficients ?? state.plan.inForce;
  const shown = ({ signal, temperatureC }: { signal: number; temperatureC: number }) =>
    figures.value(figures.shown(signal, temperatureC, inForce), 0, temperatureC);
  const water = still.waterBefore ? shown(still.waterBefore) : '';
  return { shown: shown(last), unit: figures.unit, cup: shown(still.cup), water, because: '' };
}
type StillFacts = OddFacts['still-in-cup'];

/** The probe does not seem to be back: refused once, with the figures; who insists says why. */
export function StillThere({
  still,
  release,
  onInsist,
}: {
  still: StillFacts;
  release: boolean;
  onInsist: (odd: Odd) => void;
}) {
  const [because, setBecause] = useState('');
  return (
    <form
      className="mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (because.trim()) onInsist({ id: 'still-in-cup', facts: { ...still, because: because.trim() } });
      }}
    >
      <Notice kind="trouble" role="alert">
        <b className="font-semibold">Is it back in its water?</b>{' '}
        {oddRecord({ id: 'still-in-cup', facts: still }, true)} Put it back and wait until the figure moves, then press
        again. Or say why {release ? 'the hold is released' : 'the run ends'} all the same.
      </Notice>
      <div className="flex gap-2.5 mt-2.5 flex-wrap items-end">
        <label className="sub text-sm grow min-w-52">
          Why, in a few words
          <input
            className="input h-14 w-full text-base text-base-content block"
            maxLength={160}
            value={because}
            onChange={(e) => setBecause(e.target.value)}
          />
        </label>
        <button className="btn btn-outline border-base-300 h-14 text-base" disabled={!because.trim()}>
          {release ? 'Release it all the same' : 'End it all the same'}
        </button>
      </div>
    </form>
  );
}
