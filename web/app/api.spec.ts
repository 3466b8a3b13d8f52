import { describe, expect, it } from 'vitest';
import type { RunView } from '@frustum/contract';
import { newerRun } from './api.ts';

const run = (events: number): RunView =>
  ({ runId: 'a-run', events: Array.from({ length: events }) }) as unknown as RunView;

describe('two pictures of one run', () => {
  it('keeps the longer one, whichever came last: an answer that was asked for before an append may come after it', () => {
    expect(newerRun(run(4), run(3)).events).toHaveLength(4);
    expect(newerRun(run(3), run(4)).events).toHaveLength(4);
  });

  it('takes what came where both are as long: times and names may have changed', () => {
    const come = run(3);
    expect(newerRun(run(3), come)).toBe(come);
  });
});
