import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Sizes } from './pages.ts';

/** What is known of a database’s files from outside of them. */
interface DatabaseState {
  /** it was closed, and not opened since */
  readonly closed: boolean;
  /** which run of the computer it was open in */
  readonly boot: string;
  readonly sizes: Sizes;
}

const fileOf = (folder: string) => `${folder}.state.json`;

/** This run of the computer; '' where the system does not say. */
export function bootId(): string {
  try {
    return readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
  } catch {
    return '';
  }
}

/** null when nothing is known, or it cannot be read */
export function readState(folder: string): DatabaseState | null {
  try {
    const { closed, boot, sizes } = JSON.parse(readFileSync(fileOf(folder), 'utf8')) as Partial<DatabaseState>;
    if (typeof closed !== 'boolean' || typeof boot !== 'string' || typeof sizes !== 'object' || !sizes) return null;
    return { closed, boot, sizes };
  } catch {
    return null;
  }
}

/** @throws Error when the disk is full: what stands there then still holds */
export function noteState(folder: string, state: DatabaseState): void {
  const file = fileOf(folder);
  writeFileSync(`${file}.new`, JSON.stringify(state), { mode: 0o600, flush: true });
  renameSync(`${file}.new`, file);
}

/** Whether the computer itself went down while the database was open: what its system had not written yet is gone. */
export const wentDown = (state: DatabaseState | null, boot = bootId()): boolean =>
  state !== null && !state.closed && state.boot !== '' && boot !== '' && state.boot !== boot;
