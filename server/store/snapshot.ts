import { createHash } from 'node:crypto';
import { createWriteStream, existsSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import type { TransformOptions } from 'node:stream';
import { createGzip, type ZlibOptions } from 'node:zlib';
import type { PGlite } from '@electric-sql/pglite';
import { flushedMeanwhile, readGeneration, type Journal } from './journal.ts';
import { BACKUP_FORMAT, CHANGES, fileOfTable, MANIFEST, verify, type Manifest } from './manifest.ts';
import { bytesIn, MAKING, type KeptSnapshot } from './snapshots-in.ts';
import { countedRows, list, quoted, tablesOf, type Table } from './tables.ts';

/** The database may be asked for a slice only so long; the next one is made larger or smaller for it, ms. */
const SLICE_MS = 50;
/** Copied, and not compressed yet. */
const AHEAD_BYTES = 16_000_000;
const FIRST_ROWS = 500;
const MAX_ROWS = 50_000;
const FIRST_PAGES = 10;
const MAX_PAGES = 1000;

interface SnapshotSource {
  readonly client: PGlite;
  /** runs a job when no command is under way */
  readonly between: <T>(job: () => Promise<T>) => Promise<T>;
  readonly journal: Pick<Journal, 'rotate' | 'soFar' | 'lastSeq'>;
  readonly house: string;
  readonly migrations: readonly string[];
  readonly now: () => number;
  /** rows that were copied, of so many */
  readonly onProgress?: (rows: number, of: number) => void;
}

/** Named after its moment; a number beside it where that is taken. */
function freeName(folder: string, takenAt: string): string {
  const stamp = takenAt.replace(/[-:]|\.\d+/g, '');
  let name = stamp;
  for (let i = 2; existsSync(join(folder, name)); i++) name = `${stamp}-${i}`;
  return name;
}

/** Writes tables and changes into a folder. @returns what is in it, for its manifest */
async function fill(making: string, source: SnapshotSource, takenAt: string, began: number): Promise<Manifest> {
  const { client, between, journal } = source;
  const [tables, generation, expected] = await between(async () => [
    await tablesOf(client),
    await journal.rotate(),
    await countedRows(client),
  ] as const); // prettier-ignore
  const all = Object.values(expected).reduce((sum, n) => sum + n, 0);
  let done = 0;
  const written: Manifest['tables'] = [];
  for (const table of tables) {
    const file = join(making, fileOfTable(table.name));
    const { rows, sha256 } = await compressed(
      file,
      slicesOf(source, table, (n) => source.onProgress?.((done += n), all)),
    );
    written.push({ name: table.name, columns: table.columns.map((c) => c.name), rows, sha256 });
  }
  const { soFar, counts, newestAt, upTo } = await between(async () => ({
    soFar: await journal.soFar(),
    counts: await countedRows(client),
    newestAt: await newestIn(client, tables),
    upTo: journal.lastSeq,
  }));
  const { entries } = readGeneration('', generation, soFar);
  requireAccounted(
    written,
    counts,
    entries.flatMap((e) => e.changes),
  );
  const changes = await compressed(join(making, CHANGES), [{ bytes: soFar, rows: entries.length }]);
  return {
    frustum: 'backup',
    format: BACKUP_FORMAT,
    house: source.house,
    takenAt,
    tookMs: Math.round(performance.now() - began),
    migrations: [...source.migrations],
    generation,
    upTo,
    tables: written,
    changes: { entries: entries.length, sha256: changes.sha256 },
    counts,
    newestAt,
    photos: [],
  };
}

/**
 * Copies every table into a folder, slice by slice, while the house goes on: what is written meanwhile stands in the journal’s
 * new generation, and goes along. Flushed, renamed into place and read back before it counts.
 *
 * @throws Error or Refusal when it could not be kept or does not read back; nothing is left behind then
 */
export async function takeSnapshot(folder: string, source: SnapshotSource): Promise<KeptSnapshot> {
  const began = performance.now();
  const takenAt = new Date(source.now()).toISOString();
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const name = freeName(folder, takenAt);
  const making = join(folder, `${name}${MAKING}`);
  mkdirSync(making, { mode: 0o700 });
  try {
    const manifest = await fill(making, source, takenAt, began);
    await writeFlushed(join(making, MANIFEST), JSON.stringify(manifest, null, 1));
    await flushedMeanwhile(making);
    renameSync(making, join(folder, name));
    await flushedMeanwhile(folder);
    try {
      await verify(join(folder, name));
    } catch (error) {
      rmSync(join(folder, name), { recursive: true, force: true });
      throw error;
    }
    return { name, manifest, bytes: bytesIn(join(folder, name)) };
  } catch (error) {
    rmSync(making, { recursive: true, force: true });
    throw error;
  }
}

/** What changed while a table was copied stands in the journal: where nothing does, all its rows were copied. */
function requireAccounted(
  written: Manifest['tables'],
  counts: Manifest['counts'],
  changes: readonly { readonly table: string }[],
): void {
  const changed = new Set(changes.map((c) => c.table));
  for (const { name, rows } of written)
    if (!changed.has(name) && counts[name] !== undefined && counts[name] !== rows)
      throw new Error(`“${name}” has ${counts[name]} rows, ${rows} were copied, and no change of it was journalled`);
}

interface Slice {
  readonly bytes: Buffer;
  readonly rows: number;
}

type Slicing = Pick<SnapshotSource, 'client' | 'between'>;

/** A table, so many rows at a time as the database gives within a moment. */
async function* slicesOf(source: Slicing, table: Table, onRows: (rows: number) => void): AsyncGenerator<Slice> {
  for await (const slice of table.leaf ? byPages(source, table) : byKey(source, table)) {
    yield slice;
    onRows(slice.rows);
  }
}

/** So many of something for the next slice that it takes its time and no longer. */
const next = (now: number, ms: number, least: number, most: number) =>
  Math.round(Math.min(most, Math.max(least, now * Math.min(4, SLICE_MS / ms))));

async function copied(client: PGlite, { columns, name }: Table, which: string): Promise<Slice> {
  const { blob } = await client.query(`copy (select ${list(columns)} from ${quoted(name)} ${which}) to '/dev/blob'`);
  const bytes = Buffer.from((await blob?.arrayBuffer()) ?? new ArrayBuffer(0));
  return { bytes, rows: linesIn(bytes) };
}

/**
 * In the order in which it lies on the disk: the quickest. A row that is changed meanwhile may move, and be met twice or not at
 * all: its last state stands in the journal, and a load takes that one.
 */
async function* byPages({ client, between }: Slicing, table: Table): AsyncGenerator<Slice> {
  let [from, pages] = [0, FIRST_PAGES];
  for (;;) {
    const { slice, ms, of } = await between(async () => {
      const since = performance.now();
      const { rows } = await client.query<{ of: number }>(
        `select (pg_relation_size($1::regclass) / current_setting('block_size')::int)::int as of`,
        [quoted(table.name)],
      );
      const which = `where ctid >= '(${from},0)'::tid and ctid < '(${from + pages},0)'::tid`;
      return { slice: await copied(client, table, which), of: rows[0]!.of, ms: performance.now() - since };
    });
    yield slice;
    from += pages;
    if (from >= of) return;
    pages = next(pages, ms, 1, MAX_PAGES);
  }
}

/** In the order of its key: no row is met twice, and other tables point to each. */
async function* byKey({ client, between }: Slicing, table: Table): AsyncGenerator<Slice> {
  const { name, key } = table;
  const at = `(${list(key)})`;
  const tuple = (values: readonly string[]) => `(${values.map((value, i) => `${value}::${key[i]!.type}`).join(', ')})`;
  const texts = key.map((c, i) => `quote_literal(${quoted(c.name)}::text) as k${i}`).join(', ');
  let rows = FIRST_ROWS;
  let after: readonly string[] | null = null;
  for (;;) {
    const from: string = after ? `where ${at} > ${tuple(after)}` : '';
    const done: { slice: Slice; last: readonly string[] | null; ms: number } = await between(async () => {
      const since = performance.now();
      const end = await client.query<Record<string, string>>(
        `select ${texts} from ${quoted(name)} ${from} order by ${list(key)} offset ${rows - 1} limit 1`,
      );
      const last = end.rows[0] ? key.map((_, i) => end.rows[0]![`k${i}`]!) : null;
      const to = last ? `${from ? 'and' : 'where'} ${at} <= ${tuple(last)}` : '';
      const slice = await copied(client, table, `${from} ${to} order by ${list(key)}`);
      return { slice, last, ms: performance.now() - since };
    });
    yield done.slice;
    if (!done.last) return;
    after = done.last;
    rows = next(rows, done.ms, 10, MAX_ROWS);
  }
}

function linesIn(bytes: Buffer): number {
  let lines = 0;
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) lines++;
  return lines;
}

