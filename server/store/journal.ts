import { existsSync, readFileSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import type { RunEvent } from '@frustum/core';

/** One acknowledged step of a run, as it is written down. */
export interface JournalEntry {
  readonly runId: string;
  /** present on the entry that opened the run */
  readonly opened?: { readonly sensorId: string; readonly loopId: string };
  readonly events: readonly RunEvent[];
}

export interface Journal {
  /** Returns when the entry is on the disk: only then is it acknowledged. */
  keep(runId: string, events: readonly RunEvent[], opened?: JournalEntry['opened']): Promise<void>;
  /** Everything is in the database: begin anew. */
  clear(): Promise<void>;
  close(): Promise<void>;
}

/** A journal that keeps nothing, for tests in memory. */
export const NO_JOURNAL: Journal = { keep: async () => {}, clear: async () => {}, close: async () => {} };

/**
 * A small file of run events, flushed to the disk before they are acknowledged. PGlite never flushes: a power cut may
 * take what it was told last, and this brings it back at the next start.
 */
export async function openJournal(file: string): Promise<Journal> {
  const handle: FileHandle = await open(file, 'a', 0o600);
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(job: () => Promise<T>): Promise<T> => {
    const mine = last.then(job);
    last = mine.catch(() => undefined);
    return mine;
  };
  return {
    keep: (runId, events, opened) =>
      inTurn(async () => {
        await handle.appendFile(`${JSON.stringify({ runId, opened, events } satisfies JournalEntry)}\n`);
        await handle.datasync();
      }),
    clear: () => inTurn(() => handle.truncate(0)),
    close: () => inTurn(() => handle.close()),
  };
}

/** What a journal holds; a last line that a crash cut short is passed over. */
export function readJournal(file: string): JournalEntry[] {
  if (!existsSync(file)) return [];
  return readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((line) => {
      try {
        return line ? [JSON.parse(line) as JournalEntry] : [];
      } catch {
        return [];
      }
    });
}
