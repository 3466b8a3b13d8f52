import { existsSync, openAsBlob, rmSync, writeFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite } from '@electric-sql/pglite';
import { Refusal } from '@frustum/core';
import { watchChanges, type Change } from './changes.ts';
import { bootId, noteState, readState, wentDown } from './database-state.ts';
import { diskRefusal } from './failures.ts';
import { begun, damaged, NOT_OPENED, wantsNew, wasCutShort } from './first-database.ts';
import { Journal, readJournal, type ReadGeneration } from './journal.ts';
import { knownGood, knownGoodWords, storeFolders, withKnownGood, type StoreFolders } from './known-good.ts';
import { goOn } from './load.ts';
import { appliedTo, migrateTo, migrationsIn, requireKnown, type Migration } from './migrations.ts';
import { cutTrouble, pagesTrouble, sizesOf } from './pages.ts';
import { rebuild } from './rebuild.ts';
import { removeUnfinished, takeSnapshot } from './snapshot.ts';
import { finishSwitch } from './switch.ts';
import { countAll, countedRows, tablesOf } from './tables.ts';

// A new database begins as a copy of an empty one that the build has made (`empty-database.ts`): a third of the time. Whatever
// migrations have come since are applied to it like to any other.
export const EMPTY = fileURLToPath(new URL('./empty-database.tar.gz', import.meta.url));

export interface Opened {
  readonly client: PGlite;
  /** null: in memory */
  readonly kept: {
    readonly folders: StoreFolders;
    readonly journal: Journal;
    readonly house: string;
    readonly migrations: readonly string[];
  } | null;
}

/** Tells somebody who starts it, in a sentence. */
type Say = (sentence: string) => void;

/** Why it does not open. The database’s library says no more than that it gave up; what PostgreSQL says itself is kept. */
export function reasonOf(error: unknown): string {
  const code = error instanceof Error ? (error as { code?: string }).code : undefined;
  return code && /^[0-9A-Z]{5}$/.test(code) ? `PostgreSQL says ${code}` : NOT_OPENED;
}

/** A database in memory, for tests: nothing of it is kept. */
export async function openInMemory(migrations: readonly Migration[]): Promise<Opened> {
  const client = await PGlite.create({
    dataDir: 'memory://',
    ...(existsSync(EMPTY) ? { loadDataDir: await openAsBlob(EMPTY) } : {}),
  });
  await watchChanges(client);
  await migrateTo(client, migrations);
  return { client, kept: null };
}

/**
 * Opens the database of a data folder so that everything acknowledged is in it: looks at its files, builds it anew where the
 * computer itself went down, lays the journal upon it, and brings it up to date, with a snapshot before.
 *
 * @throws Refusal `database-damaged` with what is known to be good; `of-another-frustum`; `disk-full`, `read-only`
 */
export async function openFolder(
  dataFolder: string,
  migrationsFolder: string,
  say: Say,
  boot = bootId(),
): Promise<Opened> {
  if (finishSwitch(dataFolder)) say('A restore that was cut short was finished.');
  const folders = storeFolders(dataFolder);
  const migrations = migrationsIn(migrationsFolder);
  removeUnfinished(folders.snapshots);
  for (const rest of ['.building', '.building.state.json'])
    rmSync(folders.database + rest, { recursive: true, force: true });
  try {
    return await openWhole(folders, migrations, say, boot);
  } catch (error) {
    if (error instanceof Refusal && error.code !== 'database-damaged') throw error;
    const refusal = diskRefusal(error);
    if (refusal) throw refusal;
    throw withKnownGood(error instanceof Refusal ? error : damaged(folders.database, reasonOf(error)), folders);
  }
}

async function openWhole(
  folders: StoreFolders,
  migrations: readonly Migration[],
  say: Say,
  boot: string,
): Promise<Opened> {
  const { database } = folders;
  // Nothing of a first start was acknowledged before it was finished.
  if (wasCutShort(database)) rmSync(folders.journal, { recursive: true, force: true });
  const ways = knownGood(folders);
  const state = readState(database);
  const begins = wantsNew(database);
  if (begins && ways.length && (ways[0]!.snapshot || ways[0]!.writes))
    throw damaged(database, 'it is missing, though its journal or snapshots are there');
  if (wentDown(state, boot) && ways.length) await builtAnew(folders, migrations, say, ways);
  else if (!begins) {
    const trouble = cutTrouble(database, state?.sizes ?? {});
    if (trouble) throw damaged(database, trouble);
  }
  // Until whoever opened it says that it is finished.
  if (begins) begun(database);
  const client = await PGlite.create({
    dataDir: database,
    ...(begins && existsSync(EMPTY) ? { loadDataDir: await openAsBlob(EMPTY) } : {}),
  });
  try {
    const trouble = begins || state?.closed ? null : pagesTrouble(database, state?.sizes ?? {});
    if (trouble) throw damaged(database, trouble);
    await watchChanges(client);
    if (begins) await migrateTo(client, migrations);
    const applied = await appliedTo(client);
    requireKnown(`The database in ${database}`, applied, migrations);
    await requireCounted(client, database);
    const house = await houseOf(client);
    noteState(database, { closed: false, boot, sizes: sizesOf(database) });
    const journal = await caughtUp(client, folders, house, migrations, say);
    return { client, kept: { folders, journal, house, migrations: migrations.map((m) => m.hash) } };
  } catch (error) {
    await client.close().catch(() => undefined);
    throw error;
  }
}

