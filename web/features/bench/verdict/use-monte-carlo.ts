import { proxy, wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { MonteCarlo } from '@frustum/core';
import type { BudgetOrder, MonteCarloTwin } from '../../../workers/monte-carlo.worker.ts';

type Drawing =
  | { readonly state: 'idle' }
  | { readonly state: 'drawing'; readonly share: number }
  | { readonly state: 'done'; readonly result: MonteCarlo }
  | { readonly state: 'failed'; readonly message: string };

/** Draws in a worker of its own: the screen stays at leisure, and stopping really stops it. */
export function useMonteCarlo(
  order: BudgetOrder,
  draws: number,
  seed: number,
): { drawing: Drawing; start: () => void; stop: () => void } {
  const worker = useRef<Worker | null>(null);
  const [drawing, setDrawing] = useState<Drawing>({ state: 'idle' });
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => end, [end]);
  const start = () => {
    end();
    const mine = new Worker(new URL('../../../workers/monte-carlo.worker.ts', import.meta.url), { type: 'module' });
    worker.current = mine;
    setDrawing({ state: 'drawing', share: 0 });
    const told = proxy((share: number) => {
      if (worker.current === mine) setDrawing({ state: 'drawing', share });
    });
    const fail = (message: string) => {
      if (worker.current === mine) setDrawing({ state: 'failed', message });
    };
    mine.onerror = () => fail('The worker could not be started. Reload the page and try again.');
    wrap<MonteCarloTwin>(mine)
      .simulate(order, draws, seed, told)
      .then((result) => {
        if (worker.current !== mine) return;
        setDrawing({ state: 'done', result });
        end();
      })
      .catch((error: unknown) => fail(error instanceof Error ? error.message : String(error)));
  };
  const stop = () => {
    end();
    setDrawing({ state: 'idle' });
  };
  return { drawing, start, stop };
}
