import { createHash } from 'node:crypto';
import {
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import type { PGlite } from '@electric-sql/pglite';
import { flushed, readGeneration, type Journal } from './journal.ts';
import { BACKUP_FORMAT, CHANGES, fileOfTable, MANIFEST, readManifest, verify, type Manifest } from './manifest.ts';
import { countedRows, list, quoted, tablesOf, type Table } from './tables.ts';

/** The database may be asked for a slice only so long; the next one is made larger or smaller for it, ms. */
const SLICE_MS = 80;
const FIRST_ROWS = 500;
const MOST_ROWS = 50_000;

/** A snapshot as it stands in its folder. */
export interface KeptSnapshot {
  readonly name: string;
  readonly manifest: Manifest;
  readonly bytes: number;
}

export interface SnapshotSource {
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

const MAKING = '.making';

/** Snapshots of a folder, the newest first; one that cannot be read is none. */
export function snapshotsIn(folder: string): KeptSnapshot[] {
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => /^\d{8}T\d{6}Z(-\d+)?$/.test(name))
    .flatMap((name): KeptSnapshot[] => {
      try {
        return [{ name, manifest: readManifest(join(folder, name)), bytes: bytesIn(join(folder, name)) }];
      } catch {
        return [];
      }
    })
    .sort((a, b) => (a.manifest.takenAt < b.manifest.takenAt ? 1 : -1));
}

const bytesIn = (folder: string): number =>
  readdirSync(folder, { withFileTypes: true })
    .filter((entry) => entry.isFile())
    .reduce((sum, entry) => sum + statSync(join(folder, entry.name)).size, 0);

/** What a snapshot that was broken off has left. */
export function removeUnfinished(folder: string): void {
  if (!existsSync(folder)) return;
  for (const name of readdirSync(folder))
    if (name.endsWith(MAKING)) rmSync(join(folder, name), { recursive: true, force: true });
}

/**
 * Copies every table into a folder, slice by slice, while the house goes on: what is written meanwhile stands in the journal’s
 * new generation, and goes along. Flushed, renamed into place and read back before it counts.
 *
 * @throws Error or Refusal when it could not be kept or does not read back; nothing is left behind then
 */
export async function takeSnapshot(folder: string, source: SnapshotSource): Promise<KeptSnapshot> {
  const { client, between, journal, now } = source;
  const began = performance.now();
  const takenAt = new Date(now()).toISOString();
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const stamp = takenAt.replace(/[-:]|\.\d+/g, '');
  let name = stamp;
  for (let i = 2; existsSync(join(folder, name)); i++) name = `${stamp}-${i}`;
  const making = join(folder, `${name}${MAKING}`);
  mkdirSync(making, { mode: 0o700 });
  try {
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
    const changes = await compressed(join(making, CHANGES), [{ bytes: soFar, rows: entries.length }]);
    const manifest: Manifest = {
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
    await writeFlushed(join(making, MANIFEST), JSON.stringify(manifest, null, 1));
    flushed(making);
    renameSync(making, join(folder, name));
    flushed(folder);
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

interface Slice {
  readonly bytes: Buffer;
  readonly rows: number;
}

/** A table in the order of its key, so many rows at a time as the database gives within a moment. */
async function* slicesOf(
  { client, between }: Pick<SnapshotSource, 'client' | 'between'>,
  { name, columns, key }: Table,
  onRows: (rows: number) => void,
): AsyncGenerator<Slice> {
  const at = `(${list(key)})`;
  const tuple = (values: readonly string[]) => `(${values.map((value, i) => `${value}::${key[i]!.type}`).join(', ')})`;
  let most = FIRST_ROWS;
  let after: readonly string[] | null = null;
  for (;;) {
    const from: string = after ? `where ${at} > ${tuple(after)}` : '';
    const slice: { bytes: Buffer; rows: number; last: readonly string[] | null; ms: number } = await between(
      async () => {
        const since = performance.now();
        const texts = key.map((c, i) => `quote_literal(${quoted(c.name)}::text) as k${i}`).join(', ');
        const end = await client.query<Record<string, string>>(
          `select ${texts} from ${quoted(name)} ${from} order by ${list(key)} offset ${most - 1} limit 1`,
        );
        const last = end.rows[0] ? key.map((_, i) => end.rows[0]![`k${i}`]!) : null;
        const to = last ? `${from ? 'and' : 'where'} ${at} <= ${tuple(last)}` : '';
        const copied = await client.query(
          `copy (select ${list(columns)} from ${quoted(name)} ${from} ${to} order by ${list(key)}) to '/dev/blob'`,
        );
        const bytes = Buffer.from((await copied.blob?.arrayBuffer()) ?? new ArrayBuffer(0));
        return { bytes, rows: last ? most : linesIn(bytes), last, ms: performance.now() - since };
      },
    );
    yield slice;
    onRows(slice.rows);
    if (!slice.last) return;
    after = slice.last;
    most = Math.round(Math.min(MOST_ROWS, Math.max(10, most * Math.min(4, SLICE_MS / slice.ms))));
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
  // The quickest: most of the time goes into the database.
  const gzip = createGzip({ level: 1 });
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

/** Time of the newest record among the tables that have one. */
async function newestIn(client: PGlite, tables: readonly Table[]): Promise<string | null> {
  const dated = { run_events: 'at', alarms: 'raised_at', doses: 'at', services: 'at' };
  let newest: string | null = null;
  for (const [table, column] of Object.entries(dated)) {
    if (!tables.some((t) => t.name === table && t.columns.some((c) => c.name === column))) continue;
    const { rows } = await client.query<{ at: Date | null }>(
      `select max(${quoted(column)}) as at from ${quoted(table)}`,
    );
    const at = rows[0]?.at ? new Date(rows[0].at).toISOString() : null;
    if (at && (!newest || at > newest)) newest = at;
  }
  return newest;
}
