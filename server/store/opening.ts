import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { Refusal } from '@frustum/core';
import { watchChanges, type Change } from './changes.ts';
import { bootId, noteState, readState, wentDown } from './database-state.ts';
import { diskRefusal, errorOf } from './failures.ts';
import { createIn, EMPTY } from './empty-copy.ts';
import { begun, damaged, NOT_OPENED, wantsNew, wasCutShort } from './first-database.ts';
import { Journal, readJournal, type ReadGeneration } from './journal.ts';
import { knownGood, knownGoodWords, storeFolders, withKnownGood, type StoreFolders } from './known-good.ts';
import { goOn } from './load.ts';
import { appliedTo, migrateTo, migrationsIn, requireKnown, type Migration } from './migrations.ts';
import { cutTrouble, pagesTrouble, sizesOf } from './pages.ts';
import { rebuild } from './rebuild.ts';
import { takeSnapshot } from './snapshot.ts';
import { removeUnfinished } from './snapshots-in.ts';
import { beginsLine, finishSwitch, lineBegun } from './switch.ts';
import { countAll, countedRows, tablesOf } from './tables.ts';

interface Opened {
  readonly client: PGlite;
  /** null: it passes */
  readonly kept: {
    readonly folders: StoreFolders;
    readonly journal: Journal;
    readonly house: string;
    readonly migrations: readonly string[];
  } | null;
}

/** Tells somebody who starts it, in a sentence. */
type Say = (sentence: string) => void;

/** Why it does not open: what PostgreSQL says itself, or with what its library gave up. */
function reasonOf(error: unknown): string {
  const { code } = errorOf(error) as { code?: string };
  return code && /^[0-9A-Z]{5}$/.test(code) ? `PostgreSQL says ${code}` : `${NOT_OPENED} (${firstLine(error)})`;
}

const firstLine = (error: unknown) => String(errorOf(error)).split('\n')[0]!.slice(0, 160);

