import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Response, Sample, School, Settling } from '@frustum/core';
import type { SettlingJudge } from '../../workers/settling.worker.ts';

/** Before a judge that could not start is replaced, ms. */
const AGAIN_MS = 2000;

/** Judges a trace in a worker, after every sample but never two at once: the screen stays at leisure. */
export function useSettling(
  key: string | null,
  response: Response,
  samples: readonly Sample[],
  school: School,
  resolution: number,
  disturbedAt: number | null,
): Settling | null {
  const judge = useRef<Remote<SettlingJudge> | null>(null);
  const busy = useRef(false);
  const [result, setResult] = useState<{ key: string; settling: Settling } | null>(null);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    const worker = new Worker(new URL('../../workers/settling.worker.ts', import.meta.url), { type: 'module' });
    judge.current = wrap<SettlingJudge>(worker);
    let again: ReturnType<typeof setTimeout> | undefined;
    // Its script could not be fetched, or it fell over: another one, from the samples that are here.
    worker.addEventListener('error', () => {
      again = setTimeout(() => setAttempt((n) => n + 1), AGAIN_MS);
    });
    return () => {
      clearTimeout(again);
      judge.current = null;
      busy.current = false;
      worker.terminate();
    };
  }, [attempt]);
  useEffect(() => {
    if (!key || busy.current || !judge.current || !samples.length) return;
    busy.current = true;
    const mine = `${key}/${disturbedAt ?? ''}`;
    void judge.current.assess(mine, response, [...samples], school, resolution, disturbedAt).then((settling) => {
      busy.current = false;
      setResult({ key: mine, settling });
    });
  }, [key, response, samples, school, resolution, disturbedAt]);
  return result && result.key === `${key}/${disturbedAt ?? ''}` ? result.settling : null;
}
