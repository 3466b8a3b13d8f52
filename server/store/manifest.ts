import { createReadStream, readFileSync, statSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { array, number, object, string, type InferType } from 'yup';
import { Refusal } from '@frustum/core';

/** The format of backups: docs/backup-format.md. */
export const BACKUP_FORMAT = 1;
export const MANIFEST = 'manifest.json';
export const CHANGES = 'changes.ndjson.gz';
/** A manifest of a house with many pictures, bytes; larger ones are none of ours. */
const MAX_MANIFEST_BYTES = 50_000_000;

const name = string().matches(/^[a-z][a-z0-9_]{0,62}$/).required(); // prettier-ignore
const whole = number().integer().min(0).required();
const sha256 = string().matches(/^[0-9a-f]{64}$/).required(); // prettier-ignore
const id = string().uuid().required();

const manifestSchema = object({
  frustum: string().oneOf(['backup']).required(),
  format: whole,
  house: id,
  takenAt: string().datetime().required(),
  tookMs: number().min(0).required(),
  /** hashes of the migrations that its tables are made by */
  migrations: array(sha256).required(),
  /** the journal goes on from this write, in this generation */
  generation: whole,
  upTo: whole,
  tables: array(object({ name, columns: array(name).required(), rows: whole, sha256 })).required(),
  changes: object({ entries: whole, sha256 }).required(),
  /** rows of each table with the changes laid upon them */
  counts: object().required(),
  /** time of the newest record, ISO 8601; null for an empty house */
  newestAt: string().datetime().nullable().defined(),
  photos: array(object({ id, bytes: whole, sha256 })).required(),
});

export type Manifest = Omit<InferType<typeof manifestSchema>, 'counts'> & {
  readonly counts: Readonly<Record<string, number>>;
};

export const fileOfTable = (table: string): string => `${table}.copy.gz`;

const broken = (why: string) =>
  new Refusal('backup-broken', `This backup cannot be used: ${why}. Nothing was changed. Take another backup.`);

/**
 * Reads what a backup says of itself.
 *
 * @throws Refusal `backup-broken`; `backup-of-newer` for a format that only a newer Frustum reads
 */
export function readManifest(folder: string): Manifest {
  const file = join(folder, MANIFEST);
  let read: unknown;
  try {
    if (statSync(file).size > MAX_MANIFEST_BYTES) throw new Error('too large');
    read = JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    throw broken(`${MANIFEST} is missing or cannot be read`);
  }
  const { format } = (read ?? {}) as { format?: unknown };
  if (typeof format === 'number' && format > BACKUP_FORMAT)
    throw new Refusal(
      'backup-of-newer',
      `This backup was made by a newer Frustum (format ${format}; this one reads up to ${BACKUP_FORMAT}). Restore it there.`,
    );
  try {
    const manifest = manifestSchema.validateSync(read, { strict: true }) as Manifest;
    for (const counted of Object.values(manifest.counts))
      if (!Number.isSafeInteger(counted)) throw new Error('counts are no numbers');
    return manifest;
  } catch (error) {
    throw broken(`${MANIFEST} is not valid (${(error as Error).message})`);
  }
}

/** SHA-256 of what a compressed file holds, and its lines. */
async function contentOf(file: string): Promise<{ readonly sha256: string; readonly lines: number }> {
  const hash = createHash('sha256');
  let lines = 0;
  await pipeline(createReadStream(file), createGunzip(), async (source: AsyncIterable<Buffer>) => {
    for await (const chunk of source) {
      hash.update(chunk);
      for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, at + 1)) lines++;
    }
  });
  return { sha256: hash.digest('hex'), lines };
}

/** SHA-256 of a file as it is. */
export async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/**
 * Reads every file of a backup and compares it with what the manifest says.
 *
 * @throws Refusal `backup-broken` naming the first file that differs
 */
export async function verify(folder: string): Promise<Manifest> {
  const manifest = readManifest(folder);
  const files = [
    ...manifest.tables.map((t) => ({ file: fileOfTable(t.name), lines: t.rows, sha256: t.sha256 })),
    // Its first line is the head of the journal's generation.
    { file: CHANGES, lines: manifest.changes.entries + 1, sha256: manifest.changes.sha256 },
  ];
  for (const { file, lines, sha256: expected } of files) {
    const found = await contentOf(join(folder, file)).catch(() => null);
    if (!found) throw broken(`${file} is missing or cut short`);
    if (found.sha256 !== expected || found.lines !== lines) throw broken(`${file} is not as it was written`);
  }
  for (const photo of manifest.photos) {
    const found = await hashOf(join(folder, 'photos', photo.id)).catch(() => null);
    if (found !== photo.sha256) throw broken(`the picture ${photo.id} is missing or not as it was written`);
  }
  return manifest;
}
