import type { Context } from '../context.ts';
import type { JournalEntry } from '../store/journal.ts';
import { replay } from '@frustum/core';
import { derivedOf } from './run-events.ts';

/**
 * Brings back what the database lost and the journal kept. Returns how many events came back.
 *
 * Sequence numbers decide: only what comes after the last known event is added.
 */
export async function recover({ store, log }: Context, entries: readonly JournalEntry[]): Promise<number> {
  let count = 0;
  for (const runId of new Set(entries.map((e) => e.runId))) {
    const mine = entries.filter((e) => e.runId === runId);
    const known = await store.readEvents([runId]);
    const lastSeq = known.at(-1)?.seq ?? 0;
    const missing = mine.flatMap((e) => e.events).filter((e) => e.seq > lastSeq);
    if (!missing.length) continue;
    try {
      const opened = mine.find((e) => e.opened)?.opened;
      const [first, ...rest] = missing;
      const opens = lastSeq === 0 && opened && first;
      if (opens) await store.openRun({ id: runId, ...opened }, first);
      const events = opens ? rest : missing;
      if (events.length) {
        const state = replay([...known, ...missing]);
        await store.appendEvents({ runId, afterSeq: opens ? 1 : lastSeq, events, derived: derivedOf(state) });
      }
      count += missing.length;
    } catch (error) {
      // The sensor itself is gone, or the journal belongs to another database: say so, and start all the same.
      log.error({ runId, error }, 'a run of the journal could not be brought back');
    }
  }
  return count;
}
