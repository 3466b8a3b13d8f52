import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Look, Seen, SettlingJudge } from '../../../workers/settling-judge.ts';

/** Before a judge that could not start is replaced, ms. */
const AGAIN_MS = 2000;

const NONE: Seen | null = null;

/**
 * Judges a trace in a worker, after every sample but never two at once: the screen stays at leisure.
 *
 * @param look null while there is nothing to look at
 */
export function useSettling(look: Look | null): Seen | null {
  const judge = useRef<Remote<SettlingJudge> | null>(null);
  const busy = useRef(false);
  const [result, setResult] = useState<{ key: string; seen: Seen } | null>(null);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    const worker = new Worker(new URL('../../../workers/settling.worker.ts', import.meta.url), { type: 'module' });
    judge.current = wrap<SettlingJudge>(worker);
    let again: ReturnType<typeof setTimeout> | undefined;
    // Its script could not be fetched, or it crashed: start a new worker from the samples that are here.
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
  const key = look && `${look.key}/${look.disturbedAt ?? ''}`;
  useEffect(() => {
    if (!look || !key || busy.current || !judge.current || !look.samples.length) return;
    busy.current = true;
    void judge.current
      .look({ ...look, key, samples: [...look.samples] })
      .then((seen) => setResult({ key, seen }))
      .finally(() => {
        busy.current = false;
      });
  }, [key, look]);
  return result && result.key === key ? result.seen : NONE;
}
