import { existsSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Refusal } from '@frustum/core';

/** Stands beside a database as long as it is being made for the first time. */
const markOf = (folder: string) => `${folder}.begun`;
export const wasCutShort = (folder: string): boolean => existsSync(markOf(folder));

/**
 * Whether a folder wants a new database: it is not there, is empty, or its first start was cut short, before anything could
 * be acknowledged; what that start has left is removed.
 *
 * @throws Refusal `database-damaged` for files without their version: a new database there would hide a house
 */
export function wantsNew(folder: string): boolean {
  if (wasCutShort(folder)) {
    rmSync(folder, { recursive: true, force: true });
    return true;
  }
  if (!existsSync(folder) || readdirSync(folder).length === 0) return true;
  if (existsSync(join(folder, 'PG_VERSION'))) return false;
  throw damaged(folder, 'PG_VERSION is missing beside its files');
}

/** A first database is begun, and is not finished before `finished`. */
export const begun = (folder: string): void => writeFileSync(markOf(folder), '', { mode: 0o600 });
export const finished = (folder: string): void => rmSync(markOf(folder), { force: true });

/** All that can be said when the library says nothing. */
export const NOT_OPENED = 'its files are not as they should be';

/** @param why in a few words */
export const damaged = (folder: string, why: string): Refusal =>
  new Refusal('database-damaged', `The database in ${folder} does not open: ${why}. Nothing was removed from it.`, {
    folder,
  });
