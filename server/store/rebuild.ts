import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { noteState, bootId } from './database-state.ts';
import { createIn } from './empty-copy.ts';
import { flushed } from './journal.ts';
import type { KnownGood, StoreFolders } from './known-good.ts';
import { goOn, load, type GoneOn } from './load.ts';
import { verify, type Manifest } from './manifest.ts';
import { appliedTo, migrateTo, type Migration } from './migrations.ts';
import { sizesOf } from './pages.ts';
import { watchChanges } from './changes.ts';
import { countedRows } from './tables.ts';

interface Rebuilt extends GoneOn {
  /** rows of each table */
  readonly counts: Readonly<Record<string, number>>;
}

/** Rows that were loaded, of so many. */
export type Progress = (rows: number, of: number) => void;

interface Making {
  readonly migrations: readonly Migration[];
  /** an empty database that the build has made; '' for none */
  readonly empty: string;
  readonly onProgress?: Progress;
}

/**
 * Builds a database in a new folder: from a backup that is read back first, and what the journal has behind it.
 *
 * @param house the id that it gets; null: the one that it has
 * @throws Refusal `backup-broken`, `of-another-frustum`; the folder is gone then
 */
export async function build(
  target: string,
  from: { readonly backup: string | null; readonly then: KnownGood['generations']; readonly house: string | null },
  { migrations, empty, onProgress }: Making,
): Promise<Rebuilt> {
  rmSync(target, { recursive: true, force: true });
  const manifest: Manifest | null = from.backup === null ? null : await verify(from.backup);
  try {
    const began = manifest?.migrations ?? from.then.find((g) => g.migrations.length)?.migrations ?? migrations;
    const client = await emptyDatabase(target, empty, began.length);
    let done: GoneOn;
    let counts: Readonly<Record<string, number>>;
    try {
      await watchChanges(client);
      if (manifest)
        done = await load(client, from.backup!, manifest, {
          migrations,
          then: from.then,
          ...(onProgress ? { onProgress } : {}),
        });
      else {
        await migrateTo(client, migrations, began.length);
        done = await goOn(client, 0, from.then, migrations);
        await migrateTo(client, migrations);
      }
      if (from.house !== null) {
        await client.query('delete from house');
        await client.query('insert into house (id, begun_at) values ($1, now())', [from.house]);
      }
      counts = await countedRows(client);
    } finally {
      await client.close();
    }
    flushAll(target);
    noteState(target, { closed: true, boot: bootId(), sizes: sizesOf(target) });
    return { counts, ...done };
  } catch (error) {
    rmSync(target, { recursive: true, force: true });
    throw error;
  }
}

/** A new database: the one that the build has made, unless it is further than a backup of before. */
async function emptyDatabase(target: string, empty: string, most: number): Promise<PGlite> {
  if (existsSync(empty)) {
    const client = await createIn(target, empty);
    if ((await appliedTo(client)).length <= most) return client;
    await client.close();
    rmSync(target, { recursive: true, force: true });
  }
  return PGlite.create(target);
}

/** Everything in a folder is on the disk. */
function flushAll(folder: string): void {
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true }))
    flushed(join(entry.parentPath, entry.name));
  flushed(folder);
}

/**
 * Builds the database of a data folder anew from what is known to be good, and puts it in the place of the one that is there,
 * which stays beside it.
 *
 * @param ways the best first; the next one is taken where one does not read back
 * @param asideName where the one that was there goes to
 * @throws Refusal of the last way that did not do
 */
export async function rebuild(
  folders: StoreFolders,
  ways: readonly KnownGood[],
  asideName: string,
  making: Making,
): Promise<Rebuilt & { readonly way: KnownGood }> {
  const target = `${folders.database}.building`;
  let trouble: unknown = new Error('there is nothing to build it from');
  for (const way of ways) {
    try {
      const backup = way.snapshot && join(folders.snapshots, way.snapshot.name);
      const rebuilt = await build(target, { backup, then: way.generations, house: way.house }, making);
      if (existsSync(folders.database)) renameSync(folders.database, asideName);
      renameSync(target, folders.database);
      renameSync(`${target}.state.json`, `${folders.database}.state.json`);
      flushed(join(folders.database, '..'));
      return { ...rebuilt, way };
    } catch (error) {
      trouble = error;
    }
  }
  throw trouble;
}
