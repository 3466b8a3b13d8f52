import { cpSync, existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { chmodAll } from './chmod-all.ts';

/**
 * An empty database that the build has made (`empty-database.ts`): a new one begins as its copy, in a sixth of the time that
 * making one takes. Whatever migrations have come since are applied to it like to any other.
 */
export const EMPTY = fileURLToPath(new URL('./empty-database', import.meta.url));

/** A new database in a folder that is not there yet: a copy of the empty one, where there is one, for its owner only. */
export function createIn(folder: string, empty = EMPTY): Promise<PGlite> {
  if (existsSync(empty)) {
    cpSync(empty, folder, { recursive: true });
    chmodAll(folder, 0o600, 0o700);
  }
  return PGlite.create(folder);
}
