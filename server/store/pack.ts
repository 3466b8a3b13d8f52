import { existsSync, mkdirSync } from 'node:fs';
import { copyFile, link, mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { once } from 'node:events';
import type { Readable } from 'node:stream';
import * as tar from 'tar';
import { Refusal } from '@frustum/core';
import { diskRefusal } from './failures.ts';
import { CHANGES, fileOfTable, hashOf, MANIFEST, readManifest, type Manifest } from './manifest.ts';

/** What a backup file may hold, and nothing else: no paths that lead out, no links. */
const NAMES = /^(?:\.\/)?(manifest\.json|changes\.ndjson\.gz|[a-z][a-z0-9_]{0,62}\.copy\.gz|photos\/[0-9a-f-]{36})$/;
const NO_BACKUP = 'This file is no backup of Frustum, or it was cut short. Choose another file.';
/** A house of many years has some thousand pictures. */
const MAX_FILES = 100_000;

/**
 * A snapshot as one file that goes to another machine, with its pictures: a tar archive (POSIX ustar/pax), written as it is read.
 *
 * @param work an empty folder of the same disk, for the manifest with the pictures; removed by the caller, who made it
 */
export async function pack(
  snapshot: string,
  photosFolder: string,
  photoIds: readonly string[],
  work: string,
): Promise<Readable> {
  const manifest = readManifest(snapshot);
  const photos: Manifest['photos'] = [];
  for (const id of photoIds) {
    const file = join(photosFolder, id);
    const found = await stat(file).catch(() => null);
    // A picture that is missing here is missing there.
    if (found) photos.push({ id, bytes: found.size, sha256: await hashOf(file) });
  }
  const names = [...manifest.tables.map((t) => fileOfTable(t.name)), CHANGES];
  mkdirSync(join(work, 'photos'), { mode: 0o700 });
  for (const name of names) await besides(join(snapshot, name), join(work, name));
  for (const { id } of photos) await besides(join(photosFolder, id), join(work, 'photos', id));
  await writeFile(join(work, MANIFEST), JSON.stringify({ ...manifest, photos }, null, 1), { mode: 0o600 });
  // The manifest first: it tells the reader what comes.
  const files = [MANIFEST, ...names, ...photos.map(({ id }) => `photos/${id}`)];
  return tar.create({ cwd: work, portable: true, noDirRecurse: true }, files) as unknown as Readable;
}

/** The same file under another name; a copy where the disk has no second names. */
const besides = (from: string, to: string) => link(from, to).catch(() => copyFile(from, to));

/** A folder for something short, beside the rest of a data folder. */
export const workFolder = (dataFolder: string): Promise<string> => mkdtemp(join(dataFolder, 'work-'));

/**
 * Unpacks a backup file into a new folder. Nothing is written beside it, whatever the file says.
 *
 * @param room bytes that it may take
 * @throws Refusal `backup-broken`, `disk-full`
 */
export async function unpack(source: Readable, folder: string, room: number): Promise<void> {
  mkdirSync(join(folder, 'photos'), { recursive: true, mode: 0o700 });
  let bytes = 0;
  let files = 0;
  let refused: Refusal | null = null;
  const refuse = () => {
    if (refused) throw refused as Error;
  };
  const extract = tar.extract({
    cwd: folder,
    strict: true,
    preserveOwner: false,
    fmode: 0o600,
    dmode: 0o700,
    filter: (path, entry) => {
      const type = 'type' in entry ? entry.type : '';
      bytes += 'size' in entry ? entry.size : 0;
      files++;
      if (!NAMES.test(path) || (type !== 'File' && type !== 'OldFile'))
        refused ??= new Refusal(
          'backup-broken',
          `This file is no backup of Frustum: it has “${path.slice(0, 60)}” in it. Choose another file.`,
        );
      else if (files > MAX_FILES)
        refused ??= new Refusal(
          'backup-broken',
          'This file is no backup of Frustum: it has too many files in it. Choose another file.',
        );
      else if (bytes > room)
        refused ??= new Refusal(
          'disk-full',
          'There is not enough room on the disk of Frustum’s computer for this backup. Make room there, then try again.',
        );
      return refused === null;
    },
  });
  const ended = new Promise<void>((resolve, reject) => {
    extract.once('close', () => resolve());
    extract.once('error', reject);
  });
  // The first failure is thrown below.
  ended.catch(() => undefined);
  try {
    // The source stays open: its sender still waits for an answer.
    for await (const chunk of source.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
      refuse();
      if (!extract.write(chunk)) await Promise.race([once(extract, 'drain'), ended]);
    }
    extract.end();
    await ended;
    refuse();
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    const disk = diskRefusal(error);
    throw error instanceof Refusal ? error : (disk ?? new Refusal('backup-broken', NO_BACKUP));
  }
  if (!existsSync(join(folder, MANIFEST))) {
    await rm(folder, { recursive: true, force: true });
    throw new Refusal('backup-broken', NO_BACKUP);
  }
}

/** Pictures of a backup go to those that are there; none is ever written over. */
export async function bringPhotos(from: string, dataFolder: string): Promise<void> {
  if (!existsSync(from)) return;
  const own = join(dataFolder, 'photos');
  mkdirSync(own, { recursive: true, mode: 0o700 });
  for (const name of await readdir(from))
    if (!existsSync(join(own, name))) await besides(join(from, name), join(own, name));
}
