import { readFileSync, renameSync, writeFileSync } from 'node:fs';

/** When this data folder’s server was last known to run, epoch ms; null when nobody has noted it. */
export function lastAlive(file: string): number | null {
  try {
    const { atMs } = JSON.parse(readFileSync(file, 'utf8')) as { atMs?: unknown };
    return typeof atMs === 'number' && Number.isFinite(atMs) ? atMs : null;
  } catch {
    return null;
  }
}

/** Notes that it runs. */
export function noteAlive(file: string, atMs: number): void {
  try {
    writeFileSync(`${file}.new`, JSON.stringify({ atMs }), { mode: 0o600 });
    renameSync(`${file}.new`, file);
  } catch {
    // A disk that is full must not keep the server from answering.
  }
}