/** A database that goes when it is closed, for tests: nothing of it is kept. */
export async function openPassing(migrations: readonly Migration[], empty = EMPTY): Promise<Opened> {
  const folder = mkdtempSync(join(tmpdir(), 'frustum-passing-'));
  const client = await createIn(folder, empty);
  const close = client.close.bind(client);
  client.close = async () => {
    await close();
    rmSync(folder, { recursive: true, force: true });
  };
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
  finishSwitch(dataFolder);
  const folders = storeFolders(dataFolder);
  const migrations = migrationsIn(migrationsFolder);
  removeUnfinished(folders.snapshots);
  for (const rest of ['.building', '.building.state.json'])
    rmSync(folders.database + rest, { recursive: true, force: true });
  try {
    const opened = await openWhole(folders, migrations, say, boot, beginsLine(dataFolder));
    lineBegun(dataFolder);
    return opened;
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
  newLine: boolean,
): Promise<Opened> {
  const { database } = folders;
  // Nothing of a first start was acknowledged before it was finished.
  if (wasCutShort(database)) rmSync(folders.journal, { recursive: true, force: true });
  const ways = knownGood(folders);
  const before = readState(database);
  const begins = wantsNew(database);
  if (begins && ways.length && (ways[0]!.snapshot || ways[0]!.writes))
    throw damaged(database, 'it is missing, though its journal or snapshots are there');
  const anew = wentDown(before, boot) && ways.length > 0 && (await builtAnew(folders, migrations, say, ways));
  const cut = anew || begins ? null : cutTrouble(database, before?.sizes ?? {});
  if (cut) throw damaged(database, cut);
  const state = readState(database);
  // Until its opener says that it is finished.
  if (begins) begun(database);
  const client = await (begins ? createIn(database) : PGlite.create(database));
  try {
    const trouble = begins || state?.closed ? null : pagesTrouble(database, state?.sizes ?? {});
    if (trouble) throw damaged(database, trouble);
    await watchChanges(client);
    if (begins) await migrateTo(client, migrations);
    const applied = await appliedTo(client);
    requireKnown(`The database in ${database}`, applied, migrations);
    await requireCounted(client, database);
    noteState(database, { closed: false, boot, sizes: sizesOf(database) });
    const { journal, house } = await caughtUp(client, folders, migrations, say, newLine);
    return { client, kept: { folders, journal, house, migrations: migrations.map((m) => m.hash) } };
  } catch (error) {
    await client.close().catch(() => undefined);
    throw error;
  }
}

/**
 * The computer went down: what its system had not written is missing somewhere in the files, and nobody knows where.
 *
 * @returns whether it was built anew
 */
async function builtAnew(
  folders: StoreFolders,
  migrations: readonly Migration[],
  say: Say,
  ways: ReturnType<typeof knownGood>,
): Promise<boolean> {
  say(`The computer went down while Frustum ran. The database is built anew from ${knownGoodWords(ways[0]!)} …`);
  const aside = `${folders.database}.went-down`;
  rmSync(aside, { recursive: true, force: true });
  try {
    const { way, aside: left } = await rebuild(folders, ways, aside, { migrations, empty: EMPTY });
    if (way !== ways[0]) say(`That one does not read back. It was built from ${knownGoodWords(way)}.`);
    setAside(folders, left, say);
    rmSync(aside, { recursive: true, force: true });
    return true;
  } catch (error) {
    if (diskRefusal(error)) throw error;
    say(`It could not be built anew (${errorOf(error).message}). The files that are there are used.`);
    return false;
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

/** Id of the house in a database, which gets one when it has none. */
async function houseOf(client: PGlite): Promise<string> {
  const { rows } = await client.query<{ id: string }>('select id from house');
  return rows[0]?.id ?? (await named(client));
}

async function named(client: PGlite): Promise<string> {
  const id = randomUUID();
  await client.query('delete from house');
  await client.query('insert into house (id, begun_at) values ($1, now())', [id]);
  return id;
}

/** Lays the journal upon the database, brings that up to date, and begins a new generation of the journal. */
async function caughtUp(
  client: PGlite,
  folders: StoreFolders,
  migrations: readonly Migration[],
  say: Say,
  newLine: boolean,
): Promise<{ journal: Journal; house: string }> {
  let house = await houseOf(client);
  const all = readJournal(folders.journal);
  const mine = all.filter((g) => g.house === house);
  sayStrange(all, house, folders, say);
  const applied = (await appliedTo(client)).length;
  const after = Math.max(0, ...all.flatMap((g) => [g.after, g.entries.at(-1)?.seq ?? 0]));
  const begin = (count: number) =>
    Journal.begin(folders.journal, { house, migrations: migrations.slice(0, count).map((m) => m.hash), after });
  await layUpon(client, mine.filter((g) => g.migrations.length <= applied), folders, migrations, say); // prettier-ignore
  if (newLine) house = await named(client);
  if (applied < migrations.length) {
    const journal = await begin(applied);
    const { name } = await snapshotOf(client, folders, journal, house, migrations.slice(0, applied));
    await journal.close();
    say(`The database is of an older Frustum. It was kept as the snapshot ${name} before it is brought up to date.`);
    await layUpon(client, mine.filter((g) => g.migrations.length > applied), folders, migrations, say); // prettier-ignore
    await migrateTo(client, migrations);
    noteState(folders.database, { closed: false, boot: bootId(), sizes: sizesOf(folders.database) });
  }
  const journal = await begin(migrations.length);
  // A restored house has no snapshot of its own yet, and could not be recovered without one.
  if (newLine) {
    say('A first snapshot of the house that was put here is made …');
    await snapshotOf(client, folders, journal, house, migrations);
    journal.cut(journal.generation);
  }
  return { journal, house };
}

/** A snapshot while nobody else has the database. */
const snapshotOf = (
  client: PGlite,
  folders: StoreFolders,
  journal: Journal,
  house: string,
  migrations: readonly Migration[],
) =>
  takeSnapshot(folders.snapshots, {
    client,
    between: (job) => job(),
    journal,
    house,
    migrations: migrations.map((m) => m.hash),
    now: Date.now,
  });

/** What in the journal’s folder is of another house, or not as it was written. */
function sayStrange(all: readonly ReadGeneration[], house: string, folders: StoreFolders, say: Say): void {
  const strange = all.filter((g) => g.house !== house && g.house !== '' && g.entries.length);
  if (strange.length)
    say(`${strange.length} files in ${folders.journal} are of another house. They were left as they are.`);
  const unreadable = all.flatMap((g) => g.unreadable);
  if (!unreadable.length) return;
  const file = asideFile(folders);
  writeFileSync(file, unreadable.map((line) => `${line}\n`).join(''), { mode: 0o600 });
  say(`${unreadable.length} lines of the journal are not as they were written. They were set aside in ${file}.`);
}

async function layUpon(
  client: PGlite,
  generations: readonly ReadGeneration[],
  folders: StoreFolders,
  migrations: readonly Migration[],
  say: Say,
): Promise<void> {
  const { aside, back } = await goOn(client, 0, generations, migrations);
  setAside(folders, aside, say);
  const rows = Object.entries(back).filter(([, n]) => n > 0);
  if (!rows.length) return;
  const came = rows.map(([table, n]) => `${n} of ${table}`).join(', ');
  say(`${rows.reduce((sum, [, n]) => sum + n, 0)} rows came back from the journal: ${came}.`);
}

const asideFile = (folders: StoreFolders) =>
  join(folders.journal, `set-aside-${new Date().toISOString().replace(/\D/g, '')}.ndjson`);

function setAside(folders: StoreFolders, changes: readonly Change[], say: Say): void {
  if (!changes.length) return;
  const file = asideFile(folders);
  writeFileSync(file, changes.map((change) => `${JSON.stringify(change)}\n`).join(''), { mode: 0o600 });
  say(`${changes.length} changes of the journal could not be laid upon the database. They were set aside in ${file}.`);
}
