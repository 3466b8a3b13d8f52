import { createReadStream, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip, gunzipSync } from 'node:zlib';
import type { PGlite } from '@electric-sql/pglite';
import { Refusal } from '@frustum/core';
import { readGeneration, type JournalEntry, type ReadGeneration } from './journal.ts';
import { CHANGES, fileOfTable, type Manifest } from './manifest.ts';
import { migrateTo, requireKnown, type Migration } from './migrations.ts';
import { redo } from './redo.ts';
import { countAll, orphans, quoted, recount, tablesOf, type Table } from './tables.ts';
import type { Change } from './changes.ts';

/** Text that is handed to the database at once, bytes. */
const AT_ONCE = 4_000_000;

const broken = (why: string) =>
  new Refusal('backup-broken', `This backup cannot be used: ${why}. Nothing was changed. Take another backup.`);

/**
 * Fills an empty database from a backup that was verified: its tables, then what was written while they were copied, then
 * generations of the journal, each in the migrations that it was written in; then the rest of the migrations.
 *
 * @returns writes of those generations that were laid upon it, and what could not be
 * @throws Refusal `backup-broken` when it holds something else than it says; `of-another-frustum`
 */
export async function load(
  client: PGlite,
  folder: string,
  manifest: Manifest,
  options: {
    readonly migrations: readonly Migration[];
    readonly then?: readonly ReadGeneration[];
    readonly onProgress?: (rows: number, of: number) => void;
  },
): Promise<GoneOn> {
  const { migrations, then = [], onProgress } = options;
  requireKnown('This backup', manifest.migrations, migrations);
  await migrateTo(client, migrations, manifest.migrations.length);
  await client.exec('set session_replication_role = replica');
  try {
    const tables = new Map((await tablesOf(client)).map((t) => [t.name, t]));
    const all = manifest.tables.reduce((sum, t) => sum + t.rows, 0);
    let done = 0;
    const putBack = await withoutIndexes(client);
    for (const { name, columns } of manifest.tables) {
      const table = tables.get(name);
      if (!table || columns.some((c) => !table.columns.some((known) => known.name === c)))
        throw broken(`it has a table “${name}” that no Frustum has`);
      await client.exec(`delete from ${quoted(name)}`);
      await copyIn(client, table, columns, join(folder, fileOfTable(name)), (rows) =>
        onProgress?.((done += rows), all),
      );
    }
    const during = readGeneration('', manifest.generation, gunzipSync(readFileSync(join(folder, CHANGES))));
    for (const table of tables.values()) if (table.leaf) await withoutChanged(client, table, changesIn([during]));
    await putBack();
    await redo(client, changesIn([during]));
    await recount(client, [...tables.values()]);
    const counts = await countAll(client, [...tables.values()]);
    for (const [name, rows] of Object.entries(manifest.counts))
      if (counts[name] !== rows) throw broken(`“${name}” has ${counts[name] ?? 0} rows instead of ${rows}`);
    const lost = await orphans(client);
    if (lost.length) throw broken(`records point to others that are not in it (${lost.join(', ')})`);
  } finally {
    await client.exec('reset session_replication_role');
  }
  const result = await goOn(client, manifest.upTo, then, migrations);
  await migrateTo(client, migrations);
  await client.exec('analyze');
  return result;
}

export interface GoneOn {
  readonly writes: number;
  /** rows that were not as the journal says, by table */
  readonly back: Readonly<Record<string, number>>;
  /** changes that could not be laid upon it */
  readonly aside: readonly Change[];
}

/** Lays the journal’s generations behind a write upon a database. */
export async function goOn(
  client: PGlite,
  after: number,
  generations: readonly ReadGeneration[],
  migrations: readonly Migration[],
): Promise<GoneOn> {
  const aside: Change[] = [];
  const back: Record<string, number> = {};
  let writes = 0;
  for (const { entries, made } of partsOf(generations, after)) {
    requireKnown('The journal', made, migrations);
    await migrateTo(client, migrations, made.length);
    const done = await redo(client, changesIn([{ entries }]));
    aside.push(...done.aside);
    for (const [table, rows] of Object.entries(done.back)) back[table] = (back[table] ?? 0) + rows;
    writes += entries.length;
  }
  return { writes, back, aside };
}