/** Writes slices as one compressed file, flushed; of what it holds the rows and the hash. */
async function compressed(
  file: string,
  slices: AsyncIterable<Slice> | Iterable<Slice>,
): Promise<{ rows: number; sha256: string }> {
  const hash = createHash('sha256');
  // The quickest level. The database goes on with the next slice while some are compressed.
  const gzip = createGzip({ level: 1, highWaterMark: AHEAD_BYTES, chunkSize: 2 ** 18 } as ZlibOptions &
    TransformOptions);
  const out = gzip.pipe(createWriteStream(file, { mode: 0o600, flush: true, flags: 'wx' }));
  const ended = finished(out);
  gzip.once('error', (error) => out.destroy(error));
  // An error of the disk is told where the end is waited for.
  ended.catch(() => gzip.destroy());
  let rows = 0;
  for await (const slice of slices) {
    rows += slice.rows;
    hash.update(slice.bytes);
    if (gzip.destroyed) break;
    if (!gzip.write(slice.bytes)) await Promise.race([once(gzip, 'drain'), ended]);
  }
  if (!gzip.destroyed) gzip.end();
  await ended;
  return { rows, sha256: hash.digest('hex') };
}

async function writeFlushed(file: string, text: string): Promise<void> {
  writeFileSync(file, text, { mode: 0o600, flag: 'wx' });
  const handle = await open(file, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Where times of records stand; of runs when they began and ended: events are too many to be looked through. */
const DATED = [
  ['runs', 'started_at'],
  ['runs', 'ended_at'],
  ['alarms', 'raised_at'],
  ['doses', 'at'],
  ['services', 'at'],
] as const;

/** Time of the newest record. */
async function newestIn(client: PGlite, tables: readonly Table[]): Promise<string | null> {
  let newest: string | null = null;
  for (const [table, column] of DATED) {
    if (!tables.some((t) => t.name === table && t.columns.some((c) => c.name === column))) continue;
    const { rows } = await client.query<{ at: Date | null }>(
      `select max(${quoted(column)}) as at from ${quoted(table)}`,
    );
    const at = rows[0]?.at ? new Date(rows[0].at).toISOString() : null;
    if (at && (!newest || at > newest)) newest = at;
  }
  return newest;
}
