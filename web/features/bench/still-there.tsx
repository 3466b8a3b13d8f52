import { useState } from 'react';
import { stillInCup } from '@frustum/core';
import { inFamily } from '../../format/in-family.ts';
import { Notice } from '../../ui/notice.tsx';
import type { LiveTrace } from './use-live-trace.ts';
import type { BenchRun } from './use-run.ts';

/** "It shows 1421 µS/cm, as in its last cup (1413). Before the run the water gave 1834."; null where it seems to be back. */
export function stillThere({ state }: BenchRun, trace: LiveTrace): string | null {
  const last = trace.samples.at(-1);
  const still = last && trace.state === 'live' ? stillInCup(state, last) : null;
  if (!last || !still) return null;
  const figures = inFamily(state.plan);
  const inForce = state.adjusted?.coefficients ?? state.plan.inForce;
  const shown = ({ signal, temperatureC }: { signal: number; temperatureC: number }) =>
    figures.value(figures.shown(signal, temperatureC, inForce));
  const before = still.waterBefore ? ` Before the run the water gave ${shown(still.waterBefore)}.` : '';
  return `It shows ${shown(last)} ${figures.unit}, as in its last cup (${shown(still.cup)}).${before}`;
}

/** The probe does not seem to be back: refused once, with the figures; who insists says why. */
export function StillThere({
  words,
  release,
  onInsist,
}: {
  words: string;
  release: boolean;
  onInsist: (record: string) => void;
}) {
  const [because, setBecause] = useState('');
  return (
    <form
      className="mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        if (because.trim()) onInsist(`${words} Ended all the same: ${because.trim()}`);
      }}
    >
      <Notice kind="trouble" role="alert">
        <b className="font-semibold">Is it back in its water?</b> {words} Put it back and wait until the figure moves,
        then press again. Or say why {release ? 'the hold is released' : 'the run ends'} all the same.
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