/** What is written in the same migrations is laid upon it at once: only the last state of a row is of interest. */
function partsOf(
  generations: readonly ReadGeneration[],
  after: number,
): { readonly entries: JournalEntry[]; readonly made: readonly string[] }[] {
  const parts: { entries: JournalEntry[]; made: readonly string[] }[] = [];
  for (const { entries, migrations } of generations) {
    const behind = entries.filter((e) => e.seq > after);
    const last = parts.at(-1);
    if (!behind.length) continue;
    if (last?.made.length === migrations.length) last.entries.push(...behind);
    else parts.push({ entries: behind, made: migrations });
  }
  return parts;
}

function* changesIn(generations: readonly Pick<ReadGeneration, 'entries'>[]): Generator<Change> {
  for (const { entries } of generations) for (const { changes } of entries) yield* changes;
}

/** COPY text into a table, whole lines at a time. */
async function copyIn(
  client: PGlite,
  table: Table,
  columns: readonly string[],
  file: string,
  onRows: (rows: number) => void,
): Promise<void> {
  const statement = `copy ${quoted(table.name)} (${columns.map(quoted).join(', ')}) from '/dev/blob'`;
  const put = async (bytes: Buffer) => {
    if (!bytes.length) return;
    const { affectedRows } = await client.query(statement, [], { blob: new Blob([new Uint8Array(bytes)]) });
    onRows(affectedRows ?? 0);
  };
  await pipeline(createReadStream(file), createGunzip(), async (source: AsyncIterable<Buffer>) => {
    let held: Buffer[] = [];
    let size = 0;
    for await (const chunk of source) {
      held.push(chunk);
      size += chunk.length;
      if (size < AT_ONCE) continue;
      const bytes = Buffer.concat(held);
      // A line break inside of a value is written as \n: each one in the text ends a row.
      const end = bytes.lastIndexOf(10) + 1;
      await put(bytes.subarray(0, end));
      held = [bytes.subarray(end)];
      size = bytes.length - end;
    }
    await put(Buffer.concat(held));
  });
}

/** What was changed while its table was copied may be in it twice: it comes from the journal. */
async function withoutChanged(client: PGlite, { name, key }: Table, changes: Iterable<Change>): Promise<void> {
  const rows = [...changes].flatMap((c) => (c.table === name ? [c.row] : []));
  if (!rows.length) return;
  const same = key.map((c) => `t.${quoted(c.name)} = c.${quoted(c.name)}`).join(' and ');
  await client.query(
    `delete from ${quoted(name)} t using jsonb_populate_recordset(null::${quoted(name)}, $1::jsonb) c where ${same}`,
    [JSON.stringify(rows)],
  );
}

/** Takes indexes and constraints away that nothing rests upon: made anew behind the rows they cost a fraction. */
async function withoutIndexes(client: PGlite): Promise<() => Promise<void>> {
  const { rows: constraints } = await client.query<{ table: string; name: string; definition: string }>(
    `select c.relname as "table", k.conname as name, pg_get_constraintdef(k.oid) as definition
       from pg_constraint k join pg_class c on c.oid = k.conrelid
      where k.contype in ('p', 'u') and c.relnamespace = 'public'::regnamespace and c.relname <> 'row_counts'
        and not exists (select 1 from pg_constraint f where f.contype = 'f' and f.conindid = k.conindid)`,
  );
  const { rows: indexes } = await client.query<{ name: string; definition: string }>(
    `select c.relname as name, pg_get_indexdef(i.indexrelid) as definition
       from pg_index i join pg_class c on c.oid = i.indexrelid
      where c.relnamespace = 'public'::regnamespace
        and not exists (select 1 from pg_constraint k where k.conindid = i.indexrelid)`,
  );
  for (const { table, name } of constraints)
    await client.exec(`alter table ${quoted(table)} drop constraint ${quoted(name)}`);
  for (const { name } of indexes) await client.exec(`drop index ${quoted(name)}`);
  return async () => {
    for (const { table, name, definition } of constraints)
      await client.exec(`alter table ${quoted(table)} add constraint ${quoted(name)} ${definition}`);
    for (const { definition } of indexes) await client.exec(definition);
  };
}
