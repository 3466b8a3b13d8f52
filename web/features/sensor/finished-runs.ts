import type { RunOutcome } from '@frustum/core';
import type { RunRow } from '@frustum/contract';

export interface FinishedRun {
  readonly atMs: number;
  readonly outcome: RunOutcome;
}

/** Runs that say something of the sensor, oldest first. */
export function finishedRuns(runs: readonly RunRow[]): FinishedRun[] {
  return runs
    .flatMap((r) =>
      r.outcome && r.outcome.kind !== 'electrical' && r.endedAt
        ? [{ atMs: Date.parse(r.endedAt), outcome: r.outcome }]
        : [],
    )
    .sort((a, b) => a.atMs - b.atMs);
}
