import { Refusal } from '@frustum/core';

export const DISK_FULL = new Refusal(
  'disk-full',
  'The disk of Frustum’s computer is full: this was not kept there. Make room on it; what waits on this device is sent again by itself.',
);
const READ_ONLY = new Refusal(
  'read-only',
  'Frustum may not write to its data folder: this was not kept there. Give it back the right to write; what waits on this device is sent again by itself.',
);

/** Codes of the system, and of PostgreSQL (appendix A: 53100 disk_full, 25006 read_only_sql_transaction). */
const REFUSALS: Readonly<Record<string, Refusal>> = {
  ENOSPC: DISK_FULL,
  EDQUOT: DISK_FULL,
  '53100': DISK_FULL,
  EROFS: READ_ONLY,
  EACCES: READ_ONLY,
  '25006': READ_ONLY,
};

/** Numbers of the system as the database's library has them (WASI's table of errno), by their names. */
const WASI: Readonly<Record<number, string>> = {
  2: 'EACCES',
  19: 'EDQUOT',
  44: 'ENOENT',
  51: 'ENOSPC',
  63: 'EPERM',
  69: 'EROFS',
};

/** Whatever was thrown as an error with words: the database's library throws bare numbers in objects that are no errors. */
export function errorOf(thrown: unknown): Error {
  if (thrown instanceof Error) return thrown;
  const errno = (thrown as { errno?: unknown } | null)?.errno;
  if (typeof errno !== 'number') return new Error(String(thrown));
  const code = WASI[errno] ?? `errno ${errno}`;
  return Object.assign(new Error(`the database’s file system says ${code}`, { cause: thrown }), { code });
}

/** What the disk itself refuses, wherever in an error it is said; null for any other error. */
export function diskRefusal(error: unknown): Refusal | null {
  for (let at: unknown = errorOf(error); at instanceof Error; at = at.cause) {
    const known = REFUSALS[(at as { code?: string }).code ?? ''];
    if (known) return known;
    if (/No space left on device/.test(at.message)) return DISK_FULL;
  }
  return null;
}

/**
 * An error of the database for a log: which command, and by which rule. Without its SQL, its parameters and its message,
 * which repeats what people have typed.
 */
export function failureWords(command: string, error: unknown): string {
  for (let at: unknown = errorOf(error); at instanceof Error; at = at.cause) {
    const { code, routine, constraint } = at as { code?: string; routine?: string; constraint?: string };
    if (code && /^[0-9A-Z]{5}$/.test(code))
      return [`${command}: SQLSTATE ${code}`, routine, constraint].filter(Boolean).join(', ');
  }
  return `${command}: ${error instanceof Error ? (error.stack ?? error.name).replace(/^Error: Failed query:[\s\S]*?\n {4}at /, 'a query failed\n    at ') : 'failed'}`;
}
