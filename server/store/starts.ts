import { readFileSync, renameSync, writeFileSync } from 'node:fs';

/** Starts that are remembered. */
const MOST = 5;

interface Start {
  readonly at: string;
  /** it lived for a minute, or was stopped by somebody: nothing ended it */
  lived: boolean;
}

function known(file: string): Start[] {
  try {
    const kept: unknown = JSON.parse(readFileSync(file, 'utf8'));
    return Array.isArray(kept) ? (kept as Start[]).filter((s) => typeof s?.lived === 'boolean') : [];
  } catch {
    return [];
  }
}

/**
 * Notes a start of the server in a small file beside the database.
 *
 * @returns how many starts before this one died soon, without a break, and how to say that this one lives
 */
export function noteStart(file: string, at: string): { readonly diedSoon: number; readonly lives: () => void } {
  const before = known(file);
  const lastGood = before.findLastIndex((s) => s.lived);
  const mine: Start = { at, lived: false };
  const write = () => {
    try {
      writeFileSync(`${file}.new`, JSON.stringify([...before, mine].slice(-MOST)), { mode: 0o600 });
      renameSync(`${file}.new`, file);
    } catch {
      // A disk that is full must not keep the server from answering.
    }
  };
  write();
  return {
    diedSoon: before.length - 1 - lastGood,
    lives: () => {
      mine.lived = true;
      write();
    },
  };
}
