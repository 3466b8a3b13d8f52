/** npm run backup: a snapshot of a data folder as one file, from the running Frustum or, where none runs, from the folder itself. */
import { createWriteStream, existsSync, readFileSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Refusal } from '@frustum/core';
import { checkConfig } from './config/config.ts';
import { readEnv } from './config/env.ts';
import { MIGRATIONS, STORE_WORKER } from './open-house.ts';
import { errorOf } from './store/failures.ts';
import { lockFolder } from './store/folder-lock.ts';
import { flushed } from './store/journal.ts';
import { openStore } from './store/open.ts';
import { pack, workFolder } from './store/pack.ts';

process.umask(0o077);
const { dataFolder } = checkConfig(readEnv(process.env));
const from = process.env['INIT_CWD'] ?? process.cwd();
const [wanted] = process.argv.slice(2);

async function main(): Promise<void> {
  if (!existsSync(join(dataFolder, 'database')))
    throw new Refusal('no-house', `There is no house in ${dataFolder}. Set FRUSTUM_DATA to the data folder.`);
  const lock = await lockFolder(dataFolder, new Date().toISOString(), 'npm run backup').catch((error: unknown) => {
    if (error instanceof Refusal && error.code === 'folder-in-use') return null;
    throw error;
  });
  if (!lock) return fromRunning();
  const { file, token } = lock;
  try {
    const options = { dataFolder, migrations: MIGRATIONS, holder: { file, token } };
    const { store, thread, close } = await openStore(STORE_WORKER, options, undefined, say);
    try {
      const { name } = await thread.snapshot();
      const work = await workFolder(dataFolder);
      try {
        const ids = await store.readPhotoIds();
        await written(name, await pack(join(dataFolder, 'snapshots', name), join(dataFolder, 'photos'), ids, work));
      } finally {
        await rm(work, { recursive: true, force: true });
      }
    } finally {
      await close();
    }
  } finally {
    await lock.unlock();
  }
}

/** The one that has the folder makes it, and goes on meanwhile. */
async function fromRunning(): Promise<void> {
  const { url } = JSON.parse(readFileSync(join(dataFolder, 'holder.json'), 'utf8')) as { url: string };
  const asked = async (path: string, init?: RequestInit) => {
    const response = await fetch(new URL(path, url), init).catch(() => null);
    if (response?.ok && response.body) return response;
    const problem = (await response?.json().catch(() => null)) as { detail?: string } | null;
    throw new Refusal('not-answered', problem?.detail ?? `Frustum has the data folder, and does not answer at ${url}. Stop it, then try again.`); // prettier-ignore
  };
  const { name } = (await (await asked('/api/backups', { method: 'POST' })).json()) as { name: string };
  const { body } = await asked(`/api/backups/${name}/backup.tar`);
  await written(name, Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]));
}

/** A half file never stands under the name of a whole one. */
async function written(name: string, stream: Readable): Promise<void> {
  const file = resolve(from, wanted ?? `frustum-${name}.tar`);
  if (existsSync(file)) throw new Refusal('file-exists', `${file} is there already. Give another name, or remove it.`);
  const part = `${file}.part`;
  try {
    await pipeline(stream, createWriteStream(part, { mode: 0o600, flush: true }));
    await rename(part, file);
    flushed(dirname(file));
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  say(`The backup is in ${file}. Bring it to another machine.`);
}

function say(sentence: string): void {
  process.stdout.write(`${sentence}\n`);
}

main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Refusal ? error.message : errorOf(error).stack}\n`);
  process.exit(1);
});