/** The computer went down: what its system had not written is missing somewhere in the files, and nobody knows where. */
async function builtAnew(
  folders: StoreFolders,
  migrations: readonly Migration[],
  say: Say,
  ways: ReturnType<typeof knownGood>,
): Promise<void> {
  say(`The computer went down while Frustum ran. The database is built anew from ${knownGoodWords(ways[0]!)} …`);
  const aside = `${folders.database}.went-down`;
  rmSync(aside, { recursive: true, force: true });
  try {
    const { way, aside: left } = await rebuild(folders, ways, aside, { migrations, empty: EMPTY });
    if (way !== ways[0]) say(`That one does not read back. It was built from ${knownGoodWords(way)}.`);
    setAside(folders, left, say);
    rmSync(aside, { recursive: true, force: true });
  } catch (error) {
    if (diskRefusal(error)) throw error;
    say(
      `It could not be built anew (${error instanceof Error ? error.message : String(error)}). The files that are there are used; look at the last readings.`,
    );
  }
}

/** Every table has as many rows as were counted when they came and went. @throws Refusal `database-damaged` */
async function requireCounted(client: PGlite, database: string): Promise<void> {
  const tables = await tablesOf(client);
  const [counted, found] = [await countedRows(client), await countAll(client, tables)];
  for (const { name } of tables) {
    const rows = counted[name];
    if (rows !== undefined && rows !== found[name])
      throw damaged(database, `“${name}” has ${found[name]} rows instead of ${rows}`);
  }
}

async function houseOf(client: PGlite): Promise<string> {
  const { rows } = await client.query<{ id: string }>('select id from house');
  if (rows[0]) return rows[0].id;
  const id = randomUUID();
  await client.query('insert into house (id, begun_at) values ($1, now())', [id]);
  return id;
}

/** Lays the journal upon the database, brings that up to date, and begins a new generation of the journal. */
async function caughtUp(
  client: PGlite,
  folders: StoreFolders,
  house: string,
  migrations: readonly Migration[],
  say: Say,
): Promise<Journal> {
  const all = readJournal(folders.journal);
  const mine = all.filter((g) => g.house === house);
  const strange = all.filter((g) => g.house !== house && g.house !== '');
  if (strange.length)
    say(`${strange.length} files in ${folders.journal} are of another house. They were left as they are.`);
  const unreadable = all.flatMap((g) => g.unreadable);
  if (unreadable.length) {
    const file = asideFile(folders);
    writeFileSync(file, unreadable.map((line) => `${line}\n`).join(''), { mode: 0o600 });
    say(`${unreadable.length} lines of the journal are not as they were written. They were set aside in ${file}.`);
  }
  const applied = (await appliedTo(client)).length;
  const after = Math.max(0, ...all.flatMap((g) => [g.after, g.entries.at(-1)?.seq ?? 0]));
  const begin = (count: number) =>
    Journal.begin(folders.journal, { house, migrations: migrations.slice(0, count).map((m) => m.hash), after });
  const layUpon = async (generations: readonly ReadGeneration[]) => {
    const { aside, back } = await goOn(client, 0, generations, migrations);
    setAside(folders, aside, say);
    const rows = Object.entries(back).filter(([, n]) => n > 0);
    if (rows.length) {
      const came = rows.map(([table, n]) => `${n} of ${table}`).join(', ');
      say(`${rows.reduce((sum, [, n]) => sum + n, 0)} rows came back from the journal: ${came}.`);
    }
  };
  await layUpon(mine.filter((g) => g.migrations.length <= applied));
  if (applied < migrations.length) {
    const old = await begin(applied);
    const source = { client, between: <T>(job: () => Promise<T>) => job(), journal: old, house, now: Date.now };
    const { name } = await takeSnapshot(folders.snapshots, {
      ...source,
      migrations: migrations.slice(0, applied).map((m) => m.hash),
    });
    await old.close();
    say(`The database is of an older Frustum. It was kept as the snapshot ${name} before it is brought up to date.`);
    await layUpon(mine.filter((g) => g.migrations.length > applied));
    await migrateTo(client, migrations);
    noteState(folders.database, { closed: false, boot: bootId(), sizes: sizesOf(folders.database) });
  }
  return begin(migrations.length);
}

const asideFile = (folders: StoreFolders) =>
  join(folders.journal, `set-aside-${new Date().toISOString().replace(/\D/g, '')}.ndjson`);

function setAside(folders: StoreFolders, changes: readonly Change[], say: Say): void {
  if (!changes.length) return;
  const file = asideFile(folders);
  writeFileSync(file, changes.map((change) => `${JSON.stringify(change)}\n`).join(''), { mode: 0o600 });
  say(`${changes.length} changes of the journal could not be laid upon the database. They were set aside in ${file}.`);
}
