import { useEffect, useState } from 'react';
import type { Step } from '@frustum/core';
import { useKeys, type Keys } from '../../app/keys.ts';
import { serverClock } from '../../app/server-clock.ts';
import { timeOf } from '../../format/dates.ts';
import { clock } from '../../format/numbers.ts';
import { PassOver } from './pass-over.tsx';
import type { BenchRun } from './use-run.ts';

/** A step that time does: how long still, until when; it goes on while the bench is closed. */
export function WaitPanel({ run, step }: { run: BenchRun; step: Step }) {
  const { state, send } = run;
  const [nowMs, setNowMs] = useState(() => serverClock.now());
  useEffect(() => {
    const timer = setInterval(() => setNowMs(serverClock.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const endMs = Date.parse(state.since) + 1000 * (step.seconds ?? 0);
  const left = Math.max(0, (endMs - nowMs) / 1000);
  const over = left <= 0;
  const done = () => {
    if (over) send({ type: 'step-done', stepId: step.id, traceSeconds: null });
  };
  const keys: Keys = { n: ['Go on, when the time is over', done] };
  useKeys(keys);
  return (
    <div>
      <h2 className="text-[27px] leading-tight max-lg:sr-only">{step.title}</h2>
      <p className="mt-2 text-lg max-w-prose max-lg:hidden">{step.text}</p>
      <p className="mt-4 leading-none" role="timer" aria-label="Still to wait">
        <span className="fig font-[560] text-[64px] leading-none">{over ? '0:00' : clock(left)}</span>
      </p>
      <p className="sub mt-2">
        {over ? 'It has had its time.' : `Until ${timeOf(endMs)}. Leave the bench meanwhile: the tray counts on.`}
      </p>
      <button
        type="button"
        className={`btn w-full h-16 text-[21px] mt-5 ${over ? 'btn-primary' : 'btn-outline border-base-300'}`}
        disabled={!over}
        onClick={done}
      >
        {over ? 'Go on' : 'Not yet'}{' '}
        <kbd className={`key max-lg:hidden ${over ? 'text-primary-content border-primary-content/50' : ''}`}>n</kbd>
      </button>
      <PassOver run={run} step={step} trace={null} />
    </div>
  );
}
