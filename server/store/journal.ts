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
 *
 * A last line that a power cut has torn was never acknowledged. It is cut off, or the next entry would be written on into it
 * and be lost with it.
 */
export async function openJournal(file: string): Promise<Journal> {
  const handle: FileHandle = await open(file, 'a', 0o600);
  await handle.truncate(wholeBytes(existsSync(file) ? readFileSync(file) : Buffer.alloc(0)));
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

const NEWLINE = 0x0a;
/** Bytes of a journal up to the end of its last whole line. */
const wholeBytes = (bytes: Buffer) => bytes.lastIndexOf(NEWLINE) + 1;

/** What a journal holds, and how many of its whole lines are none of ours; a last line that a crash cut short is passed over. */
export function readJournal(file: string): { readonly entries: JournalEntry[]; readonly unreadable: number } {
  const bytes = existsSync(file) ? readFileSync(file) : Buffer.alloc(0);
  const lines = bytes.toString('utf8', 0, wholeBytes(bytes)).split('\n').filter(Boolean);
  const entries = lines.flatMap((line): JournalEntry[] => {
    try {
      const entry = JSON.parse(line) as JournalEntry;
      return typeof entry?.runId === 'string' && Array.isArray(entry.events) ? [entry] : [];
    } catch {
      return [];
    }
  });
  return { entries, unreadable: lines.length - entries.length };
}
